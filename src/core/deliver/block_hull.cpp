#include "core/deliver/block_hull.h"

#include "core/base/error.h"
#include "core/formats/hull_file.h"

namespace zl::deliver {

std::vector<OutFile> BlockHull::make(const Model& model, const platform::Sheet&, const Labels& labels,
                                     const Progress&) const {
    const blocks::Hull* hull = blocks::hullOf(model);
    if (!hull)
        throw Refused("the piece is not built of blocks", labels.name,
                      "Add the step Build of blocks on Shape.");
    const std::string name = called.empty() ? labels.name : called;
    const formats::HullFile file{name, hull->edge, hull->paints, hull->build};
    return {{fileNameFrom(name) + ".hull.xml", formats::writeHull(file)}};
}

} // namespace zl::deliver
