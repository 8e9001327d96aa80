// Rigs and clips that lie: read as far as they make sense, or refused in words.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/model/finite.h"
#include "core/model/promises.h"
#include "core/motion/posed.h"
#include "support/glb_parts.h"
#include "support/quickest.h"
#include "support/swimmer.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <limits>

using namespace zl;
using nlohmann::json;

namespace {

GlbParts parts() {
    return GlbParts(formats::writeGlb(swimmer(), {"fish"}, nullptr)[0].bytes);
}

Model read(const GlbParts& parts) {
    TemporaryFolder folder;
    return formats::readModel(folder.write("fish.glb", parts.bytes()));
}

/// Puts floats in place of the first of an accessor's.
void patch(GlbParts& parts, const json& accessor, const std::vector<float>& values) {
    const json& view =
        parts.json["bufferViews"]
                  [parts.json["accessors"][accessor.get<std::size_t>()]["bufferView"].get<std::size_t>()];
    std::memcpy(parts.binary.data() + view.value("byteOffset", std::size_t(0)), values.data(),
                4 * values.size());
}

/// Every clip, at moments inside and outside of it, has a pose of numbers.
void posesAreNumbers(const Model& model) {
    REQUIRE(keepsPromises(model));
    for (const auto& clip : model.clips)
        for (const double at : {-1.0, 0.0, 0.1, 0.5, 1e9}) {
            const auto pose = motion::posed(model, *clip, at);
            for (const glm::dmat4& world : pose.world) CHECK(isFinite(world));
        }
}

} // namespace

TEST_CASE("Clips of times that are no numbers, of none and of one moment are read") {
    for (const std::vector<float>& times : {std::vector<float>{std::numeric_limits<float>::quiet_NaN()},
                                            {std::numeric_limits<float>::infinity(), 0},
                                            {5, 1, 3, 2},
                                            {-1e30f, 1e30f},
                                            {0, 0, 0, 0}}) {
        GlbParts rough = parts();
        for (auto& animation : rough.json["animations"])
            for (auto& sampler : animation["samplers"]) patch(rough, sampler["input"], times);
        const Model model = read(rough);
        posesAreNumbers(model);
        for (const auto& clip : model.clips) CHECK(std::isfinite(motion::lengthOf(*clip)));
    }
    GlbParts still = parts(); // one key: a clip of no length
    for (auto& animation : still.json["animations"])
        for (auto& sampler : animation["samplers"])
            for (const char* end : {"input", "output"})
                still.json["accessors"][sampler[end].get<std::size_t>()]["count"] = 1;
    const Model model = read(still);
    posesAreNumbers(model);
    for (const auto& clip : model.clips) CHECK(motion::lengthOf(*clip) == 0);
}

TEST_CASE("Turns of length zero and of no numbers leave the bone a turn") {
    for (const float value : {0.0f, std::numeric_limits<float>::quiet_NaN(), 1e30f}) {
        GlbParts rough = parts();
        for (auto& animation : rough.json["animations"])
            for (auto& channel : animation["channels"])
                if (channel["target"]["path"] == "rotation")
                    patch(rough, animation["samplers"][channel["sampler"].get<std::size_t>()]["output"],
                          {value, value, value, value});
        posesAreNumbers(read(rough));
    }
}

TEST_CASE("Skins of bones that are not there, and nodes in a ring, are refused by name") {
    GlbParts gone = parts();
    gone.json["skins"][0]["joints"][1] = 4000;
    CHECK_THROWS_WITH(read(gone), Catch::Contains("bone is not in the scene"));
    GlbParts ring = parts();
    ring.json["nodes"][2]["children"] = {0};
    CHECK_THROWS_AS(read(ring), Error);
    GlbParts own = parts();
    own.json["nodes"][1]["children"] = {1};
    CHECK_THROWS_AS(read(own), Error);
    GlbParts channel = parts();
    channel.json["animations"][0]["channels"][0]["target"]["node"] = 999;
    posesAreNumbers(read(channel));
    channel.json["animations"][0]["channels"][0] = {{"sampler", 999},
                                                    {"target", {{"node", 1}, {"path", "rotation"}}}};
    CHECK_THROWS_AS(read(channel), Error);
}

TEST_CASE("Weights that are all zero hang corners on something") {
    GlbParts rough = parts();
    for (auto& mesh : rough.json["meshes"])
        for (auto& primitive : mesh["primitives"])
            if (primitive["attributes"].contains("WEIGHTS_0"))
                patch(rough, primitive["attributes"]["WEIGHTS_0"], std::vector<float>(400, 0));
    posesAreNumbers(read(rough));
}

TEST_CASE("Ten thousand bones in one chain are read and posed in a moment") {
    GlbParts deep = parts();
    auto& nodes = deep.json["nodes"];
    auto& joints = deep.json["skins"][0]["joints"];
    deep.json["skins"][0].erase("inverseBindMatrices");
    for (int b = 0; b < 10000; ++b) {
        const std::size_t above = b == 0 ? joints.back().get<std::size_t>() : nodes.size() - 1;
        nodes[above]["children"].push_back(nodes.size());
        nodes.push_back({{"name", "b" + std::to_string(b)}, {"translation", {0, 0.001, 0}}});
        joints.push_back(nodes.size() - 1);
    }
    const WorkWatch watch;
    const Model model = read(deep);
    CHECK(model.skins[0].joints.size() >= 10000);
    posesAreNumbers(model);
    const double seconds = watch.seconds();
    CAPTURE(seconds);
    CHECK(seconds < 5);
}

TEST_CASE("A node that a clip moves and that is pressed flat is written with numbers") {
    Model model = swimmer();
    model.nodes[2].local =
        glm::translate(glm::dmat4(1), {0.25, 0.5, -0.4}) * glm::scale(glm::dmat4(1), {2.0, 0.0, 0.0});
    const GlbParts written(formats::writeGlb(model, {"fish"}, nullptr)[0].bytes);
    const json& node = written.json["nodes"][2];
    CHECK(node["translation"] == json::array({0.25, 0.5, -0.4}));
    CHECK(node["scale"] == json::array({2.0, 0.0, 0.0}));
    CHECK(node.value("rotation", json::array({0.0, 0.0, 0.0, 1.0})) == json::array({0.0, 0.0, 0.0, 1.0}));
}
