#include "app/widgets/top_bar.h"

#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

namespace zl::app {

namespace {

QPushButton* homeButton() {
    auto* home = button("", "quiet");
    home->setObjectName("home");
    home->setAccessibleName(QObject::tr("Loom"));
    home->setToolTip(QObject::tr("To the Loom (Ctrl+0)"));
    auto* brand = new QLabel(home);
    brand->setAttribute(Qt::WA_TransparentForMouseEvents);
    const auto paint = [brand] {
        brand->setText(QString("zest<span style='color:%1'>·</span>loom").arg(tokens().zest.name()));
    };
    paint();
    QObject::connect(&Theme::instance(), &Theme::changed, brand, paint);
    brand->setFont(Theme::instance().heading(18));
    brand->move(4, 4);
    brand->adjustSize();
    home->setFixedSize(brand->sizeHint().width() + 12, 32);
    return home;
}

} // namespace

TopBar::TopBar(QWidget* parent) : QWidget(parent) {
    setObjectName("topBar");
    setAttribute(Qt::WA_StyledBackground);
    setFixedHeight(48);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 0, 14, 0);
    layout->setSpacing(9);
    home_ = homeButton();
    layout->addWidget(home_);
    connect(home_, &QPushButton::clicked, this, &TopBar::homeAsked);
    crumbs_ = textLabel("");
    crumbs_->setWordWrap(false);
    crumbs_->setTextFormat(Qt::RichText);
    crumbs_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    crumbs_->installEventFilter(this);
    layout->addWidget(crumbs_, 1);
    const auto add = [&](const char* name, const QString& text, const char* kind, const char* icon,
                         const QString& tip, void (TopBar::*asked)()) {
        auto* made = button(text, kind, icon);
        made->setObjectName(name);
        made->setToolTip(tip);
        layout->addWidget(made);
        connect(made, &QPushButton::clicked, this, asked);
        return made;
    };
    find_ = add("find", tr("Find a piece, step or command…"), nullptr, "search", tr("Find anything (Ctrl+K)"),
                &TopBar::findAsked);
    bring_ = add("bringIn", tr("Bring in…"), nullptr, "plus", tr("Bring models in (Ctrl+I)"),
                 &TopBar::bringInAsked);
    undo_ = add("undo", tr("Undo"), nullptr, "undo-2", {}, &TopBar::undoAsked);
    setUndo({});
    buildAll_ =
        add("buildAll", tr("Build all that fit"), "main", "hammer",
            tr("Write the files of every crossing that fits; unchanged ones are left alone (Ctrl+Shift+B)"),
            &TopBar::buildAllAsked);
    suggest_ = add("suggest", tr("Suggest a fit"), nullptr, "wand-sparkles",
                   tr("Steps that make every limit hold (Ctrl+G)"), &TopBar::suggestAsked);
    build_ = add("build", tr("Build"), "main", "hammer", tr("Write the platform's files (Ctrl+B)"),
                 &TopBar::buildAsked);
    try_ = add("try", tr("Try it"), "strong", "play", tr("Build, then try the files in the stand-in (F5)"),
               &TopBar::tryAsked);
    back_ = add("back", tr("Back to the workbench"), nullptr, nullptr, tr("Back to the workbench (Esc)"),
                &TopBar::backAsked);
    again_ = add("again", tr("Deliver again"), "main", "rotate-ccw", tr("Build and load once more (F5)"),
                 &TopBar::tryAsked);
    auto* settings = iconButton("settings", tr("Settings (Ctrl+,)"));
    settings->setObjectName("settingsButton");
    layout->addWidget(settings);
    connect(settings, &QAbstractButton::clicked, this, &TopBar::settingsAsked);
}

void TopBar::setPlace(const Place& place) {
    place_ = place;
    const bool loom = place.page == Page::Loom, bench = place.page == Page::Workbench,
               trying = place.page == Page::Tryout;
    home_->setEnabled(place.page != Page::Start || place.hasProject);
    find_->setVisible(!trying);
    bring_->setVisible(loom);
    undo_->setVisible(loom || bench);
    buildAll_->setVisible(loom);
    suggest_->setVisible(bench);
    build_->setVisible(bench && place.canBuild);
    try_->setVisible(bench && place.canTry);
    back_->setVisible(trying);
    again_->setVisible(trying);
    showCrumbs();
}

void TopBar::setUndo(const QString& what) {
    undo_->setEnabled(!what.isEmpty());
    undo_->setToolTip(what.isEmpty() ? tr("Nothing to undo (Ctrl+Z)") : tr("Undo: %1 (Ctrl+Z)").arg(what));
}

void TopBar::setCanBuildAll(bool can) {
    buildAll_->setEnabled(can);
}

void TopBar::showCrumbs() {
    const QString dim = tokens().dim.name();
    QFont strong = crumbs_->font();
    strong.setBold(true);
    const QFontMetrics plain(crumbs_->font()), bold(strong);
    int room = crumbs_->width();
    const auto fitted = [](const QFontMetrics& letters, const QString& text, int width) {
        return letters.elidedText(text, Qt::ElideMiddle, width).toHtmlEscaped();
    };
    if (place_.page == Page::Start) return crumbs_->clear();
    if (place_.page == Page::Loom)
        return crumbs_->setText(
            QString("<span style='color:%1'>%2</span>").arg(dim, fitted(plain, place_.project, room)));
    const QString on = place_.page == Page::Tryout ? tr("trial on")
                       : place_.page == Page::Game ? tr("in the game")
                                                   : tr("on");
    if (place_.page == Page::Contents) {
        const QString before = place_.hasProject ? place_.project + "  /  " : QString();
        return crumbs_->setText(
            QString("<span style='color:%1'>%2</span><b>%3</b>")
                .arg(dim, before.toHtmlEscaped(),
                     fitted(bold, place_.piece, std::max(40, room - plain.horizontalAdvance(before)))));
    }
    room -= plain.horizontalAdvance("  " + on) + 8;
    // Where there is little room, the project's name is the first to go, then the longer of the two others.
    const int piece = bold.horizontalAdvance(place_.piece),
              platform = bold.horizontalAdvance(place_.platform);
    QString project = place_.project + "  /  ";
    if (plain.horizontalAdvance(project) + piece + platform > room) project.clear();
    const int share = std::max({room / 2, room - platform, 40}),
              rest = std::max({room / 2, room - piece, 40});
    crumbs_->setText(
        QString("<span style='color:%1'>%2</span><b>%3</b> <span style='color:%1'>%4</span> <b>%5</b>")
            .arg(dim, project.toHtmlEscaped(), fitted(bold, place_.piece, share), on,
                 fitted(bold, place_.platform, rest)));
    crumbs_->setToolTip(project.isEmpty() ? place_.project : QString());
}

bool TopBar::eventFilter(QObject* watched, QEvent* event) {
    if (watched == crumbs_ && event->type() == QEvent::Resize) showCrumbs();
    return QWidget::eventFilter(watched, event);
}

} // namespace zl::app
