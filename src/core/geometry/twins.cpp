#include "core/geometry/twins.h"

#include "core/base/units.h"
#include "core/model/finite.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

namespace zl::geometry {

namespace {

const Mesh& meshOf(const Model& model, int node) {
    return *model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)];
}

std::optional<std::uint32_t> firstDifference(const Mesh& a, const Mesh& b) {
    const std::size_t both = std::min(a.indices.size(), b.indices.size());
    const auto [end, other] =
        std::mismatch(a.indices.begin(), a.indices.begin() + std::ptrdiff_t(both), b.indices.begin());
    const auto at = std::size_t(end - a.indices.begin());
    if (at == both && a.indices.size() == b.indices.size()) return std::nullopt;
    return std::uint32_t(at / 3);
}

TwinObject heldAgainst(const Model& a, const Model& b, int nodeA, int nodeB) {
    const Mesh &left = meshOf(a, nodeA), &right = meshOf(b, nodeB);
    TwinObject object;
    object.name = a.nodes[std::size_t(nodeA)].name;
    object.corners = {left.vertexCount(), right.vertexCount()};
    object.triangles = {left.triangleCount(), right.triangleCount()};
    object.node = {nodeA, nodeB};
    object.firstDifference = firstDifference(left, right);
    object.uvs = left.uvSets == right.uvSets;
    object.weights = left.joints == right.joints && left.weights == right.weights;
    return object;
}

/// The name up to its last word: "apron" of "apron_slim".
std::string_view withoutSize(std::string_view name) {
    const std::size_t end = name.find_last_of("_- .");
    return end == std::string_view::npos || end == 0 ? name : name.substr(0, end);
}

/// Which of b's objects each of a's is; -1 for those that b has not.
std::vector<int> partners(const Model& a, const Model& b, const std::vector<int>& left,
                          const std::vector<int>& right) {
    std::vector<int> out(left.size(), -1);
    std::vector<char> taken(right.size(), 0);
    const auto byName = [&](const auto& called) {
        std::map<std::string_view, std::vector<std::size_t>> named; // last first
        for (std::size_t i = right.size(); i-- > 0;)
            if (!taken[i]) named[called(b.nodes[std::size_t(right[i])].name)].push_back(i);
        for (std::size_t i = 0; i < left.size(); ++i) {
            if (out[i] >= 0) continue;
            const auto found = named.find(called(a.nodes[std::size_t(left[i])].name));
            if (found == named.end() || found->second.empty()) continue;
            out[i] = int(found->second.back());
            taken[found->second.back()] = 1;
            found->second.pop_back();
        }
    };
    byName([](const std::string& name) { return std::string_view(name); });
    byName([](const std::string& name) { return withoutSize(name); });
    for (std::size_t i = 0; i < std::min(left.size(), right.size()); ++i)
        if (out[i] < 0 && !taken[i] &&
            meshOf(a, left[i]).triangleCount() == meshOf(b, right[i]).triangleCount())
            out[i] = int(i), taken[i] = 1;
    return out;
}

std::string counted(std::size_t count, const char* one, const char* many) {
    return showCount(static_cast<long long>(count), one, many);
}

} // namespace

const TwinObject* TwinReport::firstUnequal() const {
    const auto found = std::ranges::find_if(objects, [](const TwinObject& o) { return !o.isEqual(); });
    return found == objects.end() ? nullptr : &*found;
}

std::string TwinReport::why(const std::array<std::string, 2>& sizes) const {
    const TwinObject* object = firstUnequal();
    if (!object) return {};
    if (!object->isInBoth())
        return fmt::format("\"{}\" is there in {} only", object->name, sizes[object->order[0] >= 0 ? 0 : 1]);
    const auto differ = [&](const auto& counts, const char* one, const char* many) {
        return fmt::format("\"{}\" has {} in {} and {} in {}", object->name, counted(counts[0], one, many),
                           sizes[0], counted(counts[1], one, many), sizes[1]);
    };
    if (object->corners[0] != object->corners[1]) return differ(object->corners, "corner", "corners");
    if (object->triangles[0] != object->triangles[1])
        return differ(object->triangles, "triangle", "triangles");
    if (object->firstDifference)
        return fmt::format("\"{}\" is made of other triangles from number {} on", object->name,
                           *object->firstDifference + 1);
    return fmt::format("\"{}\" is object {} in {} and {} in {}", object->name, object->order[0] + 1, sizes[0],
                       object->order[1] + 1, sizes[1]);
}

TwinReport comparedTwins(const Model& a, const Model& b) {
    const auto left = shownNodes(a), right = shownNodes(b);
    const auto partner = partners(a, b, left, right);
    TwinReport report;
    std::vector<char> taken(right.size(), 0);
    for (std::size_t i = 0; i < left.size(); ++i) {
        TwinObject object;
        if (partner[i] >= 0) {
            object = heldAgainst(a, b, left[i], right[std::size_t(partner[i])]);
            taken[std::size_t(partner[i])] = 1;
        } else {
            object.name = a.nodes[std::size_t(left[i])].name;
            object.corners[0] = meshOf(a, left[i]).vertexCount();
            object.triangles[0] = meshOf(a, left[i]).triangleCount();
            object.node[0] = left[i];
        }
        object.order = {int(i), partner[i]};
        report.objects.push_back(std::move(object));
    }
    for (std::size_t i = 0; i < right.size(); ++i) {
        if (taken[i]) continue;
        TwinObject& object = report.objects.emplace_back();
        object.name = b.nodes[std::size_t(right[i])].name;
        object.corners[1] = meshOf(b, right[i]).vertexCount();
        object.triangles[1] = meshOf(b, right[i]).triangleCount();
        object.order[1] = int(i), object.node[1] = right[i];
    }
    report.equal = report.firstUnequal() == nullptr;
    return report;
}

Model blendedTwins(const Model& a, const Model& b, const TwinReport& report, double share) {
    Model out = a;
    const auto worldA = worldMatrices(a), worldB = worldMatrices(b);
    const auto part = float(share);
    for (const TwinObject& object : report.objects) {
        if (!object.blends()) continue;
        const auto nodeA = std::size_t(object.node[0]), nodeB = std::size_t(object.node[1]);
        auto mesh = std::make_shared<Mesh>(meshOf(a, object.node[0]));
        const Mesh& to = meshOf(b, object.node[1]);
        const glm::dmat4 across = glm::inverse(worldA[nodeA]) * worldB[nodeB];
        const glm::mat4 place(isFinite(across) ? across : glm::dmat4(1.0));
        for (std::size_t v = 0; v < mesh->positions.size(); ++v)
            mesh->positions[v] =
                glm::mix(mesh->positions[v], glm::vec3(place * glm::vec4(to.positions[v], 1)), part);
        if (mesh->normals.size() == to.normals.size())
            for (std::size_t v = 0; v < mesh->normals.size(); ++v)
                mesh->normals[v] = glm::mix(mesh->normals[v], glm::mat3(place) * to.normals[v], part);
        if (object.weights || mesh->joints == to.joints)
            for (std::size_t v = 0; v < mesh->weights.size(); ++v)
                mesh->weights[v] = glm::mix(mesh->weights[v], to.weights[v], part);
        out.nodes[nodeA].mesh = int(out.meshes.size());
        out.meshes.push_back(std::move(mesh));
    }
    return out;
}

} // namespace zl::geometry
