#include "app/pages/try_on.h"

#include "app/fields/choice_box.h"
#include "app/qt_image.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include "core/base/file_set.h"
#include "core/files/resource_files.h"
#include "core/files/terms.h"
#include "core/formats/format.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_format.h"

#include <QFileDialog>
#include <QLabel>
#include <QPushButton>
#include <QTemporaryDir>
#include <QVBoxLayout>

namespace zl::app {

using files::ResourceKind;

namespace {

constexpr int wide = 296, high = 190;

/// The geometry at `row` with everything that it refers to, as it stands in memory: a package of its own is
/// written for the reader, which knows files only.
QImage lookOf(const package::Package& package, std::size_t row, bool dusk, const Progress& progress) {
    const QTemporaryDir folder;
    if (!folder.isValid()) throw Error("no folder for a moment can be made", folder.path().toStdString());
    const std::filesystem::path file = folder.filePath("tried.rowpackage").toStdString();
    writeFile(file, bytesOf(package));
    const files::ResourceFiles held(file, files::termsOf(file).limits);
    const auto inside = held.find({}, textOf(package.resources[row].key));
    if (!inside) throw Error("is not found in its package", package.resources[row].name);
    const Model model = formats::readModel(file / *inside, progress.between(0, 0.5));
    render::SnapshotOptions options;
    options.width = wide, options.height = high, options.dusk = dusk;
    return imageOf(render::snapshot(model, options, progress.between(0.5, 1)));
}

} // namespace

TryOn::TryOn(Session& session, const PackageRows& rows, QWidget* parent)
    : QWidget(parent), session_(session), rows_(rows) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    look_ = new QLabel;
    look_->setObjectName("tryOnLook");
    look_->setFixedHeight(high);
    look_->setAlignment(Qt::AlignCenter);
    layout->addWidget(look_);
    layout->addWidget(headingLabel(tr("Try on another picture"), 2));
    list_ = new QVBoxLayout;
    list_->setSpacing(6);
    layout->addLayout(list_);
    words_ = textLabel({}, "dim");
    words_->setObjectName("tryOnWords");
    layout->addWidget(words_);
    assign_ = button(tr("Assign for good"), nullptr, "check");
    assign_->setObjectName("tryOnAssign");
    assign_->setToolTip(tr("Puts it into the package; nothing is written before you save"));
    layout->addWidget(assign_);
    connect(assign_, &QPushButton::clicked, this, &TryOn::assign);
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        if (row_ >= 0) draw();
    });
    hide();
}

void TryOn::show(int row) {
    row_ = row;
    setVisible(row >= 0);
    tried_.clear();
    groups_.clear();
    clearLayout(list_);
    look_->setPixmap({});
    words_->hide();
    assign_->setEnabled(false);
    if (row < 0) return;
    try {
        groups_ = wornGroups(rows_.package(), rows_.resource(row));
    } catch (const Error& error) {
        return look_->setText(breakable(qs(error.sentence())));
    }
    constexpr std::size_t most = 24;
    for (std::size_t i = 0; i < std::min(groups_.size(), most); ++i) addGroup(i);
    draw();
}

void TryOn::addGroup(std::size_t group) {
    const package::WornGroup& worn = groups_[group];
    const auto& resources = rows_.package().resources;
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(8);
    auto* box = new ChoiceBox;
    box->setObjectName(QString("tryOn-%1").arg(group));
    box->setAccessibleName(tr("Picture of %1").arg(qs(worn.name)));
    box->setEnabled(worn.material.has_value());
    box->addItem(worn.colour     ? qs(resources[*worn.colour].name)
                 : worn.material ? tr("no picture")
                                 : tr("no material"));
    std::vector<std::size_t> pictures;
    for (std::size_t i = 0; i < resources.size(); ++i)
        if (resources[i].key.is(ResourceKind::Picture) && i != worn.colour) pictures.push_back(i);
    for (const std::size_t picture : pictures) box->addItem(qs(resources[picture].name));
    const int file = box->count();
    box->addItem(tr("A file…"));
    connect(box, &QComboBox::activated, this, [this, box, worn, pictures, file](int index) {
        const package::Package& package = rows_.package();
        try {
            if (index == 0) {
                tried_.erase(*worn.material);
                if (worn.colour) tried_.erase(*worn.colour);
            } else if (index < file) {
                const std::size_t picture = pictures[std::size_t(index) - 1];
                wear(*worn.material,
                     withColour(package.resources[*worn.material], package.resources[picture].key));
            } else {
                const QString chosen = QFileDialog::getOpenFileName(
                    window(), tr("Choose a picture"), {}, tr("Pictures (*.png *.jpg *.jpeg *.dds)"));
                if (chosen.isEmpty()) return box->setCurrentIndex(0);
                if (!worn.colour)
                    throw Error("has no picture whose place it could take", worn.name,
                                "Choose one of the package's first.");
                const std::string bytes = readText(chosen.toStdString(), 64u << 20);
                if (!texture::pictureFormatOf(bytes)) throw Error("is no picture", chosen.toStdString());
                tried_.erase(*worn.material);
                wear(*worn.colour, bytes);
            }
        } catch (const Error& error) {
            box->setCurrentIndex(0);
            Q_EMIT session_.said(qs(error.whole()));
        }
        draw();
    });
    auto* name = new ElidedLabel(qs(worn.name));
    line->addWidget(name, 2);
    line->addWidget(box, 3);
    list_->addWidget(row);
}

void TryOn::wear(std::size_t resource, std::string bytes) {
    tried_[resource] = std::move(bytes);
    long others = -1; // the group itself
    for (const package::WornGroup& group : groups_)
        others += group.material == resource || group.colour == resource;
    words_->setText(others > 0 ? tr("%1 of it wear the same and change too.")
                                     .arg(qs(showCount(others, "other group", "other groups")))
                               : QString());
    words_->setVisible(others > 0);
}

void TryOn::draw() {
    assign_->setEnabled(!tried_.empty());
    if (tried_.empty()) words_->hide();
    package::Package tried = rows_.package();
    for (const auto& [resource, bytes] : tried_)
        tried.resources[resource].bytes = std::make_shared<const std::string>(bytes);
    if (drawing_) drawing_->cancel();
    drawing_ = session_.jobs().start<QImage>(
        tr("Drawing %1").arg(qs(rows_.resource(row_).name)), this,
        [tried, row = std::size_t(row_), dusk = Theme::instance().isDusk()](const Progress& progress) {
            return lookOf(tried, row, dusk, progress);
        },
        [this, row = row_](const QImage& image) {
            if (row == row_) look_->setPixmap(QPixmap::fromImage(image));
        },
        [this, row = row_](const QString& problem) {
            if (row == row_) look_->setText(breakable(problem));
        },
        Urgency::Shown);
}

void TryOn::assign() {
    const auto tried = std::exchange(tried_, {});
    for (const auto& [resource, bytes] : tried) Q_EMIT assigned(int(resource), bytes);
}

} // namespace zl::app
