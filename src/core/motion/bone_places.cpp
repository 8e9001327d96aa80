#include "core/motion/bone_places.h"

#include "core/motion/attached.h"

#include <algorithm>

namespace zl::motion {

std::vector<BonePlace> bonePlaces(const Model& model, const std::vector<glm::dmat4>& world) {
    std::vector<int> joints = jointsOf(model);
    std::ranges::sort(joints); // nodes stand behind their parents
    std::vector<int> placeOf(model.nodes.size(), -1);
    std::vector<BonePlace> out;
    for (const int joint : joints) {
        BonePlace bone{joint, -1, glm::dvec3(world[std::size_t(joint)][3])};
        for (int n = model.nodes[std::size_t(joint)].parent; n >= 0 && bone.above < 0;
             n = model.nodes[std::size_t(n)].parent)
            bone.above = placeOf[std::size_t(n)];
        placeOf[std::size_t(joint)] = int(out.size());
        out.push_back(bone);
    }
    return out;
}

} // namespace zl::motion
