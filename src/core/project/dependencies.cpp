#include "core/project/dependencies.h"

#include "core/base/json_text.h"
#include "core/base/version.h"

namespace fs = std::filesystem;

namespace zl::project {

fs::path wholePath(const Project& project, const fs::path& path) {
    return (path.is_absolute() ? path : fs::absolute(project.folder() / path)).lexically_normal();
}

Dependencies dependenciesOf(const Project& project, const Piece& piece, const platform::Sheet& sheet) {
    Dependencies out;
    for (const Source& source : piece.sources) out.files.push_back(wholePath(project, source.path));
    const recipe::Recipe recipe = recipeFor(piece, sheet.id);
    out.shape = jsonText(recipe::toJson(recipe)) + fmt::format("|{:016x}", platform::hashOf(sheet));
    bool measures = false;
    for (const recipe::Entry& entry : recipe)
        measures |= entry.on && steps::makeStep(entry.step, entry.params)->inputs().yardsticks;
    for (const YardstickSource& yardstick : project.yardsticks) {
        const fs::path path = wholePath(project, yardstick.path);
        const std::string words = fmt::format("|{}|{}|{}", yardstick.name, yardstick.unit, yardstick.up);
        out.besideFiles.push_back(path);
        out.beside += words;
        if (!measures) continue;
        out.files.push_back(path);
        out.shape += words;
    }
    const Crossing* crossing = piece.on(sheet.id);
    out.delivery = fmt::format("{}|{}|{}|{}|{}", piece.name, crossing ? crossing->finish : "",
                               crossing ? crossing->format : "", creditOf(piece), programVersion());
    return out;
}

Hash Dependencies::shapeKey(Stamps& stamps, const std::vector<fs::path>& more) const {
    return hashText(stamps.of(more), hashText(stamps.of(files), hashText(shape)));
}

Hash Dependencies::viewKey(Stamps& stamps) const {
    return hashText(stamps.of(besideFiles), hashText(beside, shapeKey(stamps)));
}

Hash Dependencies::deliveryKey(Stamps& stamps, const std::vector<fs::path>& more) const {
    return hashText(delivery, shapeKey(stamps, more));
}

} // namespace zl::project
