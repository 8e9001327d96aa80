#include "core/steps/cut_out.h"

#include "core/base/pattern.h"
#include "core/base/unique_names.h"
#include "core/base/words.h"

#include <map>

namespace zl::steps {

namespace {

/// Gives the nodes' triangles materials of their own: copies of those that they wear, or one new one.
void clothe(Model& model, const std::vector<int>& nodes, CutOut::Wears wears, const std::string& called) {
    UniqueNames names;
    for (const Material& material : model.materials) names.take(material.name);
    std::map<int, int> own; ///< by what was worn
    const auto ownFor = [&](int worn) {
        const auto [entry, fresh] = own.try_emplace(worn, int(model.materials.size()));
        if (fresh) {
            Material material =
                worn >= 0 && wears == CutOut::Wears::Copies ? model.materials[std::size_t(worn)] : Material{};
            material.name = names.made(called);
            model.materials.push_back(std::move(material));
        }
        return entry->second;
    };
    for (const int node : nodes) {
        auto& held = model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)];
        auto mesh = std::make_shared<Mesh>(*held);
        auto wear = triangleWear(*mesh);
        for (Wear& one : wear)
            one = wearOf(ownFor(wears == CutOut::Wears::New ? -1 : materialOf(one)), surfaceOf(one));
        dress(*mesh, wear);
        model.nodes[std::size_t(node)].mesh = int(model.meshes.size());
        model.meshes.push_back(std::move(mesh));
    }
}

} // namespace

Model CutOut::apply(const Model& in, StepContext& context) const {
    const auto chosen = context.chosen(in, faces);
    std::vector<int> made;
    Model out = selection::cutOut(in, chosen, {name, way == Way::Copy, border}, &made);
    if (made.empty()) {
        context.note("nothing is chosen");
        return out;
    }
    if (wears == Wears::New) context.note("its material is new and has no picture");
    if (wears != Wears::AsBefore)
        clothe(out, made, wears, name.empty() ? out.nodes[std::size_t(made[0])].name : name);
    auto parts = nlohmann::json::array();
    for (const int node : made) {
        const Mesh& mesh = *out.meshes[std::size_t(out.nodes[std::size_t(node)].mesh)];
        const std::string& called = out.nodes[std::size_t(node)].name;
        parts.push_back(
            {{"name", called}, {"corners", mesh.vertexCount()}, {"triangles", mesh.triangleCount()}});
        context.note(fmt::format("\"{}\": {}, {}", called,
                                 showCount(long(mesh.vertexCount()), "corner", "corners"),
                                 showCount(long(mesh.triangleCount()), "triangle", "triangles")));
    }
    context.facts = {{"parts", std::move(parts)}};
    return out;
}

Model JoinBack::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(parts.patterns);
    std::vector<std::string> notes;
    std::vector<char> marks;
    for (const Node& node : in.nodes) marks.push_back(wanted.match(node.name));
    Model out = selection::joinedBack(in, marks, weld, &notes);
    const std::size_t joined = objectCount(in) - objectCount(out);
    context.note(joined == 0 ? "nothing was cut out before"
                             : fmt::format("{} joined back", showCount(long(joined), "part", "parts")));
    for (std::string& note : notes) context.fellShort(std::move(note));
    return out;
}

} // namespace zl::steps
