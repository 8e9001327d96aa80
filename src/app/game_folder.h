#pragma once
#include "app/session.h"

#include <QString>

namespace zl::app {

/// Where the game of a platform is: the folder that was chosen last, else one that lies in "games" beside the
/// project; empty where neither is there.
QString gameFolder(const Session& session, const std::string& platform);
/// Remembers a folder for the platform, in every project.
void setGameFolder(const std::string& platform, const QString& folder);

} // namespace zl::app
