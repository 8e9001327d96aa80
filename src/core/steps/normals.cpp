#include "core/steps/normals.h"

#include "core/steps/lost_tangents.h"
#include "core/base/pattern.h"
#include "core/geometry/parts.h"

#include <map>

namespace zl::steps {

Model Normals::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(parts.patterns);
    Model out = in;
    std::map<int, int> made; // by mesh: chosen nodes that show one go on sharing it
    std::size_t corners = 0, before = 0, done = 0, touched = 0;
    for (Node& node : out.nodes) {
        context.progress.report(double(done++) / double(out.nodes.size()), "computing normals");
        if (node.mesh < 0 || !wanted.match(node.name)) continue;
        const auto [entry, fresh] = made.try_emplace(node.mesh, int(out.meshes.size()));
        if (fresh) {
            const Mesh& mesh = *in.meshes[std::size_t(node.mesh)];
            Mesh now = how == How::TurnOver ? geometry::turnedInsideOut(mesh)
                       : how == How::Hard   ? geometry::withNormals(mesh, 0)
                                            : geometry::withNormals(mesh, angle, weight);
            before += mesh.vertexCount(), corners += now.vertexCount();
            out.meshes.push_back(std::make_shared<const Mesh>(std::move(now)));
        }
        node.mesh = entry->second;
        ++touched;
    }
    if (touched == 0)
        throw Error(fmt::format("no part is called \"{}\"", patternsText(parts.patterns)), {},
                    "Choose among the model's parts.");
    if (how == How::TurnOver)
        context.note(fmt::format("{} turned inside out", showCount(long(touched), "part", "parts")));
    else
        context.note(fmt::format("normals of {}: {} → {} corners", showCount(long(touched), "part", "parts"),
                                 showNumber(double(before), 0), showNumber(double(corners), 0)));
    noteLostTangents(in, out, context);
    return geometry::withoutNodes(out, std::vector<char>(out.nodes.size(), 0));
}

} // namespace zl::steps
