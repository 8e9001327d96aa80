#include "core/motion/attached.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/base/words.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <set>

namespace zl::motion {

std::vector<int> jointsOf(const Model& model) {
    std::set<int> joints;
    for (const Skin& skin : model.skins) joints.insert(skin.joints.begin(), skin.joints.end());
    return {joints.begin(), joints.end()};
}

int jointNamed(const Model& model, std::string_view name) {
    int alike = -1;
    for (const int joint : jointsOf(model)) {
        if (model.nodes[std::size_t(joint)].name == name) return joint;
        if (alike < 0 && lowerCase(model.nodes[std::size_t(joint)].name) == lowerCase(name)) alike = joint;
    }
    return alike;
}

Model attachedTo(Model item, const Model& figure, std::string_view bone) {
    const int joint = jointNamed(figure, bone);
    if (joint < 0) {
        std::vector<std::string> names;
        for (const int j : jointsOf(figure)) names.push_back(figure.nodes[std::size_t(j)].name);
        throw Error(fmt::format("there is no bone \"{}\"", bone), figure.name,
                    names.empty() ? "It has no bones; choose a figure with a skeleton."
                                  : "Use one of " + showNames(names) + ".");
    }
    const glm::dvec3 place(worldMatrices(figure)[std::size_t(joint)][3]);
    return moved(std::move(item), glm::translate(glm::dmat4(1.0), place));
}

} // namespace zl::motion
