#include "core/blocks/greedy_mesh.h"
#include "core/formats/format.h"
#include "core/formats/hull_file.h"

namespace zl::formats {

Model readBlockHull(files::SourceFile& source, const Progress&) {
    const auto bytes = source.bytes();
    HullFile file = readHull(bytes.text(), source.where());
    blocks::Hull hull;
    hull.edge = file.edge, hull.paints = std::move(file.paints), hull.build = std::move(file.build);
    hull.first = {-(hull.build.size().x / 2), 0, 0};
    Model out = blocks::modelOf(std::move(hull), file.name.empty() ? source.stem() : file.name);
    out.frame.unitAssumed = out.frame.upAssumed = false;
    out.headingKnown = true;
    return out;
}

} // namespace zl::formats
