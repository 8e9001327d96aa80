#include "app/demo_project.h"

#include "app/jobs.h"

#include "core/base/error.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QProcess>
#include <QStandardPaths>

namespace zl::app {

DemoProject::DemoProject(const QString& file)
    : file_(file), generator_(QStandardPaths::findExecutable("zest-loom-demo-data",
                                                             {QCoreApplication::applicationDirPath()})) {
    if (!file_.isEmpty() || generator_.isEmpty()) return;
    const QString beside = QCoreApplication::applicationDirPath() + "/../demo";
    const QString folder =
        QDir(beside).exists()
            ? QDir::cleanPath(beside)
            : QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + "/zest-loom/demo";
    file_ = folder + "/bergamot-quay.zestloom";
}

void DemoProject::provide(Jobs& jobs, QObject* owner, const std::function<void()>& ready,
                          const std::function<void(const QString&)>& failed) const {
    if (QFile::exists(file_)) return ready();
    jobs.start<bool>(
        QObject::tr("Making the harvest fair"), owner,
        [generator = generator_, folder = QFileInfo(file_).absolutePath()](const Progress& progress) {
            progress.report(0.1, "casting the bell");
            QProcess process;
            process.start(generator, {folder});
            if (!process.waitForFinished(120000) || process.exitCode() != 0)
                throw Error("the demo data could not be made", folder.toStdString(),
                            process.readAllStandardError().trimmed().toStdString());
            return true;
        },
        [ready](bool) { ready(); }, failed);
}

} // namespace zl::app
