#include "core/install/city_edits.h"
#include "core/install/city_install.h"

#include "core/base/words.h"

#include <fmt/format.h>

#include <set>

namespace zl::install {

namespace {

using Addition = Journal::Addition;

/// Takes what a journal added out of the files. Those that are as they were left become what they were
/// before.
class TakingOut {
public:
    TakingOut(GameFolder& game, Edits& edits, const Journal& journal, const Wishes& wishes)
        : game_(game), edits_(edits), journal_(journal), wishes_(wishes) {}

    void run() {
        for (const auto& [path, hash] : journal_.files) {
            if (!edits_.text(path)) continue;
            const bool was = journal_.originals.contains(path);
            if (game_.hashAt(path) == hash && (!was || putBack(path))) {
                whole_.insert(path);
                if (!was) edits_.drop(path);
            }
        }
        for (auto one = journal_.additions.rbegin(); one != journal_.additions.rend(); ++one)
            if (!whole_.contains(one->path) && edits_.text(one->path)) takeOut(*one);
        if (!changed_.empty())
            game_.plan().notes.push_back(
                fmt::format("{} changed by others since; only what was added goes",
                            changed_.size() == 1 ? *changed_.begin() + " was"
                                                 : showNames({changed_.begin(), changed_.end()}) + " were"));
    }

private:
    bool putBack(const std::string& path) {
        const std::string kept = keptPath(journal_.name, path);
        if (game_.hashAt(kept) != journal_.originals.at(path)) return false;
        edits_.replace(path, game_.bytesAt(kept));
        for (const Addition& one : journal_.additions)
            if (one.path == path)
                edits_.note(path, one.kind == Addition::Kind::Line ? "without " + one.text
                                                                   : "without " + one.entry);
        return true;
    }
    void takeOut(const Addition& one) {
        changed_.insert(one.path);
        bool out = false;
        if (one.kind == Addition::Kind::Line) {
            std::string& text = *edits_.text(one.path);
            if (auto without = withoutLine(text, one.text)) text = std::move(*without), out = true;
            if (out) edits_.note(one.path, "without " + one.text);
        } else if (ZipRecords* archive = edits_.archive(one.path); archive && archive->has(one.entry)) {
            out = one.kind == Addition::Kind::Entry ? removed(*archive, one) : cut(*archive, one);
            if (out) edits_.note(one.path, "without " + one.entry);
        }
        if (!out && !wishes_.losesChanges)
            game_.say(fmt::format("{} has not what was put there any more ({}); somebody has changed it",
                                  one.path, one.kind == Addition::Kind::Line ? one.text : one.entry));
    }
    static bool removed(ZipRecords& archive, const Addition& one) {
        archive.remove(one.entry);
        return true;
    }
    /// A body out of somebody's collision file, which becomes what it was where nobody else touched it.
    bool cut(ZipRecords& archive, const Addition& one) {
        std::string content = archive.contentOf(one.entry, mostContactBytes);
        const std::size_t at = content.find(one.text);
        if (at == std::string::npos) return false;
        content.erase(at, one.text.size());
        const std::string kept = keptPath(journal_.name, one.path);
        if (game_.hashAt(kept)) {
            const ZipRecords before(game_.bytesAt(kept), kept);
            if (before.has(one.entry) && before.contentOf(one.entry, mostContactBytes) == content) {
                archive.takeOver(before, one.entry);
                return true;
            }
        }
        archive.replace({one.entry, content});
        return true;
    }

    GameFolder& game_;
    Edits& edits_;
    const Journal& journal_;
    const Wishes& wishes_;
    std::set<std::string> whole_, changed_;
};

} // namespace

void takeOutOf(GameFolder& game, Edits& edits, const Journal& journal, const Wishes& wishes) {
    TakingOut(game, edits, journal, wishes).run();
}

void outOfCity(GameFolder& game, const Journal& journal, const Wishes& wishes) {
    Edits edits(game);
    for (const std::string& path : journal.madeWritable) game.makeReadOnly(path);
    takeOutOf(game, edits, journal, wishes);
    edits.give();
    for (const auto& [path, hash] : journal.originals) game.leaveOwn(keptPath(journal.name, path));
}

} // namespace zl::install
