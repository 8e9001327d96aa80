#include "app/pages/item_panel.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/catalogue/take_out_as.h"
#include "core/project/project.h"

#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

namespace zl::app {

ItemPanel::ItemPanel(const CatalogueList& list, QWidget* parent) : QWidget(parent), list_(list) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(9);
    name_ = headingLabel({}, 1);
    name_->setObjectName("itemName");
    layout->addWidget(name_);
    picture_ = new QLabel;
    picture_->setFixedHeight(164);
    picture_->setAlignment(Qt::AlignCenter);
    layout->addWidget(picture_);
    facts_ = textLabel({});
    facts_->setObjectName("itemFacts");
    layout->addWidget(facts_);
    asked_ = textLabel({}, "warn");
    asked_->setObjectName("itemAskFirst");
    layout->addWidget(asked_);
    layout->addStretch(1);
    hint_ = textLabel(tr("Called"), "dim");
    layout->addWidget(hint_);
    called_ = new QLineEdit(QSettings().value("itemPattern", "{title}").toString());
    called_->setObjectName("itemCalled");
    called_->setAccessibleName(tr("Called"));
    called_->setToolTip(
        tr("A name, or a pattern: {title}, {item} (the code without its prefix), {code}, {pack}, "
           "{number}"));
    layout->addWidget(called_);
    preview_ = textLabel({}, "dim");
    preview_->setObjectName("itemPreview");
    layout->addWidget(preview_);
    pieces_ = button({}, "main", "plus");
    pieces_->setObjectName("itemPieces");
    pieces_->setToolTip(
        tr("Adds them to the project with maker, pack, licence and permission. They stay linked to "
           "the catalogue (Enter)"));
    folder_ = button({}, nullptr, "folder-open");
    folder_->setObjectName("itemFolder");
    folder_->setToolTip(tr("Writes each as a package of its own; nothing there is written over"));
    putOn_ = button(tr("Put on"), nullptr, "user-round");
    putOn_->setObjectName("itemPutOn");
    putOn_->setToolTip(
        tr("Makes pieces of them and puts them on a figure of the project: worn ones on the bone "
           "that their entry names, loose ones beside it"));
    figures_ = new QMenu(putOn_);
    layout->addWidget(pieces_);
    layout->addWidget(putOn_);
    layout->addWidget(folder_);
    connect(putOn_, &QPushButton::clicked, this, [this] {
        const auto figures = figures_->actions();
        if (figures.size() == 1) return figures[0]->trigger();
        figures_->popup(putOn_->mapToGlobal(QPoint(0, putOn_->height())));
    });
    connect(called_, &QLineEdit::textChanged, this, &ItemPanel::showNames);
    connect(called_, &QLineEdit::editingFinished, this, [this] {
        if (pattern().contains('{')) QSettings().setValue("itemPattern", pattern());
    });
    connect(called_, &QLineEdit::returnPressed, this, &ItemPanel::piecesAsked);
    connect(pieces_, &QPushButton::clicked, this, &ItemPanel::piecesAsked);
    connect(folder_, &QPushButton::clicked, this, &ItemPanel::folderAsked);
}

void ItemPanel::setFigures(const std::vector<std::string>& figures) {
    figures_->clear();
    for (const std::string& figure : figures)
        connect(figures_->addAction(qs(figure)), &QAction::triggered, this,
                [this, figure] { Q_EMIT putOnAsked(figure); });
    putOn_->setVisible(!figures.empty());
    putOn_->setText(figures.size() == 1 ? tr("Put on %1").arg(qs(figures[0])) : tr("Put on…"));
}

QString ItemPanel::pattern() const {
    return called_->text();
}

void ItemPanel::show(std::vector<std::uint32_t> chosen) {
    if (chosen != chosen_) model_.clear();
    chosen_ = std::move(chosen);
    showFacts();
    showNames();
}

void ItemPanel::setModel(std::uint32_t place, const QString& words) {
    if (chosen_.size() != 1 || chosen_[0] != place) return;
    model_ = words;
    showFacts();
}

std::vector<std::string> ItemPanel::names() const {
    std::vector<const catalogue::Entry*> entries;
    for (const std::uint32_t place : chosen_) entries.push_back(&list_.entryOf(place));
    std::vector<std::string> prefixes;
    for (const platform::Prefix& prefix : list_.legend()) prefixes.push_back(prefix.code);
    return catalogue::namesBy(pattern().toStdString(), entries, prefixes);
}

void ItemPanel::showFacts() {
    picture_->hide(), asked_->hide();
    if (chosen_.empty()) {
        name_->setText(tr("Nothing chosen"));
        return facts_->setText(tr("Choose the items to take out. Several at once with Ctrl or Shift."));
    }
    std::set<std::string> makers;
    for (const std::uint32_t place : chosen_)
        if (list_.entryOf(place).permission == "ask-first") makers.insert(list_.entryOf(place).maker);
    QStringList names;
    for (const std::string& maker : makers) names << (maker.empty() ? tr("its maker") : qs(maker));
    asked_->setText(tr("Ask %1 before you publish; named in everything made with it.").arg(names.join(", ")));
    asked_->setVisible(!makers.empty());
    QString facts;
    if (chosen_.size() > 1) {
        name_->setText(qs(showCount(long(chosen_.size()), "item chosen", "items chosen")));
        std::map<std::string, int> packs;
        for (const std::uint32_t place : chosen_) ++packs[list_.entryOf(place).pack];
        int most = 8;
        for (auto at = packs.begin(); at != packs.end() && most > 0; ++at, --most)
            facts += factRow(qs(at->first), qs(showNumber(at->second, 0)));
        return facts_->setText("<table cellspacing='3'>" + facts + "</table>");
    }
    const catalogue::Entry& entry = list_.entryOf(chosen_[0]);
    name_->setText(breakable(qs(entry.title)));
    showPicture();
    const platform::Prefix* prefix = list_.prefixOf(entry);
    facts += factRow(tr("Code"), qs(entry.code));
    facts += factRow(tr("For"), prefix ? qs(prefix->means) : tr("not said"));
    if (!model_.isEmpty()) facts += factRow(tr("Model"), model_);
    if (!entry.pack.empty()) facts += factRow(tr("Pack"), qs(entry.pack));
    if (!entry.place.empty()) facts += factRow(tr("Worn"), qs(entry.place));
    facts += factRow(tr("Maker"), entry.isOthersWork() ? qs(entry.maker) : tr("the game"));
    if (!entry.link.empty()) facts += factRow(tr("Found at"), qs(entry.link));
    if (!entry.licence.empty()) facts += factRow(tr("Licence"), qs(entry.licence));
    facts_->setText("<table cellspacing='3'>" + facts + "</table>");
}

void ItemPanel::showPicture() {
    const QModelIndex at = chosen_.size() == 1 ? list_.rowOf(chosen_[0]) : QModelIndex();
    const auto picture = at.isValid() ? at.data(Qt::DecorationRole).value<QPixmap>() : QPixmap();
    if (!picture.isNull())
        picture_->setPixmap(picture.scaled(QSize(296, 164), Qt::KeepAspectRatio, Qt::SmoothTransformation));
    picture_->setVisible(!picture.isNull());
}

void ItemPanel::showNames() {
    const bool any = !chosen_.empty();
    for (QWidget* widget :
         {static_cast<QWidget*>(hint_), static_cast<QWidget*>(called_), static_cast<QWidget*>(preview_)})
        widget->setVisible(any);
    pieces_->setEnabled(any), folder_->setEnabled(any), putOn_->setEnabled(any);
    pieces_->setText(any ? tr("Make %1").arg(qs(showCount(long(chosen_.size()), "piece", "pieces")))
                         : tr("Make pieces"));
    folder_->setText(tr("Take out into a folder…"));
    if (!any) return;
    QStringList lines;
    constexpr qsizetype most = 4;
    const auto called = names();
    for (const std::string& name : called) {
        if (lines.size() == most) {
            lines << tr("and %1 more").arg(called.size() - std::size_t(most));
            break;
        }
        lines << qs(name);
    }
    preview_->setText(breakable(lines.join("\n")));
    preview_->setVisible(chosen_.size() > 1 || lines[0] != pattern());
}

} // namespace zl::app
