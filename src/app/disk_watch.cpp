#include "app/disk_watch.h"

#include "app/qt_text.h"

#include <QFile>

#include <utility>

namespace fs = std::filesystem;

namespace zl::app {

DiskWatch::DiskWatch(QObject* parent) : QObject(parent) {
    quiet_.setSingleShot(true);
    quiet_.setInterval(400);
    const auto note = [this](QStringList& list, const QString& path) {
        if (!list.contains(path)) list.append(path);
        quiet_.start();
    };
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this,
            [this, note](const QString& file) { note(files_, file); });
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, this,
            [this, note](const QString& folder) { note(folders_, folder); });
    connect(&quiet_, &QTimer::timeout, this, &DiskWatch::tell);
}

void DiskWatch::watch(const std::vector<fs::path>& files) {
    const QStringList watched = watcher_.files(), folders = watcher_.directories();
    for (const fs::path& file : files) {
        const QString path = qs(file.string());
        if (!watched.contains(path) && QFile::exists(path)) watcher_.addPath(path);
        // The nearest folder that is there, for a whole folder may be missing.
        std::error_code error;
        fs::path folder = file.parent_path();
        while (!folder.empty() && folder != folder.root_path() && !fs::is_directory(folder, error))
            folder = folder.parent_path();
        if (const QString name = qs(folder.string()); !name.isEmpty() && !folders.contains(name))
            watcher_.addPath(name);
    }
}

void DiskWatch::clear() {
    for (const QStringList& watched : {watcher_.files(), watcher_.directories()})
        if (!watched.isEmpty()) watcher_.removePaths(watched);
    files_.clear(), folders_.clear(), gone_.clear();
}

void DiskWatch::tell() {
    DiskChanges changes;
    changes.folders = std::exchange(folders_, {});
    for (const QString& file : std::exchange(files_, {})) {
        const bool there = QFile::exists(file);
        if (there) watcher_.addPath(file); // a renamed-over file is no longer watched
        (there ? changes.rewritten : changes.gone).append(file);
    }
    for (const QString& file : std::exchange(gone_, {})) {
        const bool there = QFile::exists(file);
        if (there) watcher_.addPath(file);
        if (there && !changes.rewritten.contains(file)) changes.back.append(file);
        if (!there) gone_.append(file);
    }
    for (const QString& file : changes.gone)
        if (!gone_.contains(file)) gone_.append(file);
    Q_EMIT changed(changes);
}

} // namespace zl::app
