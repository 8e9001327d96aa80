#include "core/steps/wear.h"

#include "core/geometry/world.h"
#include "core/model/add_model.h"
#include "core/model/finite.h"
#include "core/motion/attached.h"

#include <glm/gtc/matrix_transform.hpp>

#include <map>

namespace zl::steps {

Model Wear::apply(const Model& in, StepContext& context) const {
    Model out = in;
    const auto world = worldMatrices(in);
    std::map<std::string, const Item*> claimed;
    for (const Item& worn : items) {
        if (worn.item.name.empty() || !worn.shown) continue;
        const Companion companion = context.input(worn.item);
        if (!worn.place.empty()) {
            const auto [taken, fresh] = claimed.try_emplace(worn.place, &worn);
            if (!fresh) {
                context.fellShort(fmt::format("{} and {} both claim the place \"{}\"; show one of them",
                                              taken->second->item.name, companion.name, worn.place));
                for (const Item* one : {taken->second, &worn}) {
                    Wear without = *this;
                    without.items[std::size_t(one - items.data())].shown = false;
                    context.offer("Hide " + one->item.name,
                                  {{"items", fields::printed(fields, &without)["items"]}});
                }
            }
        }
        const int joint = motion::jointNamed(in, worn.bone.name);
        if (joint < 0)
            throw Error(fmt::format("there is no bone \"{}\" for {}", worn.bone.name, companion.name),
                        std::string(info.id), "Choose one of the figure's bones.");
        const glm::dvec3 place = glm::dvec3(world[std::size_t(joint)][3]) + worn.offset;
        const glm::dmat4 inWorld =
            glm::rotate(glm::translate(glm::dmat4(1.0), place), worn.turn, glm::dvec3(0, 1, 0));
        const glm::dmat4 onBone = glm::inverse(world[std::size_t(joint)]) * inWorld;
        if (!isFinite(onBone * companion.model->placement)) {
            context.fellShort(fmt::format("{} stays off: \"{}\" has a scale of zero", companion.name,
                                          in.nodes[std::size_t(joint)].name));
            continue;
        }
        addModel(out, *companion.model, companion.name, joint, onBone);
        context.note(fmt::format("{} on \"{}\"", companion.name, in.nodes[std::size_t(joint)].name));
    }
    return out;
}

Model SetBeside::apply(const Model& in, StepContext& context) const {
    constexpr double gap = 0.1;
    Model out = in;
    std::vector<geometry::Bounds> taken{geometry::worldBounds(in)};
    const auto overlapping = [&](const geometry::Bounds& box) -> const geometry::Bounds* {
        for (const geometry::Bounds& other : taken)
            if (!other.empty() && glm::all(glm::lessThan(box.min, other.max)) &&
                glm::all(glm::lessThan(other.min, box.max)))
                return &other;
        return nullptr;
    };
    for (const Item& beside : items) {
        if (beside.item.name.empty()) continue;
        const Companion companion = context.input(beside.item);
        const glm::dmat4 turned = glm::rotate(glm::dmat4(1.0), beside.turn, glm::dvec3(0, 1, 0));
        geometry::Bounds own;
        geometry::forEachShownMesh(*companion.model, [&](int, const Mesh& mesh, const glm::dmat4& toWorld) {
            own.add(geometry::meshBounds(mesh, turned * toWorld));
        });
        if (own.empty()) {
            context.fellShort(companion.name + " has nothing to set down");
            continue;
        }
        glm::dvec3 at = beside.at;
        if (!beside.placed) at = {(taken[0].empty() ? 0 : taken[0].max.x + gap) - own.min.x, -own.min.y, 0};
        const auto boxAt = [&](const glm::dvec3& p) {
            geometry::Bounds box;
            box.add(own.min + p), box.add(own.max + p);
            return box;
        };
        const glm::dvec3 wanted = at;
        // Each is passed at most once; beside something huge a gap may be too small to be told.
        for (std::size_t passed = 0; passed < taken.size(); ++passed)
            if (const geometry::Bounds* other = overlapping(boxAt(at))) at.x = other->max.x + gap - own.min.x;
        if (overlapping(boxAt(at))) context.fellShort("no room was found beside for " + companion.name);
        if (beside.placed && at != wanted)
            context.note(fmt::format("{} was moved {} aside, for it overlapped what is there", companion.name,
                                     context.showLength(at.x - wanted.x)));
        taken.push_back(boxAt(at));
        addModel(out, *companion.model, companion.name, -1, glm::translate(glm::dmat4(1.0), at) * turned);
    }
    return out;
}

} // namespace zl::steps
