#include "core/project/moved_pictures.h"

#include "core/base/letters.h"
#include "core/files/address.h"
#include "core/project/dependencies.h"
#include "core/steps/step.h"

#include <algorithm>
#include <map>
#include <set>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

/// Calls `visit(name)` for the file of every picture that an entry names, also in rows.
void forEachFile(std::span<const fields::Field> table, nlohmann::ordered_json& params,
                 const std::function<void(nlohmann::ordered_json& file)>& visit) {
    for (const fields::Field& field : table) {
        const auto at = params.find(std::string(field.name));
        if (at == params.end()) continue;
        if (field.isOf(fields::pictureRef) && at->is_object() && at->contains("file")) visit((*at)["file"]);
        if (field.isOf(fields::list) && at->is_array())
            for (auto& row : *at) forEachFile(field.rowFields, row, visit);
    }
}

template <class Visit>
void forEachFile(Piece& piece, const Visit& visit) {
    const auto of = [&](recipe::Recipe& recipe) {
        for (recipe::Entry& entry : recipe)
            forEachFile(steps::makeStep(entry.step)->fields(), entry.params, visit);
    };
    of(piece.recipe);
    for (Crossing& crossing : piece.crossings) of(crossing.recipe);
}

} // namespace

std::vector<MovedPicture> movedPictures(const Project& project, const Piece& piece,
                                        const std::vector<fs::path>& found) {
    std::map<std::string, fs::path> byName;
    auto sorted = found;
    std::ranges::sort(sorted);
    for (const fs::path& path : sorted) byName.try_emplace(lowerCase(path.filename().string()), path);
    std::set<std::string> named;
    Piece copy = piece;
    forEachFile(copy, [&](const nlohmann::ordered_json& file) {
        if (file.is_string()) named.insert(file.get<std::string>());
    });
    std::vector<MovedPicture> out;
    for (const std::string& file : named) {
        std::error_code ignored;
        const fs::path whole = wholePath(project, file);
        if (fs::exists(files::addressOf(whole).file, ignored)) continue;
        const auto at = byName.find(lowerCase(whole.filename().string()));
        if (at != byName.end()) out.push_back({file, keptPath(project, at->second).generic_string()});
    }
    return out;
}

Piece relinked(Piece piece, const std::vector<MovedPicture>& moved) {
    forEachFile(piece, [&](nlohmann::ordered_json& file) {
        for (const MovedPicture& picture : moved)
            if (file == picture.was) {
                file = picture.is;
                break;
            }
    });
    return piece;
}

} // namespace zl::project
