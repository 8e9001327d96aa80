// Where pictures lie, as readers that are not ours find it in what is written and delivered.
#include "support/panels.h"
#include "support/ran_step.h"
#include "support/temporary_folder.h"

#include "core/deliver/deliver.h"
#include "core/formats/format.h"

#include <assimp/Importer.hpp>
#include <assimp/scene.h>
#include <catch2/catch.hpp>

#include <random>

using namespace zl;

namespace {

/// A square of a metre whose UVs go once over it, in a picture that is placed by its material, too.
Model cloth(const UvPlacement& placement) {
    Model model = shapes::pictured({shapes::uprightSquare(1)});
    model.headingKnown = true;
    for (PictureUse& use : model.materials[0].pictures)
        if (use) use.placement = placement;
    return model;
}

/// The UV of every corner by where it lies on the square, whatever unit and axes the file has: places are
/// shares of the whole along the two axes that are not flat.
std::vector<std::pair<glm::dvec2, glm::dvec2>> cornersElsewhere(const std::filesystem::path& file) {
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile(file.string(), 0);
    INFO(importer.GetErrorString());
    REQUIRE(scene);
    std::vector<std::pair<glm::dvec2, glm::dvec2>> out;
    for (unsigned m = 0; m < scene->mNumMeshes; ++m) {
        const aiMesh& mesh = *scene->mMeshes[m];
        REQUIRE(mesh.HasTextureCoords(0));
        glm::dvec3 low(1e9), high(-1e9);
        const auto at = [&](unsigned v) {
            return glm::dvec3(mesh.mVertices[v].x, mesh.mVertices[v].y, mesh.mVertices[v].z);
        };
        for (unsigned v = 0; v < mesh.mNumVertices; ++v)
            low = glm::min(low, at(v)), high = glm::max(high, at(v));
        const glm::dvec3 size = high - low;
        const int across = size.x > size.z ? 0 : 2, up = size.y > 1e-6 * size[across] ? 1 : 2;
        for (unsigned v = 0; v < mesh.mNumVertices; ++v) {
            const glm::dvec3 share = (at(v) - low) / glm::max(size, 1e-9);
            out.push_back({{share[across], share[up]},
                           {mesh.mTextureCoords[0][v].x, 1 - double(mesh.mTextureCoords[0][v].y)}});
        }
    }
    REQUIRE(out.size() >= 25);
    return out;
}

/// By how much places differ from the closed form: u to the right, v downward, moved to the right and down by
/// `offset`, then turned and sized as the material says.
double offBy(const std::vector<std::pair<glm::dvec2, glm::dvec2>>& corners,
             const std::function<glm::dvec2(glm::dvec2)>& wanted) {
    double most = 0;
    for (const auto& [place, uv] : corners) {
        // Axes may run the other way in a file; the square is the same from both sides.
        const double straight = glm::distance(uv, wanted({place.x, 1 - place.y})),
                     mirrored = glm::distance(uv, wanted({1 - place.x, 1 - place.y}));
        most = std::max(most, std::min(straight, mirrored));
    }
    return most;
}

} // namespace

TEST_CASE("a placement that was dragged is where readers elsewhere find it, in GLB, OBJ and COLLADA") {
    std::mt19937 random(12);
    const auto part = [&] { return double(random() % 2001) / 1000 - 1; };
    for (int round = 0; round < 12; ++round) {
        const double across = part(), down = part(), turn = 3 * part(), wider = 1.5 + part(),
                     taller = 1.5 + part();
        const Model placed = ranStep(cloth({}), "uv-placement",
                                     {{"across", across},
                                      {"down", down},
                                      {"turn", turn * 180 / 3.141592653589793},
                                      {"wider", wider},
                                      {"taller", taller},
                                      {"about", "corner"}})
                                 .model;
        // On the model the picture is sized, turned counter-clockwise and moved; its UVs do the opposite.
        const auto wanted = [&](glm::dvec2 uv) {
            const glm::dvec2 p = uv - glm::dvec2(across, down);
            const double c = std::cos(turn), s = std::sin(turn);
            return glm::dvec2(c * p.x - s * p.y, s * p.x + c * p.y) / glm::dvec2(wider, taller);
        };
        const TemporaryFolder folder;
        for (const auto& [write, name] : {std::pair(&formats::writeGlb, "cloth.glb"),
                                          {&formats::writeObj, "cloth.obj"},
                                          {&formats::writeCollada, "cloth.dae"}}) {
            CAPTURE(round, name, across, down, turn, wider, taller);
            writeAllOrNone(folder.path(), write(placed, {"cloth"}, nullptr));
            CHECK(offBy(cornersElsewhere(folder / name), wanted) < 1e-5);
        }
    }
}

TEST_CASE("how a material lays its picture is in the UVs of every delivery") {
    const UvPlacement lie{{0.3f, -0.15f}, {1.7f, 0.6f}, 0.4f};
    const auto wanted = [&](glm::dvec2 uv) { return glm::dvec2(lie.of(glm::vec2(uv))); };
    for (const char* id : {"playmeadow", "skerry", "commonmoor", "saltbranch", "oxbow"}) {
        CAPTURE(id);
        const auto sheet = platform::sheetNamed(platform::loadSheets(), id);
        const TemporaryFolder folder;
        writeAllOrNone(folder.path(),
                       deliver::deliverableFor(*sheet)->make(cloth(lie), *sheet, {.name = "cloth"}, {}));
        std::filesystem::path found;
        for (const auto& entry : std::filesystem::recursive_directory_iterator(folder.path()))
            if (entry.path().extension() == ".glb") found = entry.path();
        REQUIRE_FALSE(found.empty());
        CHECK(offBy(cornersElsewhere(found), wanted) < 1e-5);
    }
}
