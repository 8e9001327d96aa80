#include "app/solids/scene_pictures.h"

#include "app/qt_text.h"

#include "core/base/file_set.h"
#include "core/files/address.h"
#include "core/files/source_file.h"
#include "core/project/solids_document.h"
#include "core/texture/picture_file.h"

#include <QDir>

namespace zl::app {

namespace fs = std::filesystem;

namespace {

/// The name under which a picture lies in a folder, where it is copied to unless it is there already. Throws
/// Error when it is none.
std::string broughtBeside(const fs::path& from, const fs::path& folder, const Progress& progress) {
    std::error_code error;
    if (fs::equivalent(from.parent_path(), folder, error)) return from.filename().string();
    const files::SourceFile source(files::addressOf(from), progress);
    const std::string bytes(source.bytes().text());
    texture::pictureFromBytes(from.filename().string(), bytes);
    for (int k = 1;; ++k) {
        const fs::path to =
            folder /
            (k == 1 ? from.filename()
                    : fs::path(from.stem().string() + "-" + std::to_string(k) + from.extension().string()));
        if (!fs::exists(to, error)) {
            writeFile(to, bytes);
            return to.filename().string();
        }
        if (fs::file_size(to, error) == bytes.size() &&
            files::SourceFile(files::addressOf(to), progress).bytes().text() == bytes)
            return to.filename().string();
    }
}

} // namespace

ScenePictures::ScenePictures(Session& session, QObject* parent) : QObject(parent), session_(session) {}

QStringList ScenePictures::endings() {
    return {"*.png", "*.jpg", "*.jpeg", "*.tga", "*.bmp", "*.dds"};
}

QStringList ScenePictures::beside() const {
    return QDir(qs(folder_.string())).entryList(endings(), QDir::Files, QDir::Name);
}

void ScenePictures::show(const solids::Scene& scene, const fs::path& document) {
    const fs::path folder = document.parent_path();
    const auto names = solids::picturesOf(scene);
    if (folder == folder_ && names == names_) return;
    if (folder != folder_) pictures_.clear();
    folder_ = folder, names_ = names;
    session_.jobs().start<solids::Pictures>(
        tr("Reading pictures"), this,
        [scene, folder](const Progress& progress) {
            return project::picturesBeside(scene, folder, progress).pictures;
        },
        [this, folder, names](solids::Pictures pictures) {
            if (folder != folder_ || names != names_) return;
            pictures_ = std::move(pictures);
            Q_EMIT came();
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Shown);
}

void ScenePictures::bringIn(const QString& file, std::function<void(const QString&)> done) {
    session_.jobs().start<std::string>(
        tr("Bringing in a picture"), this,
        [from = fs::path(file.toStdString()), folder = folder_](const Progress& progress) {
            return broughtBeside(from, folder, progress);
        },
        [done = std::move(done)](const std::string& name) { done(qs(name)); },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

} // namespace zl::app
