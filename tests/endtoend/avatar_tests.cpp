// Avatars from a figure to the mirror, and read by others.
#include "core/formats/format.h"
#include "endtoend/command_line.h"
#include "support/glb_parts.h"

#include <catch2/catch.hpp>

using namespace zl;
using nlohmann::json;

namespace {

std::filesystem::path only(const std::filesystem::path& folder, const std::string& ending) {
    for (const auto& entry : std::filesystem::directory_iterator(folder))
        if (entry.path().extension() == ending) return entry.path();
    FAIL("no " << ending << " in " << folder);
    return {};
}

json readByAnother(const std::filesystem::path& file) {
    const auto ran = run("node " ZEST_LOOM_VRM_READER " " + quoted(file));
    INFO(ran.out);
    REQUIRE(ran.code == 0);
    return json::parse(ran.out);
}

} // namespace

TEST_CASE("an avatar passes the validator, and a reader that is not ours finds all of its set-up") {
    TemporaryFolder out;
    const std::string fair = quoted(demo() / "bergamot-quay.zestloom");
    for (const char* piece : {"Pip the winder", "Pip of last year"}) {
        INFO(piece);
        const auto folder = out / std::string(piece);
        REQUIRE(
            cli("build " + fair + " --piece '" + piece + "' --platform mirrorfolk --out " + quoted(folder))
                .code == 0);
        const auto file = only(folder, ".vrm");
        const auto checked = run("node " ZEST_LOOM_VALIDATOR " " + quoted(file));
        INFO(checked.out);
        CHECK(checked.out.substr(0, checked.out.find('\n')) == "0");
        const json theirs = readByAnother(file),
                   ours = cli("inspect " + quoted(file) + " --json").json()["avatar"];
        CHECK(ours["version"] == "1.0");
        std::vector<std::string> bones;
        for (const auto& [role, bone] : ours["bones"].items()) bones.push_back(role);
        CHECK(theirs["bones"] == bones);
        REQUIRE(theirs["expressions"].size() == ours["expressions"].size());
        CHECK(theirs["expressions"].size() == 10);
        for (const auto& face : theirs["expressions"]) {
            CAPTURE(face["name"]);
            CHECK(std::ranges::find(ours["expressions"], face["name"]) != ours["expressions"].end());
            CHECK(face["binds"] == (face["name"] == "relaxed" || face["name"] == "wink" ? 2 : 1));
        }
        for (int k = 0; k < 3; ++k)
            CHECK(theirs["lookAt"]["offset"][std::size_t(k)].get<double>() ==
                  Approx(ours["lookAt"]["offsetFromHeadBone"][std::size_t(k)].get<double>()).margin(1e-9));
        CHECK(theirs["lookAt"]["outward"]["outputScale"] == 24);
        CHECK(theirs["meta"]["authors"] == json::array({"Odd Fennel"}));
        CHECK(theirs["springs"] == (piece == std::string("Pip of last year") ? 3 : 0));
        const auto tried = cli("try " + quoted(folder) + " --platform mirrorfolk --json");
        CHECK(tried.code == 0);
        CHECK(tried.json()["accepted"] == true);
    }
}

TEST_CASE("one changed expression costs nothing: the set-up goes over by itself, and all else stays") {
    TemporaryFolder fair, before, after;
    std::filesystem::copy(demo().path(), fair.path(),
                          std::filesystem::copy_options::recursive |
                              std::filesystem::copy_options::overwrite_existing);
    const auto build = [&](const std::filesystem::path& to) {
        REQUIRE(cli("build " + quoted(fair / "bergamot-quay.zestloom") +
                    " --piece 'Pip the winder' --platform mirrorfolk --out " + quoted(to))
                    .code == 0);
        return GlbParts(readText(to / "pip.vrm"));
    };
    const GlbParts was = build(before.path());
    Model pip = formats::readModel(fair / "pip-the-winder.glb");
    int changed = 0;
    for (auto& mesh : pip.meshes) {
        Mesh own = *mesh;
        for (MorphTarget& morph : own.morphs)
            if (morph.name == "sad")
                for (glm::vec3& p : morph.positions)
                    if (p != glm::vec3(0)) p.y -= 0.01f, ++changed;
        mesh = std::make_shared<const Mesh>(std::move(own));
    }
    REQUIRE(changed > 0);
    writeFile(fair / "pip-the-winder.glb", formats::writeGlb(pip, {"pip-the-winder"}, nullptr)[0].bytes);
    const GlbParts is = build(after.path());
    CHECK(json::diff(was.json["extensions"], is.json["extensions"]) == json::array());
    CHECK(json::diff(was.json["nodes"], is.json["nodes"]) == json::array());
    CHECK(was.binary != is.binary);
    CHECK(was.binary.size() == is.binary.size());
}
