#include "app/game_folder.h"

#include "app/qt_text.h"

#include "core/install/install.h"

#include <QSettings>

namespace zl::app {

QString gameFolder(const Session& session, const std::string& platform) {
    const QString chosen = QSettings().value("install/" + qs(platform)).toString();
    const auto sheet = session.sheet(platform);
    if (!chosen.isEmpty() || !sheet || session.project().file.empty()) return chosen;
    const auto beside =
        install::gameAmong(session.project().file.parent_path() / "games", sheet->deliverable);
    return beside ? qs(beside->string()) : QString();
}

void setGameFolder(const std::string& platform, const QString& folder) {
    QSettings().setValue("install/" + qs(platform), folder);
}

} // namespace zl::app
