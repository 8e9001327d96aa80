// Wheels moved from one cart to another: centres, nodes, pictures and settings.
#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/geometry/part_places.h"
#include "core/model/model_bytes.h"
#include "core/model/promises.h"
#include "core/platform/check.h"
#include "core/recipe/recipe.h"
#include "core/steps/take_parts.h"
#include "support/companions.h"
#include "support/rich_model.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <set>

using namespace zl;

namespace {

/// A cart whose four wheels hang on hubs; wheels stand `wide` apart and are `radius` high. The file's maker
/// left their origins somewhere else. A brake hangs inside each wheel when asked.
Model cart(double wide, double radius, std::uint8_t grey, const char* wheelName, bool brakes) {
    Model model;
    model.frame.unitAssumed = model.frame.upAssumed = false;
    model.headingKnown = true;
    model.images = {texture::pictureFromBytes("rim.png", png(4, 4, grey))};
    model.materials = {{.name = "wood"}, {.name = "rim"}};
    model.materials[1].picture(PictureRole::Colour).image = 0;
    model.materials[1].settings = {{"spokes", double(grey)}};
    const auto add = [&](const std::string& name, int parent, const glm::dvec3& at, Mesh mesh, int material) {
        mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), material}};
        mesh.name = name;
        model.nodes.push_back({name, parent, glm::translate(glm::dmat4(1.0), at), -1});
        if (mesh.indices.empty()) return int(model.nodes.size()) - 1;
        model.nodes.back().mesh = int(model.meshes.size());
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
        return int(model.nodes.size()) - 1;
    };
    const int body = add("body", -1, {}, geometry::boxMesh({-0.5, 0.4, -1}, {0.5, 0.8, 1}), 0);
    for (const char* end : {"front", "rear"})
        for (const char* side : {"left", "right"}) {
            const double x = (std::string(side) == "left" ? 0.5 : -0.5) * wide,
                         z = std::string(end) == "front" ? 0.7 : -0.7;
            const std::string name = std::string(".") + end + "." + side;
            const int hub = add("hub" + name, body, {x, radius, z}, {}, -1);
            Mesh wheel = shapes::sphere(12, 6, radius);
            for (auto& p : wheel.positions) p.x *= 0.2f, p += glm::vec3(0.03, 0.02, 0); // off its origin
            const int node = add(wheelName + name, hub, {-0.03, -0.02, 0}, wheel, 1);
            if (brakes) add("brake" + name, node, {0, 0, 0}, shapes::sphere(6, 4, 0.1), 0);
        }
    return model;
}

struct Taken {
    Model model;
    recipe::Outcome outcome;
};
Taken taken(const Model& host, const Model& donor, const nlohmann::json& params) {
    TestSurroundings around;
    around.add("Donor cart", donor, 3);
    nlohmann::json with = params;
    with["from"] = {{"piece", "Donor cart"}};
    const auto done =
        recipe::evaluate(host, 1, {{"take-parts", true, steps::makeStep("take-parts", with)->params()}},
                         {nullptr, &around}, nullptr);
    return {done.model, done.outcomes[0]};
}

int named(const Model& model, const std::string& name) {
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (model.nodes[n].name == name) return int(n);
    return -1;
}

platform::RuleResult ruled(const Model& model, const std::string& rule) {
    const TemporaryFolder folder;
    writeFile(folder / "s.toml",
              "id = \"s\"\nname = \"S\"\nkind = \"k\"\nabout = \"a\"\n[unit]\nname = \"m\"\nmetres = 1.0\n"
              "[axes]\nup = \"Y\"\nfront = \"+Z\"\n[figure]\nheight = 1.8\n[[rule]]\n" +
                  rule + "\nlabel = \"R\"\nmessage = \"m\"\n");
    return platform::check(model, platform::readSheet(folder / "s.toml")).rules.at(0);
}

} // namespace

TEST_CASE("nodes that a game steers by must be there, and what turns on them is centred") {
    Model host = cart(1.2, 0.4, 10, "wheel", false);
    const std::string present = "id = \"nodes-present\"\nnames = \"hub.front.*, hub.rear.*, body\"";
    const std::string centred = "id = \"centred-on\"\nparts = \"wheel.*\"\non = \"hub.*\"\nwithin = 0.001";
    CHECK(ruled(host, present).state == platform::State::Fits);
    CHECK(ruled(host, centred).state == platform::State::Fits);
    host.nodes[std::size_t(named(host, "wheel.rear.left"))].local[3].x += 0.05;
    const auto off = ruled(host, centred);
    CHECK(off.state == platform::State::Broken);
    CHECK(off.finding.nodes == std::vector<int>{named(host, "wheel.rear.left")});
    CHECK(off.finding.value == Approx(0.05).epsilon(1e-3));
    host.nodes[std::size_t(named(host, "hub.front.left"))].name = "Hub.front.left";
    CHECK(ruled(host, centred).finding.note.find("\"hub.front.left\"") != std::string::npos);
    for (auto& node : host.nodes)
        if (node.name.starts_with("hub.rear")) node.name = "axle";
    CHECK(ruled(host, present).finding.note == "There is no node hub.rear.*");
}

TEST_CASE("a scale other than 1 and a material without its settings are found") {
    Model host = cart(1.2, 0.4, 10, "wheel", false);
    CHECK(ruled(host, "id = \"scale-is-one\"").state == platform::State::Fits);
    Model turned = host;
    turned.nodes[0].local = glm::rotate(glm::dmat4(1.0), 0.3, glm::dvec3(0, 1, 0));
    CHECK(ruled(turned, "id = \"scale-is-one\"").state == platform::State::Fits);
    Model toy = host;
    toy.placement = glm::scale(glm::dmat4(1.0), glm::dvec3(0.01));
    CHECK(ruled(toy, "id = \"scale-is-one\"").finding.note == "\"body\" is scaled");
    const std::string settings = "id = \"settings-present\"\nnames = \"spokes\"";
    CHECK(ruled(host, settings).finding.note == "\"wood\" does not say \"spokes\"");
    host.materials[0].settings = {{"spokes", 0.0}};
    CHECK(ruled(host, settings).state == platform::State::Fits);
}

TEST_CASE("all four wheels at once find their hubs' wheels by where they are, and are centred there") {
    const Model host = cart(1.2, 0.4, 10, "wheel", false), donor = cart(2.0, 0.5, 200, "w", false);
    const std::string donorBytes = toBytes(donor);
    const auto [out, outcome] = taken(host, donor, {{"parts", {"w.*"}}, {"places", {"wheel.*"}}});
    REQUIRE(brokenPromise(out).empty());
    CHECK(toBytes(donor) == donorBytes);
    REQUIRE(out.nodes.size() == host.nodes.size());
    for (std::size_t n = 0; n < host.nodes.size(); ++n) {
        CHECK(out.nodes[n].name == host.nodes[n].name);
        CHECK(out.nodes[n].parent == host.nodes[n].parent);
        CHECK(out.nodes[n].local == host.nodes[n].local); // scale 1 stays 1
    }
    for (const char* at : {"front.left", "front.right", "rear.left", "rear.right"}) {
        const int wheel = named(out, std::string("wheel.") + at);
        const glm::dvec3 hub(worldMatrices(host)[std::size_t(named(host, std::string("hub.") + at))][3]);
        const auto bounds = geometry::boundsOf(out, {wheel});
        CHECK(glm::distance(bounds.centre(), hub) < 1e-4);
        CHECK(bounds.size().y == Approx(1.0).epsilon(1e-4)); // as large as it was, not as the host's
        CHECK(outcome.facts["taken"].dump().find(std::string("/w.") + at) != std::string::npos);
    }
    // Pictures of one name with other bytes are told apart, materials with them; settings come along.
    REQUIRE(out.images.size() == 2);
    CHECK(out.images[0]->encoded == host.images[0]->encoded);
    CHECK(out.images[1]->encoded == donor.images[0]->encoded);
    CHECK(out.images[1]->name == "rim-2.png");
    const auto worn = triangleMaterials(
        *out.meshes[std::size_t(out.nodes[std::size_t(named(out, "wheel.front.left"))].mesh)]);
    const Material& material = out.materials[std::size_t(worn[0])];
    CHECK(material.name == "rim-2");
    CHECK(material.image(PictureRole::Colour) == 1);
    CHECK(material.settings == donor.materials[1].settings);
    CHECK(out.materials[1].settings == host.materials[1].settings);
    CHECK(outcome.facts["renamed"] == nlohmann::json{"rim.png → rim-2.png", "rim → rim-2"});
    CHECK(std::ranges::count(outcome.notes, "480 triangles leave, 480 come") == 1);
    REQUIRE(outcome.facts["offers"].size() == 1);
    CHECK(outcome.facts["offers"][0]["params"]["rows"].size() == 4);
}

TEST_CASE(
    "equal pictures and materials are shared, a brake may stay behind, and rows place by feet or mirrored") {
    const Model host = cart(1.2, 0.4, 10, "wheel", false), donor = cart(1.6, 0.5, 10, "wheel", true);
    const auto [out, outcome] = taken(host, donor, {{"parts", {"wheel.*"}}, {"without", {"brake*"}}});
    CHECK(out.images.size() == 1);
    CHECK(out.materials.size() == 2);
    CHECK(out.nodes.size() == host.nodes.size()); // no brake came
    const auto [with, told] = taken(host, donor, {{"parts", {"wheel.*"}}});
    CHECK(with.nodes.size() == host.nodes.size() + 4);
    CHECK(with.nodes.back().parent == named(with, "wheel.rear.right"));

    const nlohmann::json row{{"part", "wheel.front.left"},
                             {"place", "wheel.front.right"},
                             {"by", "foot"},
                             {"mirrored", true},
                             {"offset", {-0.1, 0, 0}}};
    const auto [one, said] = taken(host, donor, {{"rows", {row}}, {"without", {"brake*"}}});
    const auto bounds = geometry::boundsOf(one, {named(one, "wheel.front.right")});
    CHECK(bounds.min.y == Approx(0.0).margin(1e-4)); // both feet on the floor
    CHECK(bounds.centre().x == Approx(-0.7).margin(1e-4));
    const Mesh& was =
        *donor.meshes[std::size_t(donor.nodes[std::size_t(named(donor, "wheel.front.left"))].mesh)];
    const Mesh& is = *one.meshes[std::size_t(one.nodes[std::size_t(named(one, "wheel.front.right"))].mesh)];
    CHECK(is.triangleCount() == was.triangleCount());
    CHECK(is.indices != was.indices); // wound the other way, so that it faces outward
    nlohmann::json sized = row;
    sized["sized"] = true, sized["mirrored"] = false;
    const auto [small, words] = taken(host, donor, {{"rows", {sized}}, {"without", {"brake*"}}});
    CHECK(geometry::boundsOf(small, {named(small, "wheel.front.right")}).size().y ==
          Approx(0.8).epsilon(1e-4));
    // Onto a hub, which shows nothing: its origin is the place, and it keeps what hangs below it.
    nlohmann::json hub = row;
    hub["place"] = "body/hub.front.right", hub["by"] = "centre", hub["offset"] = {0, 0, 0};
    const auto [onHub, ignored] =
        taken(host, donor, {{"rows", {hub}}, {"without", {"brake*"}}, {"leaving", {"wheel*"}}});
    CHECK(onHub.nodes[std::size_t(named(onHub, "wheel.front.right"))].mesh == -1);
    CHECK(onHub.nodes[std::size_t(named(onHub, "hub.front.right"))].mesh >= 0);
}

TEST_CASE("a part, a place or a piece that is not there is said, and nothing is changed") {
    const Model host = cart(1.2, 0.4, 10, "wheel", false), donor = cart(1.6, 0.5, 10, "wheel", true);
    CHECK_THROWS_AS(taken(host, donor, {{"parts", {"wing*"}}}), Error);
    CHECK_THROWS_AS(taken(host, donor, {{"parts", {"wheel*"}}, {"places", {"wing*"}}}), Error);
    CHECK_THROWS_AS(taken(host, donor, {{"rows", {{{"part", "wing"}, {"place", "body"}}}}}), Error);
    CHECK_THROWS_AS(taken(host, donor, {{"rows", {{{"part", "body"}, {"place", "wing"}}}}}), Error);
    // Fewer places than parts: what finds none stays behind, and is named.
    const auto [out, outcome] = taken(host, donor, {{"parts", {"wheel.*"}}, {"places", {"wheel.front.*"}}});
    CHECK(outcome.shortfall.find("finds no place") != std::string::npos);
    CHECK(outcome.facts["taken"].size() == 2);
    CHECK(toBytes(taken(host, donor, nlohmann::json::object()).model).size() > 0);
    Model flat = host;
    flat.nodes[std::size_t(named(flat, "wheel.front.left"))].local =
        glm::scale(glm::dmat4(1.0), glm::dvec3(0));
    CHECK(taken(flat, donor, {{"parts", {"wheel.*"}}}).outcome.shortfall.find("scale of zero") !=
          std::string::npos);
}

TEST_CASE("an offset takes the hub along where the row says so, and the wheel stays on its middle") {
    const Model host = cart(1.2, 0.4, 10, "wheel", false), donor = cart(1.5, 0.5, 200, "wheel", false);
    const std::string place = "body/hub.front.left/wheel.front.left";
    const auto with = [&](const char* along, const glm::dvec3& offset) {
        return taken(host, donor,
                     {{"rows",
                       {{{"part", place},
                         {"place", place},
                         {"offset", {offset.x, offset.y, offset.z}},
                         {"along", along}}}}});
    };
    const auto placeOf = [](const Model& model, const std::string& name) {
        return glm::dvec3(worldMatrices(model)[std::size_t(named(model, name))][3]);
    };
    const auto centre = [](const Model& model, const std::string& name) {
        return geometry::boundsOf(model, {named(model, name)}).centre();
    };
    const glm::dvec3 by(0.05, 0.02, -0.01);
    const auto moved = with("body/hub.front.left", by).model;
    CHECK(glm::distance(placeOf(moved, "hub.front.left"), placeOf(host, "hub.front.left") + by) < 1e-9);
    CHECK(glm::distance(centre(moved, "wheel.front.left"), placeOf(moved, "hub.front.left")) < 1e-4);
    CHECK(placeOf(moved, "hub.front.right") == placeOf(host, "hub.front.right"));
    CHECK(ruled(moved, "id = \"centred-on\"\nparts = \"wheel.*\"\non = \"hub.*\"\nwithin = 0.001").state ==
          platform::State::Fits);
    // Without it the wheel leaves its hub; something else that goes along does not take the wheel with it.
    const auto off = with("", by).model;
    CHECK(glm::distance(centre(off, "wheel.front.left"), placeOf(host, "hub.front.left") + by) < 1e-4);
    const auto other = with("body/hub.rear.left", by).model;
    CHECK(glm::distance(centre(other, "wheel.front.left"), placeOf(host, "hub.front.left") + by) < 1e-4);
    CHECK(glm::distance(placeOf(other, "hub.rear.left"), placeOf(host, "hub.rear.left") + by) < 1e-9);
    CHECK_THROWS_WITH(with("body/hub.middle", by), Catch::Contains("\"body/hub.middle\""));
    // The rows that are offered name the hubs.
    const auto offered = taken(host, donor, {{"parts", {"wheel.*"}}}).outcome.facts["offers"][0];
    CHECK(offered.dump().find("\"along\":\"body/hub.rear.right\"") != std::string::npos);
}
