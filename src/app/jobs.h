#pragma once
#include "core/base/error.h"
#include "core/base/progress.h"

#include <QElapsedTimer>
#include <QObject>
#include <QPointer>
#include <QString>
#include <QThreadPool>
#include <QTimer>

#include <memory>

namespace zl::app {

/// Which work goes first.
enum class Urgency {
    Idle,   ///< pictures that nobody waits for
    Usual,  ///< checks of crossings
    Chosen, ///< the crossing that is looked at
    Shown,  ///< what the view is to show next
    Asked   ///< what somebody pressed a button for
};

/// One piece of long work, seen from the window's thread.
class Job : public QObject {
    Q_OBJECT
public:
    Job(QString title, QObject* parent) : QObject(parent), title_(std::move(title)) { watch_.start(); }

    const QString& title() const { return title_; }
    double fraction() const { return fraction_; }
    QString what() const { return what_; }
    /// Since it was asked for.
    double seconds() const { return double(watch_.elapsed()) / 1000; }
    /// Seconds until the end as far as can be told; below zero when it cannot.
    double secondsLeft() const;
    void cancel() { cancelled_->store(true); }
    bool isCancelled() const { return cancelled_->load(); }

Q_SIGNALS:
    void progressed();
    void ended();

private:
    friend class Jobs;
    QString title_, what_;
    double fraction_ = 0;
    QElapsedTimer watch_;
    std::shared_ptr<std::atomic<bool>> cancelled_ = std::make_shared<std::atomic<bool>>(false);
};

/// Runs work beside the window's thread, one heavy job at a time (the work itself uses all cores), and brings
/// results back to it. From a cancelled job comes only word that it was stopped.
class Jobs : public QObject {
    Q_OBJECT
public:
    explicit Jobs(QObject* parent = nullptr);
    ~Jobs() override;

    /// `work` runs beside; `done` gets its result, `failed` the text of an Error, and `stopped` is told when
    /// the job was cancelled: one of them, on the window's thread, and only while `context` lives.
    template <class Result>
    Job* start(const QString& title, QObject* context, std::function<Result(const Progress&)> work,
               std::function<void(Result)> done, std::function<void(const QString&)> failed,
               Urgency urgency = Urgency::Usual, std::function<void()> stopped = {}) {
        return startErased(
            title, context,
            [work = std::move(work)](const Progress& progress) {
                return std::make_shared<Result>(work(progress));
            },
            [done = std::move(done)](const std::shared_ptr<void>& result) {
                done(std::move(*static_cast<Result*>(result.get())));
            },
            std::move(failed), urgency, std::move(stopped));
    }

    const QList<Job*>& running() const { return jobs_; }
    void cancelAll();

Q_SIGNALS:
    void changed();

private:
    void noteChange();
    Job* startErased(const QString& title, QObject* context,
                     std::function<std::shared_ptr<void>(const Progress&)> work,
                     std::function<void(const std::shared_ptr<void>&)> done,
                     std::function<void(const QString&)> failed, Urgency urgency,
                     std::function<void()> stopped);
    QThreadPool pool_;
    QList<Job*> jobs_;
    QTimer changeTimer_;
};

} // namespace zl::app
