#pragma once
#include <QString>

#include <functional>

class QObject;

namespace zl::app {

class Jobs;

/// The project that people can look around in: made by its generator the first time it is opened.
class DemoProject {
public:
    /// `file` where it lies or is going to; empty finds a place: beside the build, else in the user's data
    /// folder.
    explicit DemoProject(const QString& file = {});

    /// Empty when there is neither the project nor a generator for it.
    const QString& file() const { return file_; }
    /// Calls `ready` once the project is there, or `failed` with the reason.
    void provide(Jobs& jobs, QObject* owner, const std::function<void()>& ready,
                 const std::function<void(const QString&)>& failed) const;

private:
    QString file_, generator_;
};

} // namespace zl::app
