#include "app/pages/tryout_page.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/mark.h"
#include "app/widgets/ui.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

using namespace standins::table;

TryoutPage::TryoutPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    view_ = new TryoutView;
    view_->setObjectName("tryoutView");
    layout->addWidget(view_, 1);
    auto* onView = new QVBoxLayout(view_);
    onView->setContentsMargins(14, 14, 14, 14);
    onView->addStretch(1);
    tools_ = new QWidget;
    auto* row = new QHBoxLayout(tools_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    const auto act = [&](const QString& name, const QString& text, const QString& tip,
                         void (TryoutView::*action)()) {
        auto* made = button(text);
        made->setObjectName(name);
        made->setToolTip(tip);
        connect(made, &QPushButton::clicked, view_, action);
        row->addWidget(made);
    };
    act("tryBase", tr("Base to base"), tr("Two figures, collider to collider"), &TryoutView::baseToBase);
    act("tryDrop", tr("Drop"), tr("One figure from 3 u, a little tipped"), &TryoutView::drop);
    act("tryStack", tr("Stack"), tr("One figure on another"), &TryoutView::stack);
    act("tryKnock", tr("Knock over"), tr("A push at the top"), &TryoutView::knockOver);
    act("tryCopy", tr("Add a copy"), tr("One more figure from 1 u"), &TryoutView::addCopy);
    auto* own = new QComboBox;
    own->setObjectName("tryCollider");
    own->setAccessibleName(tr("Collider"));
    own->addItem(tr("with its collider"));
    own->addItem(tr("with the default box"));
    connect(own, &QComboBox::activated, this, [this](int index) {
        view_->setCollider(index == 0 ? ColliderKind::Own : ColliderKind::DefaultBox);
    });
    row->addWidget(own);
    auto* shown = new QToolButton;
    shown->setText(tr("Show colliders"));
    shown->setCheckable(true);
    shown->setChecked(true);
    shown->setProperty("mode", true);
    connect(shown, &QToolButton::toggled, this, [this](bool on) {
        view_->showColliders = on;
        view_->update();
    });
    row->addWidget(shown);
    finish_ = new QComboBox;
    finish_->setObjectName("tryFinish");
    finish_->setAccessibleName(tr("Finish"));
    finish_->addItems({"matte", "satin", "gloss", "wood"});
    connect(finish_, &QComboBox::textActivated, view_, &TryoutView::setFinish);
    row->addWidget(finish_);
    row->addStretch(1);
    onView->addWidget(tools_);

    auto* panel = new QWidget;
    panel->setObjectName("sidePanel");
    panel->setAttribute(Qt::WA_StyledBackground);
    panel->setFixedWidth(336);
    auto* panelLayout = new QVBoxLayout(panel);
    panelLayout->setContentsMargins(16, 16, 6, 8);
    side_ = scrolled(panel, panelLayout);
    side_->setContentsMargins(0, 0, 10, 0);
    side_->setSpacing(8);
    layout->addWidget(panel);
    connect(view_, &TryoutView::viewFailed, &session_, &Session::said);
}

void TryoutPage::load(const QString& folder) {
    ready_ = false;
    clearLayout(side_);
    side_->addWidget(textLabel(tr("The table is loading the files and trying them…"), "dim"));
    side_->addStretch(1);
    view_->setMessage(tr("Loading %1").arg(folder));
    session_.jobs().start<Loaded>(
        tr("Trying on the table"), this,
        [folder](const Progress& progress) {
            Loaded loaded;
            progress.report(0.1, "loading the delivered files");
            if (auto figure = loadFigure(folder.toStdString(), loaded.report)) {
                loaded.figure = std::make_shared<const Figure>(std::move(*figure));
                progress.report(0.4, "testing with its collider");
                loaded.own = measure(*loaded.figure, ColliderKind::Own);
                progress.report(0.7, "testing with the default box");
                loaded.box = measure(*loaded.figure, ColliderKind::DefaultBox);
            }
            return loaded;
        },
        [this](const Loaded& loaded) { show(loaded); },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, 20);
}

void TryoutPage::show(const Loaded& loaded) {
    clearLayout(side_);
    const bool accepted = loaded.report.accepted;
    auto* verdict = headingLabel(accepted ? tr("Accepted by the table") : tr("Refused by the table"), 1);
    restyle(verdict, accepted ? "good" : "bad", true);
    side_->addWidget(verdict);
    side_->addWidget(textLabel(tr("its own reader, its own limits; only the delivered files"), "dim"));
    for (const auto& message : loaded.report.messages) {
        side_->addWidget(line());
        using Kind = standins::Message::Kind;
        const Mark mark = message.kind == Kind::Fine  ? Mark::Fits
                          : message.kind == Kind::Odd ? Mark::Tight
                                                      : Mark::Broken;
        side_->addLayout(markRow(
            mark, message.file.empty() ? qs(message.text) : tr("%1: %2").arg(qs(message.file), qs(message.text)),
            qs(message.detail)));
    }
    const auto table = [&](const QString& title,
                           const std::vector<std::tuple<QString, QString, QString, bool>>& rows) {
        auto* card = new QFrame;
        card->setProperty("card", true);
        auto* grid = new QGridLayout(card);
        grid->setContentsMargins(13, 10, 13, 12);
        grid->setVerticalSpacing(6);
        grid->addWidget(headingLabel(title, 2), 0, 0);
        int column = 1;
        for (const QString& head : {tr("yours"), tr("default box")}) {
            auto* label = textLabel(head, "dim");
            label->setAlignment(Qt::AlignRight);
            label->setWordWrap(false);
            grid->addWidget(label, 0, column++);
        }
        int line = 1;
        for (const auto& [name, yours, box, bad] : rows) {
            grid->addWidget(textLabel(name), line, 0);
            for (const auto& [value, at] : {std::pair{yours, 1}, {box, 2}}) {
                auto* label = textLabel(value, bad && at == 2 ? "bad" : nullptr);
                label->setWordWrap(false);
                label->setAlignment(Qt::AlignRight);
                label->setFont(Theme::instance().text(13, 600));
                grid->addWidget(label, line, at);
            }
            ++line;
        }
        grid->setColumnStretch(0, 1);
        side_->addWidget(card);
    };
    if (loaded.figure) {
        const auto u = [](double v) { return qs(showNumber(v, 2)) + " u"; };
        const Measured &a = loaded.own, &b = loaded.box;
        table(tr("Base to base"), {{tr("gap between feet"), u(a.sideBySideGap), u(b.sideBySideGap),
                                    b.sideBySideGap > a.sideBySideGap + 0.1},
                                   {tr("gap to the table"), u(a.gapToFloor), u(b.gapToFloor), false}});
        table(tr("Drop from 3 u"), {{tr("stays upright"), tr("%1 of %2").arg(a.uprightDrops).arg(a.drops),
                                     tr("%1 of %2").arg(b.uprightDrops).arg(b.drops), false},
                                    {tr("comes to rest in"), qs(showSeconds(a.restSeconds)),
                                     qs(showSeconds(b.restSeconds)), false}});
        table(tr("One on another"),
              {{tr("upper one stands at"), a.stackHeight > 0 ? u(a.stackHeight) : tr("falls"),
                b.stackHeight > 0 ? u(b.stackHeight) : tr("falls"), false}});
        finish_->setCurrentText(qs(loaded.figure->finish));
        if (!loaded.figure->credit.empty())
            side_->addWidget(textLabel(tr("Credit: %1").arg(qs(loaded.figure->credit)), "dim"));
    }
    side_->addStretch(1);
    tools_->setVisible(loaded.figure != nullptr);
    view_->setFigure(loaded.figure);
    view_->setMessage(
        loaded.figure
            ? tr("Loaded from the delivered folder: %1 files, %2. Drag a figure up, let go to drop it.")
                  .arg(loaded.figure->files)
                  .arg(qs(showBytes(double(loaded.figure->bytes))))
            : tr("The table refused the files; see why on the right."));
    ready_ = true;
}

} // namespace zl::app
