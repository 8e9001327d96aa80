#include "app/jobs.h"

#include <QRunnable>

#include <chrono>

#include <sys/resource.h>
#include <unistd.h>

namespace zl::app {

namespace {

/// The thread that calls, and those that it starts, yield to the window's, but hardly to other programs.
/// Linux has a niceness for each thread; Qt's own priorities say nothing to its usual scheduler.
void yieldToTheWindow() {
    constexpr int nicer = 2;
    setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), nicer);
}

} // namespace

double Job::secondsLeft() const {
    const double passed = double(watch_.elapsed()) / 1000;
    return fraction_ > 0.05 && passed > 0.5 ? passed * (1 - fraction_) / fraction_ : -1;
}

Jobs::Jobs(QObject* parent) : QObject(parent) {
    pool_.setMaxThreadCount(1);
    // Hundreds of jobs may start or end in one go; whoever shows them need not draw each.
    changeTimer_.setSingleShot(true);
    changeTimer_.setInterval(30);
    connect(&changeTimer_, &QTimer::timeout, this, &Jobs::changed);
}

Jobs::~Jobs() {
    cancelAll();
    pool_.waitForDone();
}

void Jobs::noteChange() {
    if (!changeTimer_.isActive()) changeTimer_.start();
}

void Jobs::cancelAll() {
    for (Job* job : jobs_) job->cancel();
}

Job* Jobs::startErased(const QString& title, QObject* context,
                       std::function<std::shared_ptr<void>(const Progress&)> work,
                       std::function<void(const std::shared_ptr<void>&)> done,
                       std::function<void(const QString&)> failed, Urgency urgency,
                       std::function<void()> stopped) {
    auto* job = new Job(title, this);
    jobs_.append(job);
    const auto cancelled = job->cancelled_;
    const QPointer<Job> handle(job);
    const QPointer<QObject> receiver(context);
    // Progress may be reported thousands of times a second from many threads; ten a second are enough to see.
    auto lastMillis = std::make_shared<std::atomic<long long>>(0);
    const Progress progress(
        [this, handle, lastMillis](double fraction, std::string_view what) {
            using namespace std::chrono;
            const long long now = duration_cast<milliseconds>(steady_clock::now().time_since_epoch()).count();
            long long last = lastMillis->load();
            if (now - last < 100 || !lastMillis->compare_exchange_strong(last, now)) return;
            QMetaObject::invokeMethod(this, [this, handle, fraction,
                                             text = QString::fromUtf8(what.data(), qsizetype(what.size()))] {
                if (!handle) return;
                handle->fraction_ = fraction;
                handle->what_ = text;
                Q_EMIT handle->progressed();
                noteChange();
            });
        },
        cancelled.get());
    const auto finish = [this, handle, receiver, cancelled, stopped](const std::function<void()>& report) {
        QMetaObject::invokeMethod(this, [this, handle, receiver, cancelled, stopped, report] {
            if (handle) {
                jobs_.removeAll(handle.data());
                Q_EMIT handle->ended();
                handle->deleteLater();
            }
            const auto& tell = cancelled->load() ? stopped : report;
            if (tell && receiver) tell();
            noteChange();
        });
    };
    pool_.start(QRunnable::create([work = std::move(work), done = std::move(done), failed = std::move(failed),
                                   progress, cancelled, finish] {
                    yieldToTheWindow();
                    try {
                        progress.checkCancel();
                        auto result = work(progress);
                        finish([done, result] { done(result); });
                    } catch (const Cancelled&) {
                        finish({});
                    } catch (const std::exception& error) {
                        finish([failed, text = QString::fromStdString(wordsOf(error))] { failed(text); });
                    } catch (...) {
                        finish([failed] { failed("Something unforeseen went wrong."); });
                    }
                }),
                static_cast<int>(urgency));
    noteChange();
    return job;
}

} // namespace zl::app
