// Of files that the game takes, those of one piece: what a delivery is held against.
#include "standins/files/delivered.h"
#include "standins/world/packed_files.h"

#include "core/base/letters.h"

#include <cmath>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

/// Files of an example folder that are looked at; thousands were perhaps learnt from.
constexpr std::size_t mostSeen = 50'000;

using Sizes = std::map<std::string, std::uint64_t>; ///< by path

std::string stemOf(const std::string& path) {
    return lowerCase(fs::path(path).stem().string());
}
std::string folderOf(const std::string& path) {
    return fs::path(path).parent_path().generic_string();
}

Sizes filesBelow(const fs::path& folder) {
    Sizes out;
    std::error_code problem;
    for (auto entry =
             fs::recursive_directory_iterator(folder, fs::directory_options::skip_permission_denied, problem);
         !problem && entry != fs::end(entry) && out.size() < mostSeen; entry.increment(problem)) {
        if (!entry->is_regular_file(problem) || entry->is_symlink(problem)) continue;
        const std::string path = entry->path().lexically_relative(folder).generic_string();
        if (!fs::path(path).filename().string().starts_with('.')) out[path] = entry->file_size(problem);
    }
    return out;
}

/// Whether a name is `stem`, or goes on behind it with something that is no letter or digit: "bell",
/// "bell-n", "bell_2", not "bellows".
bool goesOnFrom(const std::string& name, const std::string& stem) {
    return name.starts_with(stem) &&
           (name.size() == stem.size() || !std::isalnum(static_cast<unsigned char>(name[stem.size()])));
}

/// The longest beginning of a name that is one of `stems`, and that the name goes on from.
std::string beginningIn(const std::string& name, const std::set<std::string>& stems, std::size_t below) {
    for (std::size_t length = std::min(name.size(), below); length > 0; --length)
        if (std::string start = name.substr(0, length); goesOnFrom(name, start) && stems.contains(start))
            return start;
    return {};
}

/// Names of pieces: of models' stems those that are no companion of another, such as "bell-body" beside
/// "bell". A companion ends as others do, too, or ours comes in several files as well.
std::set<std::string> piecesOf(const std::vector<std::string>& models, const Delivered& mine) {
    std::set<std::string> stems;
    for (const std::string& model : models) stems.insert(stemOf(model));
    std::map<std::string, std::string> above; ///< of a stem: the one that it goes on from
    std::map<std::string, int> endings;
    for (const std::string& stem : stems)
        if (const std::string start = beginningIn(stem, stems, stem.size() - 1); !start.empty())
            above[stem] = start, ++endings[stem.substr(start.size())];
    for (const auto& [stem, start] : above)
        if (endings[stem.substr(start.size())] > 1 || mine.models.size() > 1) stems.erase(stem);
    return stems;
}

/// Whose a file is: the piece that a folder or the file itself is called after; empty for nobody's.
std::string pieceOf(const std::string& path, const std::set<std::string>& pieces) {
    std::string out;
    for (const fs::path& step : fs::path(path)) {
        const std::string name = lowerCase(step.string());
        if (std::string own = beginningIn(name, pieces, name.size()); own.size() > out.size())
            out = std::move(own);
    }
    return out;
}

/// Folders that hold one piece each: a file of the same name lies in several of them, such as `pack.json`,
/// with a model there or below.
std::set<std::string> foldersOfPieces(const std::vector<std::string>& models, const Sizes& all) {
    std::set<std::string> withModel;
    for (const std::string& model : models)
        for (std::string folder = folderOf(model); !folder.empty(); folder = folderOf(folder))
            withModel.insert(folder);
    std::map<std::string, std::set<std::string>> holding; ///< by a file's name
    for (const auto& [path, bytes] : all)
        if (const std::string folder = folderOf(path); withModel.contains(folder))
            holding[lowerCase(fs::path(path).filename().string())].insert(folder);
    std::set<std::string> marked, out;
    for (const auto& [name, folders] : holding)
        if (folders.size() > 1) marked.insert(folders.begin(), folders.end());
    for (const std::string& folder : marked) { // what lies within another belongs to that
        std::string above = folderOf(folder);
        while (!above.empty() && !marked.contains(above)) above = folderOf(above);
        if (above.empty()) out.insert(folder);
    }
    return out;
}

/// All pieces of an example folder, by their folder or else by their name.
class Pieces {
public:
    Pieces(const std::vector<std::string>& models, const Sizes& all, const Delivered& mine)
        : all_(all), folders_(foldersOfPieces(models, all)), names_(piecesOf(models, mine)) {
        for (const std::string& model : models) {
            if (folderFor(model).empty()) ++inFolder_[folderOf(model)];
            models_[keyOf(model)].push_back(model);
        }
    }

    /// The models of the piece whose models are as large as ours, or nearest to it; one of them.
    std::string nearest(const Delivered& mine) const {
        double wanted = 1;
        for (const Read& model : mine.models)
            if (const auto own = mine.files.find(model.path); own != mine.files.end())
                wanted += double(own->second);
        const auto away = [&](const auto& piece) {
            double bytes = 1;
            for (const std::string& model : piece.second) bytes += double(all_.at(model));
            return std::abs(std::log(bytes / wanted));
        };
        return std::ranges::min_element(models_, {}, away)->second.front();
    }

    /// The files of the piece that a file belongs to.
    Sizes filesOf(const std::string& chosen) const {
        const std::string root = folderFor(chosen), folder = folderOf(chosen), own = keyOf(chosen);
        const bool alone =
            root.empty() && !folder.empty() && inFolder_.contains(folder) && inFolder_.at(folder) == 1;
        const std::string around = root.empty() ? folder : root;
        Sizes out;
        for (const auto& [path, bytes] : all_)
            if (path == chosen || ((!root.empty() || alone) && path.starts_with(around + "/")) ||
                (root.empty() && !own.empty() && folderFor(path).empty() && pieceOf(path, names_) == own))
                out.emplace(path, bytes);
        return out;
    }

private:
    std::string folderFor(const std::string& path) const {
        for (std::string folder = folderOf(path); !folder.empty(); folder = folderOf(folder))
            if (folders_.contains(folder)) return folder;
        return {};
    }
    std::string keyOf(const std::string& path) const {
        const std::string folder = folderFor(path);
        return folder.empty() ? pieceOf(fs::path(path).filename().string(), names_) : folder + "/";
    }

    const Sizes& all_;
    std::set<std::string> folders_, names_;
    std::map<std::string, int> inFolder_; ///< models that have no piece's folder around them
    std::map<std::string, std::vector<std::string>> models_;
};

} // namespace

std::optional<Delivered> exampleFor(const fs::path& like, const Delivered& mine) {
    std::error_code ignored;
    if (like.empty() || !fs::exists(like, ignored)) return std::nullopt;
    TryReport unsaid;
    std::shared_ptr<const PassingFolder> passing;
    fs::path root = like;
    std::string chosen;
    if (!fs::is_directory(like, ignored)) {
        if (world::isPacked(like.filename().string())) {
            passing = opened(like, unsaid);
            if (!passing) return std::nullopt;
            root = passing->path();
        } else {
            root = like.parent_path(), chosen = like.filename().string();
        }
    }
    const Sizes all = filesBelow(root);
    std::vector<std::string> models;
    for (const auto& [path, bytes] : all)
        if (isModel(path)) models.push_back(path);
    if (models.empty() || (!chosen.empty() && !all.contains(chosen))) return std::nullopt;
    const Pieces pieces(models, all, mine);
    if (chosen.empty()) chosen = pieces.nearest(mine);
    Delivered out = readFiles(root, models.size() == 1 ? all : pieces.filesOf(chosen), readExampleFile);
    out.passing = std::move(passing);
    return out;
}

} // namespace zl::standins::files
