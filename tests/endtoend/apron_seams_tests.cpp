// A stripe that goes on from one panel of the fair apron to the next, wherever the apron is cut.
#include "command_line.h"
#include "support/ran_step.h"

#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/texture/picture_file.h"

#include <glm/gtc/matrix_transform.hpp>

#include <random>

using namespace zl;

namespace {

/// The triangles of the canvas on either side of a plane, as two panels in one cloth. The second panel's
/// picture lies as `otherwise` says.
Model cutByPlane(const Mesh& apron, const glm::vec3& normal, float at,
                 const std::function<glm::vec2(glm::vec2)>& otherwise) {
    Model model;
    model.name = "apron";
    model.materials = {{.name = "canvas"}};
    model.images = {
        texture::pictureFromPixels("canvas.png", {4, 4, std::vector<std::uint8_t>(64, 140)}, false)};
    model.materials[0].wear(PictureRole::Colour, {.image = 0});
    std::array<Mesh, 2> sides;
    std::array<std::vector<std::uint32_t>, 2> known;
    for (auto& list : known) list.assign(apron.vertexCount(), ~0u);
    for (Mesh& side : sides) side.uvSets.emplace_back();
    for (std::size_t t = 0; t + 2 < apron.indices.size(); t += 3) {
        glm::vec3 middle(0);
        for (std::size_t k = 0; k < 3; ++k) middle += apron.positions[apron.indices[t + k]] / 3.0f;
        const std::size_t which = glm::dot(middle, normal) > at;
        Mesh& side = sides[which];
        for (std::size_t k = 0; k < 3; ++k) {
            std::uint32_t& vertex = known[which][apron.indices[t + k]];
            if (vertex == ~0u) {
                vertex = std::uint32_t(side.positions.size());
                side.positions.push_back(apron.positions[apron.indices[t + k]]);
                const glm::vec2 uv = apron.uvSets[0][apron.indices[t + k]];
                side.uvSets[0].push_back(which ? otherwise(uv) : uv);
            }
            side.indices.push_back(vertex);
        }
    }
    for (int side = 0; side < 2; ++side) {
        Mesh& mesh = sides[std::size_t(side)];
        mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), 0}};
        model.nodes.push_back({side ? "second" : "first", -1, glm::dmat4(1.0), side});
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    }
    return model;
}

/// The triangles of one material.
Mesh wearing(const Model& model, const std::string& material) {
    const Mesh whole = geometry::flattened(model);
    const auto worn = triangleMaterials(whole);
    Mesh out = whole;
    out.indices.clear();
    for (std::size_t t = 0; t < worn.size(); ++t)
        if (worn[t] >= 0 && model.materials[std::size_t(worn[t])].name == material)
            out.indices.insert(out.indices.end(), whole.indices.begin() + std::ptrdiff_t(3 * t),
                               whole.indices.begin() + std::ptrdiff_t(3 * t + 3));
    return out;
}

} // namespace

TEST_CASE("a stripe runs on across twenty seams of the apron") {
    const Model apron = formats::readModel(demo() / "fair-apron_slim.glb");
    std::vector<std::string> fabrics;
    for (const Material& material : apron.materials) fabrics.push_back(material.name);
    CHECK(fabrics.size() >= 3);
    const Mesh canvas = wearing(apron, fabrics[0]);
    REQUIRE(canvas.triangleCount() > 2000);
    const auto bounds = geometry::meshBounds(canvas);
    std::mt19937 random(20);
    const auto part = [&] { return double(random() % 2001) / 1000 - 1; };
    constexpr double stripe = 0.1; // of the picture
    for (int round = 0; round < 20; ++round) {
        const double lean = 0.6 * part();
        const glm::vec3 normal = glm::normalize(round % 2 ? glm::vec3(1, lean, 0) : glm::vec3(lean, 1, 0));
        const auto at = float(glm::dot(bounds.centre(), glm::dvec3(normal)) +
                              0.1 * part() * bounds.size()[round % 2 ? 0 : 1]);
        const double turn = 3 * part(), size = std::exp(part());
        const glm::vec2 move(3 * part(), 3 * part());
        const Model sewn = cutByPlane(canvas, normal, at, [&](glm::vec2 uv) {
            const glm::vec2 turned(std::cos(turn) * uv.x - std::sin(turn) * uv.y,
                                   std::sin(turn) * uv.x + std::cos(turn) * uv.y);
            return turned * float(size) + move;
        });
        CAPTURE(round, lean, turn, size);
        REQUIRE(sewn.meshes[1]->triangleCount() > 100);
        const auto part = [](const char* name) { return nlohmann::json::array({{{"parts", {name}}}}); };
        const auto ran = ranStep(sewn, "run-on", {{"from", part("first")}, {"onto", part("second")}});
        // Measured here by itself: corners of both panels at one place must have one UV, or a whole number of
        // pictures apart.
        std::map<std::tuple<float, float, float>, glm::vec2> first;
        const Mesh &a = *ran.model.meshes[0], &b = *ran.model.meshes[1];
        for (std::size_t v = 0; v < a.vertexCount(); ++v)
            first[{a.positions[v].x, a.positions[v].y, a.positions[v].z}] = a.uvSets[0][v];
        double most = 0;
        int met = 0;
        for (std::size_t v = 0; v < b.vertexCount(); ++v) {
            const auto found = first.find({b.positions[v].x, b.positions[v].y, b.positions[v].z});
            if (found == first.end()) continue;
            glm::vec2 apart = found->second - b.uvSets[0][v];
            apart -= glm::vec2(std::round(apart.x), std::round(apart.y));
            most = std::max(most, double(glm::length(apart)));
            ++met;
        }
        CHECK(met > 10);
        CHECK(most <= 0.005 * stripe);
        CHECK(ran.facts["seam"]["largest"].get<double>() <= 0.005 * stripe);
    }
}
