#include "app/pages/resource_panel.h"

#include "app/pages/peek.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/base/utf8.h"

#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

ResourcePanel::ResourcePanel(Session& session, const PackageRows& rows, QWidget* parent)
    : QWidget(parent), rows_(rows) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    name_ = headingLabel({}, 1);
    name_->setObjectName("resourceName");
    layout->addWidget(name_);
    facts_ = textLabel({}, "dim");
    facts_->setObjectName("resourceFacts");
    layout->addWidget(facts_);
    links_ = textLabel({});
    links_->setObjectName("resourceLinks");
    links_->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    layout->addWidget(links_);
    connect(links_, &QLabel::linkActivated, this,
            [this](const QString& row) { Q_EMIT rowAsked(row.toInt()); });
    picture_ = new QLabel;
    picture_->setFixedHeight(180);
    picture_->setAlignment(Qt::AlignCenter);
    layout->addWidget(picture_);
    text_ = new QPlainTextEdit;
    text_->setObjectName("resourceText");
    text_->setReadOnly(true);
    text_->setLineWrapMode(QPlainTextEdit::WidgetWidth);
    layout->addWidget(text_, 1);
    tryOn_ = new TryOn(session, rows);
    layout->addWidget(tryOn_);
    connect(tryOn_, &TryOn::assigned, this, &ResourcePanel::assigned);
    layout->addStretch(0);
    piece_ = button(tr("Make a piece of it"), nullptr, "plus");
    piece_->setObjectName("resourcePiece");
    piece_->setToolTip(tr("Its shape, to be reshaped and delivered under names of your own (Enter)"));
    out_ = button(tr("Take out as a file…"), nullptr, "folder-open");
    out_->setObjectName("resourceOut");
    back_ = button(tr("Put a file in its place…"), nullptr, "rotate-ccw");
    back_->setObjectName("resourceBack");
    back_->setToolTip(tr("Byte for byte; nothing is written before you save"));
    for (QPushButton* made : {piece_, out_, back_}) layout->addWidget(made);
    connect(piece_, &QPushButton::clicked, this, &ResourcePanel::pieceAsked);
    connect(out_, &QPushButton::clicked, this, &ResourcePanel::takeOutAsked);
    connect(back_, &QPushButton::clicked, this, &ResourcePanel::putBackAsked);
    show(-1);
}

QString ResourcePanel::linksTo(const std::vector<std::size_t>& rows) const {
    QStringList out;
    constexpr qsizetype most = 12;
    for (const std::size_t row : rows) {
        if (out.size() == most) break;
        out << QString("<a href='%1' style='color:%2'>%3</a>")
                   .arg(row)
                   .arg(tokens().sea.name(), qs(rows_.resource(int(row)).name).toHtmlEscaped());
    }
    if (rows.size() > std::size_t(most)) out << tr("and %1 more").arg(rows.size() - std::size_t(most));
    return out.isEmpty() ? tr("nothing") : out.join(", ");
}

void ResourcePanel::show(int row) {
    row_ = row < rows_.rowCount() ? row : -1;
    const bool any = row_ >= 0;
    for (QWidget* widget : {static_cast<QWidget*>(facts_), static_cast<QWidget*>(links_),
                            static_cast<QWidget*>(out_), static_cast<QWidget*>(back_)})
        widget->setVisible(any);
    piece_->hide(), picture_->hide(), text_->hide();
    const bool geometry = any && rows_.resource(row_).key.is(files::ResourceKind::Geometry);
    tryOn_->show(geometry ? row_ : -1);
    if (!any) return name_->setText(tr("Nothing chosen"));
    const package::Resource& resource = rows_.resource(row_);
    name_->setText(breakable(qs(resource.name)));
    facts_->setText(tr("%1, %2, number %3")
                        .arg(qs(files::kindWord(resource.key.kind)),
                             qs(showBytes(double(resource.bytes->size()))),
                             QString::number(resource.key.number, 16).rightJustified(16, '0')));
    links_->setText(tr("Refers to %1.<br>Referred to by %2.")
                        .arg(linksTo(rows_.links()->refersTo(std::size_t(row_))),
                             linksTo(rows_.links()->referredBy(std::size_t(row_)))));
    piece_->setVisible(geometry);
    if (resource.key.is(files::ResourceKind::Picture)) {
        const QImage image = thumbnailFrom(*resource.bytes);
        picture_->setPixmap(QPixmap::fromImage(
            image.isNull() ? image : image.scaled(296, 180, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
        picture_->setVisible(!image.isNull());
    }
    if (package::isText(resource)) {
        constexpr std::size_t most = 20000;
        text_->setPlainText(qs(asUtf8(std::string_view(*resource.bytes).substr(0, most))));
        text_->show();
    }
}

} // namespace zl::app
