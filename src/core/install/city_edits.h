#pragma once
#include "core/install/game_folder.h"
#include "core/install/zip_records.h"

#include <map>

namespace zl::install {

/// Files of a game's folder as they are and as they are to be.
class Edits {
public:
    explicit Edits(GameFolder& game) : game_(game) {}

    /// The text of a table as it is to be; the problem is said and it is null when it cannot be read.
    std::string* text(const std::string& path);
    /// The same for an archive, as the records that it is made of.
    ZipRecords* archive(const std::string& path);
    bool isThere(const std::string& path);
    void replace(const std::string& path, std::string bytes);
    void note(const std::string& path, std::string detail);
    /// It goes, unless it is kept after all.
    void drop(const std::string& path);
    void keep(const std::string& path) { files_.at(path).goes = false; }
    /// From now on what stands is what was before.
    void settle();
    /// A file as it was before anything was put in; nothing where there was none.
    std::optional<std::string> original(const std::string& path) const;
    /// Hands the changed ones to the game's folder, and says what each of them is to be.
    std::map<std::string, Hash> give();

private:
    struct File {
        std::optional<std::string> before, settled;
        std::string now;
        std::optional<ZipRecords> archive;
        std::vector<std::string> details;
        bool isBroken = false, goes = false, isSettled = false;
    };
    static std::string bytesOf(const File& file) { return file.archive ? file.archive->bytes() : file.now; }

    GameFolder& game_;
    std::map<std::string, File> files_;
};

} // namespace zl::install
