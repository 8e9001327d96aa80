#include "core/steps/bone_pairs.h"

namespace zl::steps {

int boneNamed(const Model& model, const std::string& name, const char* whose) {
    for (const int bone : motion::bonesOf(model))
        if (model.nodes[std::size_t(bone)].name == name) return bone;
    throw Error(fmt::format("{} has no bone \"{}\"", whose, name), {}, "Choose among its bones.");
}

} // namespace zl::steps
