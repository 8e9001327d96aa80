#pragma once
#include "app/session.h"

#include "core/solids/scene_model.h"

namespace zl::app {

/// The pictures that a scene's faces show, as far as they have been read, and those that they could show:
/// what lies in the folder of the scene's document.
class ScenePictures : public QObject {
    Q_OBJECT
public:
    ScenePictures(Session& session, QObject* parent);

    /// Reads those that this scene names; came() tells when they are there.
    void show(const solids::Scene& scene, const std::filesystem::path& document);
    const solids::Pictures& now() const { return pictures_; }
    QStringList beside() const;
    static QStringList endings(); ///< "*.png" and so on
    /// Copies a file into the document's folder where it lies elsewhere, and says what it is called there.
    void bringIn(const QString& file, std::function<void(const QString& name)> done);

Q_SIGNALS:
    void came();

private:
    Session& session_;
    std::filesystem::path folder_;
    std::vector<std::string> names_;
    solids::Pictures pictures_;
};

} // namespace zl::app
