#pragma once
#include <QFileSystemWatcher>
#include <QStringList>
#include <QTimer>

#include <filesystem>
#include <vector>

namespace zl::app {

/// What happened on the disk within a moment.
struct DiskChanges {
    QStringList rewritten, gone, back; ///< files
    QStringList folders;               ///< where something came or went
};

/// Watches files, and the folders in which those that are missing may appear.
class DiskWatch : public QObject {
    Q_OBJECT
public:
    explicit DiskWatch(QObject* parent = nullptr);

    /// Adds files, there or not; those that are watched already stay so.
    void watch(const std::vector<std::filesystem::path>& files);
    void clear();

Q_SIGNALS:
    /// Once for all that happened until the disk was quiet for a moment: programs write a file in several
    /// goes.
    void changed(const zl::app::DiskChanges& changes);

private:
    void tell();

    QFileSystemWatcher watcher_;
    QTimer quiet_;
    QStringList files_, folders_; ///< to be told
    QStringList gone_;            ///< told, and not back yet
};

} // namespace zl::app
