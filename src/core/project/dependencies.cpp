#include "core/project/dependencies.h"

#include "core/base/json_text.h"
#include "core/base/version.h"
#include "core/files/address.h"
#include "core/project/companions.h"
#include "core/project/numbers.h"

namespace fs = std::filesystem;

namespace zl::project {

fs::path keptPath(const Project& project, const fs::path& whole) {
    if (project.file.empty()) return whole;
    const fs::path relative = whole.lexically_relative(project.folder());
    return !relative.empty() && *relative.begin() != ".." ? relative : whole;
}

fs::path wholePath(const Project& project, const fs::path& path) {
    return (path.is_absolute() ? path : fs::absolute(project.folder() / path)).lexically_normal();
}

namespace {

/// A file is watched and compared where it lies on the disk; which one of an archive is meant is part of the
/// shape.
void addFile(Dependencies& out, const fs::path& whole) {
    const files::Address address = files::addressOf(whole);
    out.files.push_back(address.file);
    if (!address.inside.empty()) out.shape += "|" + address.inside;
}

/// What a piece comes of: its sources, and in words its recipe and the selections that it keeps.
void addPiece(Dependencies& out, const Project& project, const Piece& piece, const std::string& platform) {
    for (const Source& source : piece.sources) {
        addFile(out, wholePath(project, source.path));
        if (!source.size.empty()) out.shape += "|size " + source.size;
    }
    out.shape += jsonText(recipe::toJson(recipeFor(piece, platform)));
    for (const KeptSelection& kept : piece.selections)
        out.shape += fmt::format("|{}|{}", kept.name, jsonText(selection::toJson(kept.selection)));
}

} // namespace

Dependencies dependenciesOf(const Project& project, const Piece& piece, const platform::Sheet& sheet) {
    Dependencies out;
    addPiece(out, project, piece, sheet.id);
    out.shape += fmt::format("|{:016x}", platform::hashOf(sheet));
    const NamedInputs named = namedInputs(project, piece, sheet.id);
    for (const Piece* other : named.pieces) {
        out.shape += "|" + other->name;
        addPiece(out, project, *other, sheet.id);
    }
    if (numberAskedFor(piece, sheet.id))
        for (const auto& [number, whose] : numbersOfOthers(project, piece, sheet))
            out.shape += fmt::format("|{} is {}", number, whose);
    for (const YardstickSource* yardstick : named.yardsticks) {
        addFile(out, wholePath(project, yardstick->path));
        out.shape += fmt::format("|{}|{}|{}", yardstick->name, yardstick->unit, yardstick->up);
    }
    for (const fs::path& file : named.files) addFile(out, file);
    out.delivery = fmt::format("{}|{}|{}|{}", piece.name, jsonText(deliveryFor(piece, sheet.id)),
                               creditOf(project, piece, sheet.id), programVersion());
    return out;
}

deliver::Labels labelsFor(const Project& project, const Piece& piece, std::string_view platform) {
    deliver::Labels labels{piece.name, creditOf(project, piece, platform)};
    if (piece.sources.empty()) return labels;
    labels.source = wholePath(project, piece.sources[0].path);
    labels.sizes.first = piece.sizes()[0];
    return labels;
}

Hash Dependencies::shapeKey(Stamps& stamps, const std::vector<fs::path>& more) const {
    return hashText(stamps.of(more), hashText(stamps.of(files), hashText(shape)));
}

Hash Dependencies::deliveryKey(Stamps& stamps, const std::vector<fs::path>& more) const {
    return hashText(delivery, shapeKey(stamps, more));
}

} // namespace zl::project
