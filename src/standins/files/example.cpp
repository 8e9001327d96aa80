// Of files that the game takes, those of one piece: what a delivery is held against.
#include "standins/files/delivered.h"

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
        if (const std::string start = name.substr(0, length);
            goesOnFrom(name, start) && stems.contains(start))
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

/// The files that belong to the piece of one of the models.
Sizes familyOf(const std::string& chosen, const std::vector<std::string>& models,
               const std::set<std::string>& pieces, const Sizes& all) {
    const std::string folder = folderOf(chosen), own = pieceOf(fs::path(chosen).filename().string(), pieces);
    std::map<std::string, int> inFolder, withStem;
    for (const std::string& model : models) ++inFolder[folderOf(model)], ++withStem[stemOf(model)];
    // Pieces that are told apart by their folders alone, or that have one for themselves.
    const bool byFolder = !folder.empty() && (withStem[stemOf(chosen)] > 1 || inFolder[folder] == 1);
    const bool byName = withStem[stemOf(chosen)] == 1;
    Sizes out;
    for (const auto& [path, bytes] : all)
        if (path == chosen || (byFolder && path.starts_with(folder + "/")) ||
            (byName && !own.empty() && pieceOf(path, pieces) == own))
            out.emplace(path, bytes);
    return out;
}

/// The model whose file is as large as the largest of ours, or nearest to it.
std::string nearestOf(const std::vector<std::string>& models, const std::set<std::string>& pieces,
                      const Sizes& all, const Delivered& mine) {
    double wanted = 1;
    for (const Read& model : mine.models)
        if (const auto own = mine.files.find(model.path); own != mine.files.end())
            wanted = std::max(wanted, double(own->second));
    const auto away = [&](const std::string& model) {
        if (!pieces.contains(stemOf(model))) return 1e9; // a companion is no piece
        return std::abs(std::log(std::max(double(all.at(model)), 1.0) / wanted));
    };
    return *std::ranges::min_element(models, {}, away);
}

} // namespace

std::optional<Delivered> exampleFor(const fs::path& like, const Delivered& mine) {
    std::error_code ignored;
    if (like.empty() || !fs::exists(like, ignored)) return std::nullopt;
    TryReport unsaid;
    std::shared_ptr<const PassingFolder> passing;
    fs::path root = like;
    std::string chosen;
    if (!fs::is_directory(like, ignored)) {
        if (lowerCase(like.extension().string()) == ".zip") {
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
        if (isReadHere(path)) models.push_back(path);
    if (models.empty() || (!chosen.empty() && !all.contains(chosen))) return std::nullopt;
    const auto pieces = piecesOf(models, mine);
    if (chosen.empty()) chosen = nearestOf(models, pieces, all, mine);
    Delivered out = readFiles(root, models.size() == 1 ? all : familyOf(chosen, models, pieces, all));
    out.passing = std::move(passing);
    return out;
}

} // namespace zl::standins::files
