#include "app/pages/loom_page.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include <array>
#include <set>

#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>

namespace zl::app {

namespace {

/// A limit as something that is wanted: "of 40 000" is "at most 40 000".
QString wanted(const std::string& limit) {
    return limit.starts_with("of ") ? QObject::tr("at most %1").arg(qs(limit.substr(3))) : qs(limit);
}

} // namespace

LoomPage::LoomPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    auto* left = new QVBoxLayout;
    left->setContentsMargins(18, 16, 6, 8);
    layout->addLayout(left, 1);
    auto* inner = scrolled(this, left, true); // a project may have any number of platforms
    inner->setContentsMargins(0, 0, 12, 0);
    table_ = new LoomTable(session_);
    inner->addWidget(table_);
    connect(findChild<QScrollArea*>()->horizontalScrollBar(), &QScrollBar::valueChanged, table_,
            &LoomTable::keepNamesAt);
    inner->addStretch(1);
    auto* foot = new QHBoxLayout;
    foot->setContentsMargins(0, 6, 12, 4);
    unfit_ = textLabel({}, "dim");
    unfit_->setObjectName("unfit");
    foot->addWidget(unfit_, 1);
    suggest_ = button(tr("Suggest for all"), nullptr, "wand-sparkles");
    suggest_->setObjectName("suggestAll");
    suggest_->setToolTip(tr("Look for a fit of everything that does not fit (Ctrl+Shift+G)"));
    foot->addWidget(suggest_);
    left->addLayout(foot);
    suggestAll_ = new SuggestAll(session_, this);
    connect(suggest_, &QPushButton::clicked, this, &LoomPage::suggestForAll);
    connect(suggestAll_, &SuggestAll::changed, this, &LoomPage::refreshFoot);
    connect(suggestAll_, &SuggestAll::done, this, &LoomPage::showSummary);

    panel_ = new QWidget;
    panel_->setObjectName("sidePanel");
    panel_->setAttribute(Qt::WA_StyledBackground);
    auto* panelLayout = new QVBoxLayout(panel_);
    panelLayout->setContentsMargins(16, 16, 8, 12);
    side_ = scrolled(panel_, panelLayout);
    side_->setContentsMargins(0, 0, 8, 0);
    side_->setSpacing(8);
    layout->addWidget(panel_);

    footTimer_.setSingleShot(true); // hundreds of crossings may change in one go, and it counts them all
    footTimer_.setInterval(100);
    connect(&footTimer_, &QTimer::timeout, this, &LoomPage::refreshFoot);
    connect(table_, &LoomTable::chosen, this, &LoomPage::select);
    connect(table_, &LoomTable::opened, this, &LoomPage::openAsked);
    connect(table_, &LoomTable::bringInAsked, this, &LoomPage::bringInAsked);
    connect(table_, &LoomTable::platformsAsked, this, &LoomPage::platformsAsked);
    connect(&session_, &Session::projectChanged, this, &LoomPage::rebuild);
    connect(&session_, &Session::crossingChanged, this,
            [this](const QString& piece, const QString& platform) {
                if (piece == piece_ && platform == platform_ && !summarising_) showSide();
                if (!footTimer_.isActive()) footTimer_.start();
            });
    connect(&session_, &Session::pieceRenamed, this, [this](const QString& from, const QString& to) {
        if (piece_ == from) piece_ = to;
    });
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        table_->forgetPictures();
        rebuild();
    });
}

void LoomPage::resizeEvent(QResizeEvent*) {
    panel_->setFixedWidth(width() < 1200 ? 268 : 300); // leaves room for the platforms that ship
}

void LoomPage::rebuild() {
    if (!session_.isOpen()) return;
    const auto& project = session_.project();
    table_->rebuild();
    if (piece_.isEmpty() || !project.piece(piece_.toStdString())) {
        piece_ = project.pieces.empty() ? QString() : qs(project.pieces.front().name);
        platform_.clear();
    }
    if (std::ranges::count(project.platforms, platform_.toStdString()) == 0)
        platform_ = project.platforms.empty() ? QString() : qs(project.platforms.front());
    select(piece_, platform_);
    refreshFoot();
}

void LoomPage::refreshFoot() {
    std::size_t checked = 0;
    const auto& project = session_.project();
    for (const auto& piece : project.pieces)
        for (const auto& id : project.platforms)
            checked += session_.state(piece.name, id).kind == CrossingState::Kind::Ready;
    const auto unfit = SuggestAll::unfit(session_).size();
    unfit_->setText(suggestAll_->isRunning() ? tr("Looking for fits…")
                    : unfit > 0              ? tr("%1 of %2 do not fit.").arg(unfit).arg(checked)
                    : checked > 0            ? tr("Everything that is checked fits.")
                                             : QString());
    suggest_->setEnabled(unfit > 0 && !suggestAll_->isRunning());
    suggest_->setVisible(!project.pieces.empty());
}

void LoomPage::select(const QString& piece, const QString& platform) {
    piece_ = piece;
    platform_ = platform;
    table_->select(piece, platform);
    summarising_ = false;
    showSide();
}

void LoomPage::showSide() {
    clearLayout(side_);
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    if (session_.project().platforms.empty()) {
        side_->addWidget(headingLabel(tr("No platform yet")));
        side_->addWidget(textLabel(tr("Pieces are checked against the platforms that you make for."), "dim"));
        auto* choose = button(tr("Choose platforms"), "main");
        choose->setObjectName("choosePlatforms");
        connect(choose, &QPushButton::clicked, this, &LoomPage::platformsAsked);
        side_->addWidget(choose, 0, Qt::AlignLeft);
        side_->addStretch(1);
        return;
    }
    if (!piece || !sheet) {
        side_->addWidget(textLabel(tr("Select a crossing to see what the platform says."), "dim"));
        side_->addStretch(1);
        return;
    }
    const auto& state = session_.state(piece->name, sheet->id);
    side_->addWidget(headingLabel(tr("%1 on %2").arg(piece_, qs(sheet->name))));
    auto* summary = textLabel("", "dim");
    side_->addWidget(summary);
    addSources(*piece);
    bool offer = false;
    if (!piece->on(sheet->id)) {
        summary->setText(tr("Not set up on this platform."));
    } else if (state.kind == CrossingState::Kind::Failed) {
        summary->setText(qs(state.problem));
        restyle(summary, "bad", true);
    } else if (state.kind == CrossingState::Kind::Stopped) {
        summary->setText(tr("Checking was stopped."));
        auto* again = button(tr("Check again"), "main", "rotate-ccw");
        again->setObjectName("checkAgain");
        again->setToolTip(tr("Go on with everything that was stopped"));
        connect(again, &QPushButton::clicked, &session_, &Session::resume);
        side_->addWidget(again, 0, Qt::AlignLeft);
    } else if (state.kind != CrossingState::Kind::Ready) {
        summary->setText(tr("Being checked…"));
    } else {
        const auto broken = state.report.brokenMusts();
        std::size_t advice = 0;
        for (const auto& rule : state.report.rules)
            advice += rule.state == platform::State::Broken && rule.severity == platform::Severity::Should;
        summary->setText(
            state.report.fits()
                ? (advice ? tr("Fits, with %1")
                                .arg(qs(showCount(long(advice), "piece of advice", "pieces of advice")))
                          : tr("Fits every limit of %1").arg(qs(sheet->name)))
                : tr("%1 broken").arg(qs(showCount(long(broken), "limit", "limits"))));
        offer = broken + advice > 0;
    }
    addActions(offer);
    if (state.kind == CrossingState::Kind::Ready)
        for (const auto& rule : state.report.rules) {
            if (rule.state == platform::State::Fits) continue;
            side_->addWidget(line());
            side_->addLayout(markRow(markOf(rule), qs(rule.finding.note),
                                     tr("Wants %1. %2").arg(wanted(rule.finding.limit), qs(rule.message)),
                                     true));
        }
    side_->addStretch(1);
}

void LoomPage::showSummary(const std::vector<SuggestAll::Line>& lines) {
    using Outcome = SuggestAll::Line::Outcome;
    clearLayout(side_);
    summarising_ = true;
    const auto fitted = std::ranges::count(lines, Outcome::Fitted, &SuggestAll::Line::outcome);
    side_->addWidget(headingLabel(tr("Suggested for all")));
    side_->addWidget(textLabel(
        fitted > 0 ? tr("%1 of %2 fit now. One undo takes all of it back.").arg(fitted).arg(lines.size())
                   : tr("None of %1 could be fitted.").arg(lines.size()),
        "dim"));
    for (const auto& line : lines) {
        side_->addWidget(zl::app::line());
        const QString name = tr("%1 on %2").arg(line.piece, line.platformName);
        const bool fits = line.outcome == Outcome::Fitted;
        side_->addLayout(markRow(fits                            ? Mark::Fits
                                 : line.outcome == Outcome::Asks ? Mark::Tight
                                                                 : Mark::Broken,
                                 name, line.words, true));
        if (fits) continue;
        auto* open = button(line.outcome == Outcome::Asks ? tr("Answer it") : tr("Look"), "quiet");
        connect(open, &QPushButton::clicked, this, [this, line] {
            if (line.outcome == Outcome::Asks)
                Q_EMIT suggestAsked(line.piece, line.platform);
            else
                Q_EMIT openAsked(line.piece, line.platform);
        });
        auto* below = new QHBoxLayout; // under the words, beside the mark
        below->setContentsMargins(13, 0, 0, 0);
        below->addWidget(open);
        below->addStretch(1);
        side_->addLayout(below);
    }
    side_->addStretch(1);
}

void LoomPage::addSources(const project::Piece& piece) {
    std::set<std::array<std::string, 3>> said; // sizes have one author, mostly
    for (const auto& source : piece.sources) {
        if (!said.insert(
                     {std::string(project::permissionName(source.permission)), source.author, source.licence})
                 .second)
            continue;
        const bool cleared = source.permission == project::Permission::OwnWork ||
                             source.permission == project::Permission::Allowed;
        const auto name = project::permissionName(source.permission);
        side_->addWidget(
            textLabel(tr("Permission: %1").arg(QString::fromUtf8(name.data(), qsizetype(name.size()))),
                      cleared ? "good" : "warn"));
        if (!source.author.empty())
            side_->addWidget(textLabel(
                tr("by %1%2").arg(qs(source.author), source.licence.empty() ? "" : ", " + qs(source.licence)),
                "dim"));
    }
}

void LoomPage::addActions(bool offer) {
    auto* actions = new QHBoxLayout;
    auto* suggest = button(tr("Suggest a fit"), offer ? "main" : nullptr, "wand-sparkles");
    suggest->setObjectName("loomSuggest");
    suggest->setVisible(offer);
    auto* open = button(tr("Open"), offer ? nullptr : "main");
    open->setObjectName("loomOpen");
    connect(suggest, &QPushButton::clicked, this, [this] { Q_EMIT suggestAsked(piece_, platform_); });
    connect(open, &QPushButton::clicked, this, [this] { Q_EMIT openAsked(piece_, platform_); });
    actions->addWidget(suggest);
    actions->addWidget(open);
    actions->addStretch(1);
    side_->addSpacing(4);
    side_->addLayout(actions);
    side_->addSpacing(4);
}

} // namespace zl::app
