#include "core/solids/scene_edits.h"

namespace zl::solids {

namespace {

void notLeading(Scene& scene, Number solid) {
    for (auto& [number, group] : scene.groups)
        if (group.lead == solid) group.lead = 0;
}

void withoutEmptyGroups(Scene& scene) {
    for (bool again = true; again;) {
        const auto in = scene.solidsIn();
        const auto within = scene.groupsWithin();
        again = std::erase_if(scene.groups, [&](const auto& one) {
                    return !in.contains(one.first) && !within.contains(one.first);
                }) > 0;
    }
}

template <class T>
T* at(std::map<Number, T>& parts, Number number) {
    const auto found = parts.find(number);
    return found == parts.end() ? nullptr : &found->second;
}

} // namespace

Numbers solidsAmong(const Scene& scene, const Numbers& chosen) {
    Numbers out;
    for (const Number number : chosen)
        if (scene.solids.contains(number)) out.insert(number);
    return out;
}

Numbers copy(Scene& scene, const Numbers& chosen, const glm::dvec3& aside) {
    Numbers out;
    const auto add = [&](auto& parts, Number number) {
        const auto* one = at(parts, number);
        if (!one) return;
        auto another = *one;
        another.at += aside;
        const Number fresh = scene.fresh();
        parts[fresh] = std::move(another);
        out.insert(fresh);
    };
    for (const Number number : chosen) add(scene.solids, number), add(scene.lights, number);
    return out;
}

void remove(Scene& scene, const Numbers& chosen) {
    for (const Number number : chosen) {
        scene.solids.erase(number), scene.lights.erase(number);
        notLeading(scene, number);
    }
    withoutEmptyGroups(scene);
}

void move(Scene& scene, const Numbers& chosen, const glm::dvec3& by) {
    for (const Number number : chosen) {
        if (Solid* solid = at(scene.solids, number)) solid->at += by;
        if (Light* light = at(scene.lights, number)) light->at += by;
    }
}

void group(Scene& scene, const Numbers& chosen) {
    const Numbers solids = solidsAmong(scene, chosen);
    if (solids.empty()) return;
    const Number number = scene.fresh();
    Number within = scene.solids.at(*solids.begin()).group;
    for (const Number one : solids)
        if (scene.solids.at(one).group != within) within = 0;
    for (const Number one : solids) {
        notLeading(scene, one);
        scene.solids.at(one).group = number;
    }
    scene.groups[number] = {"group", within, *solids.begin()};
    withoutEmptyGroups(scene);
}

void ungroup(Scene& scene, const Numbers& chosen) {
    Numbers groups;
    for (const Number number : solidsAmong(scene, chosen)) groups.insert(scene.solids.at(number).group);
    groups.erase(0);
    for (const Number group : groups) {
        const Number within = scene.groups.at(group).within;
        for (auto& [number, solid] : scene.solids)
            if (solid.group == group) solid.group = within;
        for (auto& [number, other] : scene.groups)
            if (other.within == group) other.within = within;
        scene.groups.erase(group);
    }
}

void lead(Scene& scene, Number solid) {
    const Solid* of = at(scene.solids, solid);
    if (of && of->group != 0) scene.groups.at(of->group).lead = solid;
}

void rename(Scene& scene, Number part, const std::string& name) {
    if (Group* of = at(scene.groups, part)) of->name = name;
    if (Solid* of = at(scene.solids, part)) of->name = name;
    if (Light* of = at(scene.lights, part)) of->name = name;
}

} // namespace zl::solids
