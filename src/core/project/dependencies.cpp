#include "core/project/dependencies.h"

namespace fs = std::filesystem;

namespace zl::project {

fs::path wholePath(const Project& project, const fs::path& path) {
    return (path.is_absolute() ? path : fs::absolute(project.folder() / path)).lexically_normal();
}

Dependencies dependenciesOf(const Project& project, const Piece& piece, const platform::Sheet& sheet) {
    Dependencies out;
    for (const Source& source : piece.sources) out.files.push_back(wholePath(project, source.path));
    const recipe::Recipe recipe = recipeFor(piece, sheet.id);
    out.shape = recipe::toJson(recipe).dump() + fmt::format("|{:016x}", platform::hashOf(sheet));
    bool measures = false;
    for (const recipe::Entry& entry : recipe)
        measures |= entry.on && steps::makeStep(entry.step, entry.params)->inputs().yardsticks;
    if (measures)
        for (const YardstickSource& yardstick : project.yardsticks) {
            out.files.push_back(wholePath(project, yardstick.path));
            out.shape += fmt::format("|{}|{}|{}", yardstick.name, yardstick.unit, yardstick.up);
        }
    const Crossing* crossing = piece.on(sheet.id);
    out.delivery = fmt::format("{}|{}|{}|{}|{}", piece.name, crossing ? crossing->finish : "",
                               crossing ? crossing->format : "", creditOf(piece), ZEST_LOOM_VERSION);
    return out;
}

Hash Dependencies::shapeKey(Stamps& stamps, const std::vector<fs::path>& more) const {
    return hashText(stamps.of(more), hashText(stamps.of(files), hashText(shape)));
}

Hash Dependencies::deliveryKey(Stamps& stamps, const std::vector<fs::path>& more) const {
    return hashText(delivery, shapeKey(stamps, more));
}

} // namespace zl::project
