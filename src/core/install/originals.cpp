#include "core/install/originals.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::install {

void restoreOriginals(GameFolder& game, const Journal& journal) {
    std::map<Hash, std::string> keptPaths;
    for (const auto& [path, hash] : journal.kept)
        if (game.hashAt(path) == hash) keptPaths[hash] = path;
    bool all = true;
    for (const auto& [path, hash] : journal.originals) {
        if (game.hashAt(path) == hash) continue;
        const auto kept = keptPaths.find(hash);
        if (kept == keptPaths.end()) {
            game.say(fmt::format("\"{}\" is not as it was kept any more, so {} cannot be put back",
                                 journal.keptAs, path));
            all = false;
            continue;
        }
        game.write(path, game.bytesAt(kept->second));
    }
    if (!all) return;
    const bool untouched = std::ranges::all_of(
        journal.kept, [&](const auto& file) { return game.hashAt(file.first) == file.second; });
    if (untouched)
        for (const auto& [path, hash] : journal.kept) game.leave(path);
    else
        game.plan().keptAs = journal.keptAs;
}

} // namespace zl::install
