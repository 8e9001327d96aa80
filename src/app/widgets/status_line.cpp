#include "app/widgets/status_line.h"

#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>

namespace zl::app {

StatusLine::StatusLine(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("statusLine");
    setAttribute(Qt::WA_StyledBackground);
    setFixedHeight(30);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 0, 14, 0);
    const auto dimLabel = [] {
        auto* label = new ElidedLabel;
        label->setProperty("dim", true);
        return label;
    };
    text_ = dimLabel();
    text_->setObjectName("statusText");
    text_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    work_ = dimLabel();
    work_->setObjectName("workText");
    bar_ = new QProgressBar;
    bar_->setFixedWidth(140);
    bar_->setTextVisible(false);
    bar_->setAccessibleName(tr("Progress"));
    cancel_ = button(tr("Cancel"), "quiet");
    cancel_->setObjectName("cancelWork");
    cancel_->setToolTip(tr("Stop the work that is running"));
    goOn_ = button(tr("Go on"), "quiet");
    goOn_->setObjectName("goOnWork");
    goOn_->setToolTip(tr("Go on with everything that was stopped, from what was done by then"));
    saved_ = textLabel("", "dim");
    saved_->setWordWrap(false);
    layout->addWidget(text_, 1);
    layout->addWidget(work_);
    layout->addWidget(bar_);
    layout->addWidget(cancel_);
    layout->addWidget(goOn_);
    layout->addWidget(saved_);
    connect(cancel_, &QPushButton::clicked, this, [this] {
        session_.jobs().cancelAll();
        say(tr("Stopped"));
    });
    connect(goOn_, &QPushButton::clicked, this, [this] {
        say({});
        session_.resume();
    });
    connect(&session_, &Session::crossingChanged, this, &StatusLine::showJobs);
    connect(&session_.jobs(), &Jobs::changed, this, &StatusLine::showJobs);
    connect(&session_, &Session::saveStateChanged, this, &StatusLine::showSaved);
    connect(&session_, &Session::projectChanged, this, &StatusLine::showSaved);
    connect(&session_, &Session::said, this, &StatusLine::say);
    later_.setSingleShot(true);
    later_.setInterval(200);
    connect(&later_, &QTimer::timeout, this, &StatusLine::showJobs);
    showJobs();
    showSaved();
}

void StatusLine::say(const QString& text) {
    text_->setText(text);
    text_->setToolTip(text);
}

void StatusLine::showJobs() {
    // What is done in a moment comes and goes unseen: a clip that plays is worked out many times a second.
    constexpr double longEnough = 0.2;
    QList<const Job*> jobs;
    for (const Job* job : session_.jobs().running())
        if (job->seconds() >= longEnough) jobs << job;
    if (jobs.size() < session_.jobs().running().size()) later_.start();
    for (QWidget* widget :
         {static_cast<QWidget*>(work_), static_cast<QWidget*>(bar_), static_cast<QWidget*>(cancel_)})
        widget->setVisible(!jobs.isEmpty());
    goOn_->setVisible(jobs.isEmpty() && session_.isAnythingStopped());
    if (jobs.isEmpty()) return;
    const Job* shown = jobs.first();
    for (const Job* job : jobs)
        if (job->fraction() > shown->fraction()) shown = job;
    QString text = shown->title();
    if (!shown->what().isEmpty()) text += ": " + shown->what();
    if (const double left = shown->secondsLeft(); left >= 1)
        text += tr(", %1 left").arg(QString::fromStdString(showSeconds(left)));
    if (jobs.size() > 1) text += tr("  (and %1 more)").arg(jobs.size() - 1);
    work_->setText(text);
    bar_->setRange(0, 1000);
    bar_->setValue(int(shown->fraction() * 1000));
}

void StatusLine::showSaved() {
    if (!session_.isOpen()) return saved_->clear();
    if (session_.project().file.empty()) return saved_->setText(tr("Not saved yet"));
    saved_->setText(session_.isSaved() ? tr("Saved") : tr("Changes kept for recovery, not saved yet"));
}

} // namespace zl::app
