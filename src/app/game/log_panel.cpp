#include "app/game/log_panel.h"

#include "app/game/log_pattern_card.h"
#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/mark.h"
#include "app/widgets/ui.h"

#include "core/platform/sheet_known.h"
#include "core/steps/step.h"

#include <QClipboard>
#include <QFileDialog>
#include <QGuiApplication>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

namespace zl::app {

namespace {

constexpr std::size_t mostRows = 60; ///< of each kind that are shown

QString logSetting(const QString& platform) {
    return "log/" + platform;
}

} // namespace

LogPanel::LogPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(headingLabel(tr("The game's log"), 3));
    auto* choice = new QHBoxLayout;
    choice->setSpacing(10);
    auto* file = button(tr("Watch a file…"), nullptr, "folder-open");
    file->setObjectName("watchLog");
    file->setToolTip(tr("Reads the file that the game writes, and again whenever it changes"));
    auto* paste = button(tr("Paste"), nullptr, "clipboard");
    paste->setObjectName("pasteLog");
    stop_ = button(tr("Stop"), "quiet");
    stop_->setObjectName("stopLog");
    choice->addWidget(file);
    choice->addWidget(paste);
    watched_ = new ElidedLabel;
    watched_->setObjectName("watchedLog");
    choice->addWidget(watched_, 1);
    choice->addWidget(stop_);
    column->addLayout(choice);
    text_ = new QPlainTextEdit;
    text_->setObjectName("logText");
    text_->setAccessibleName(tr("Lines of the game's log"));
    text_->setPlaceholderText(tr("Lines of the game's log, as it writes them"));
    text_->setLineWrapMode(QPlainTextEdit::NoWrap);
    text_->setFixedHeight(96);
    column->addWidget(text_);
    pattern_ = new LogPatternCard;
    pattern_->hide();
    column->addWidget(pattern_);
    auto* rows = scrolled(this, column);
    rows->setContentsMargins(0, 0, 10, 0);
    rows_ = new QVBoxLayout;
    rows_->setSpacing(8);
    rows->addLayout(rows_);
    rows->addStretch(1);
    soon_.setSingleShot(true);
    soon_.setInterval(200);
    connect(&soon_, &QTimer::timeout, this, &LogPanel::read);
    connect(text_, &QPlainTextEdit::textChanged, &soon_, qOverload<>(&QTimer::start));
    connect(&disk_, &DiskWatch::changed, &soon_, qOverload<>(&QTimer::start));
    connect(file, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getOpenFileName(this, tr("The log that the game writes"), file_,
                                                            tr("Logs (*.log *.txt);;All files (*)"));
        if (!chosen.isEmpty()) watch(chosen);
    });
    connect(paste, &QPushButton::clicked, this, [this] { readText(QGuiApplication::clipboard()->text()); });
    connect(stop_, &QPushButton::clicked, this, [this] { watch({}); });
    connect(pattern_, &LogPatternCard::kept, this, &LogPanel::keep);
}

void LogPanel::open(const QString& platform) {
    platform_ = platform;
    pattern_->hide();
    {
        const QSignalBlocker quiet(text_);
        text_->clear();
    }
    watch(QSettings().value(logSetting(platform)).toString());
}

void LogPanel::watch(const QString& file) {
    file_ = file;
    disk_.clear();
    if (file.isEmpty())
        QSettings().remove(logSetting(platform_));
    else {
        QSettings().setValue(logSetting(platform_), file);
        disk_.watch({file.toStdString()});
    }
    watched_->setText(file.isEmpty() ? QString() : tr("watching %1").arg(file));
    stop_->setVisible(!file.isEmpty());
    text_->setVisible(file.isEmpty());
    read();
}

void LogPanel::readText(const QString& text) {
    if (!file_.isEmpty()) watch({});
    text_->setPlainText(text);
}

void LogPanel::read() {
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!sheet) return;
    if (reading_) {
        again_ = true;
        return;
    }
    reading_ = true;
    session_.jobs().start<Read>(
        tr("Reading the game's log"), this,
        [sheet, file = std::filesystem::path(file_.toStdString()),
         text = text_->toPlainText().toStdString()](const Progress&) {
            return Read{platform::readLog(file.empty() ? text : platform::endOfLog(file), *sheet), sheet};
        },
        [this](Read read) {
            reading_ = false, problem_.clear();
            read_ = std::move(read);
            show();
            if (std::exchange(again_, false)) this->read();
        },
        [this](const QString& problem) {
            reading_ = again_ = false, problem_ = problem;
            read_ = {};
            show();
        },
        Urgency::Asked, [this] { reading_ = false; });
}

void LogPanel::show() {
    clearLayout(rows_);
    if (!problem_.isEmpty()) return rows_->addWidget(textLabel(problem_, "bad"));
    if (read_.lines.empty())
        return rows_->addWidget(textLabel(
            file_.isEmpty()
                ? tr("Paste what the game wrote when it refused something, or watch the file that it writes. "
                     "Lines that the sheet knows are said in plain words here, with what mends them.")
                : tr("Nothing is in it yet. It is read as soon as the game writes something."),
            "dim"));
    // What is said over and over is one row: known lines by what they say, others by what of them stays.
    std::vector<std::pair<const platform::LogLine*, std::size_t>> known, others;
    std::map<std::string, std::pair<bool, std::size_t>> places;
    for (auto line = read_.lines.rbegin(); line != read_.lines.rend(); ++line) { // the newest first
        const bool isKnown = line->pattern != nullptr;
        const std::string key =
            isKnown ? line->says : platform::patternFor(line->text, platform::changingIn(line->text));
        auto& list = isKnown ? known : others;
        const auto [place, isNew] = places.try_emplace(key, isKnown, list.size());
        if (isNew)
            list.emplace_back(&*line, 1);
        else
            ++(place->second.first ? known : others)[place->second.second].second;
    }
    for (std::size_t i = 0; i < std::min(known.size(), mostRows); ++i)
        showKnown(*known[i].first, known[i].second);
    if (known.empty()) rows_->addWidget(textLabel(tr("The sheet knows none of these lines yet."), "dim"));
    if (others.empty()) return;
    rows_->addWidget(headingLabel(tr("Lines that it does not know"), 2));
    for (std::size_t i = 0; i < std::min(others.size(), mostRows); ++i)
        showUnknown(*others[i].first, others[i].second);
    if (others.size() > mostRows)
        rows_->addWidget(textLabel(tr("and %1 more kinds of lines").arg(others.size() - mostRows), "dim"));
}

void LogPanel::showKnown(const platform::LogLine& line, std::size_t times) {
    const auto& pattern = *line.pattern;
    QStringList detail;
    if (times > 1) detail << tr("said %1 times").arg(times);
    QStringList mends;
    for (const std::string& mend : pattern.mends) mends << qs(std::string(steps::infoOf(mend).name));
    if (!mends.isEmpty()) detail << tr("mended by %1").arg(mends.join(", "));
    detail << tr("line %1: %2").arg(line.line).arg(qs(line.text));
    auto* row = new QHBoxLayout;
    row->addLayout(markRow(pattern.refuses ? Mark::Broken : Mark::Fits, qs(line.says), detail.join(". ")), 1);
    if (!pattern.rule.empty()) {
        auto* go = button(tr("Show the limit"), "quiet");
        go->setObjectName("logRule-" + qs(pattern.rule));
        go->setToolTip(tr("Show it on the piece, with what mends it"));
        connect(go, &QPushButton::clicked, this, [this, rule = qs(pattern.rule)] { Q_EMIT ruleAsked(rule); });
        row->addWidget(go, 0, Qt::AlignTop);
    }
    rows_->addLayout(row);
}

void LogPanel::showUnknown(const platform::LogLine& line, std::size_t times) {
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    auto* words = textLabel(times > 1 ? tr("%1 (%2 times)").arg(qs(line.text)).arg(times) : qs(line.text));
    words->setTextFormat(Qt::PlainText);
    words->setTextInteractionFlags(Qt::TextSelectableByMouse);
    row->addWidget(words, 1);
    auto* make = button(tr("Make it known…"), "quiet");
    make->setObjectName("makeKnown-" + QString::number(line.line));
    connect(make, &QPushButton::clicked, this, [this, text = qs(line.text)] { makeKnown(text); });
    row->addWidget(make, 0, Qt::AlignTop);
    rows_->addLayout(row);
}

void LogPanel::makeKnown(const QString& text) {
    if (const auto sheet = session_.sheet(platform_.toStdString())) {
        std::vector<std::string> lines;
        for (const auto& line : read_.lines) lines.push_back(line.text);
        pattern_->begin(text, std::move(lines), sheet);
        pattern_->show();
    }
}

void LogPanel::keep(const platform::LogPattern& pattern) {
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!sheet || !changeSheet(session_, *sheet, [&](platform::SheetText& text) {
            text.add("log", platform::logSection(pattern));
        }))
        return;
    pattern_->hide();
    read();
}

} // namespace zl::app
