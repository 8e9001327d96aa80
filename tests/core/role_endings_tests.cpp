// Roles by the endings of file names, and which pictures go with a model.
#include "core/formats/format.h"
#include "core/platform/sheet.h"
#include "core/project/companions.h"
#include "core/project/dependencies.h"
#include "core/project/matching_pictures.h"
#include "core/project/moved_pictures.h"
#include "core/steps/step.h"
#include "core/texture/picture_file.h"
#include "support/quickest.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <fstream>

using namespace zl;
using platform::RoleEndings;
using project::Clothing;
using project::OfferedPicture;
using project::PictureShelf;

namespace {

/// "STEM: role channel, …"
std::string said(std::string_view name, const RoleEndings& endings = platform::usualRoleEndings()) {
    const auto [stem, uses] = partsOfName(name, endings);
    std::string out = stem + ":";
    for (const auto& use : uses)
        out += " " + std::string(roleName(use.role)) + "." + std::string(platform::channelName(use.channel));
    return out;
}

std::string listed(const std::vector<OfferedPicture>& pictures) {
    std::string out;
    for (const OfferedPicture& picture : pictures)
        out += fmt::format("{}{} {}{}{}", out.empty() ? "" : "; ", picture.path, roleName(picture.role),
                           picture.material.empty() ? "" : " on ", picture.material);
    return out;
}

std::string red2x2() {
    return texture::encodePng({2, 2, std::vector<std::uint8_t>(16, 200)});
}

} // namespace

TEST_CASE("Endings of names say roles, whatever signs and letters stand in them") {
    CHECK(said("lantern_n") == "lantern: normal.all");
    CHECK(said("Lantern-Normal") == "lantern: normal.all");
    CHECK(said("Lantern Base Color") == "lantern: colour.all");
    CHECK(said("lantern.gloss") == "lantern: gloss.all");
    CHECK(said("lantern_d_2k") == "lantern: colour.all");
    CHECK(said("lantern_2k_d") == "lantern: colour.all");
    CHECK(said("lantern_ORM") == "lantern: occlusion.red roughness.green metalness.blue");
    CHECK(said("lantern_lod0") == "lantern:");
    CHECK(said("lantern") == "lantern:");
    // Nothing is left where the whole name is an ending, or words run together.
    CHECK(said("_n") == "_n:");
    CHECK(said("normal") == "normal:");
    CHECK(said("cabin") == "cabin:");
    CHECK(said("") == ":");
    CHECK(said("___") == "___:");
    // One role a name: what stands before it is part of the name.
    CHECK(said("wall_d_n") == "wall_d: normal.all");
}

TEST_CASE("A table of one's own comes before the general one") {
    RoleEndings own;
    own.pictures = {{"_n", PictureRole::Emission}};
    own.add(platform::usualRoleEndings());
    CHECK(said("lamp_n", own) == "lamp: emission.all");
    CHECK(said("lamp_d", own) == "lamp: colour.all");
}

TEST_CASE("Pictures that share a model's name go with it, the nearest first, and the others are left") {
    const PictureShelf shelf({"kit/lantern_d.png", "kit/tex/lantern_n.png", "kit/lantern_n_old.png",
                              "other/lantern_d.png", "kit/lantern.png", "kit/lantern_glass_o.png",
                              "kit/iron_r.tga", "kit/poster.jpg", "far/away/iron_m.png"},
                             platform::usualRoleEndings());
    const Clothing own{{"Glass", "Iron"}, {}, {}};
    const auto offered = shelf.matching("kit/lantern_lod0.obj", own);
    CHECK(listed(offered) == "kit/lantern.png colour; kit/tex/lantern_n.png normal; "
                             "kit/lantern_glass_o.png opacity on Glass; kit/iron_r.tga roughness on Iron");
    const auto left = shelf.left("kit/lantern_lod0.obj", own, offered, 10);
    CHECK(left.first == std::vector<std::string>{"kit/lantern_d.png", "kit/lantern_n_old.png",
                                                 "kit/poster.jpg", "other/lantern_d.png"});
    CHECK(left.all == 4);
    const auto fewest = shelf.left("kit/lantern_lod0.obj", {{}, {"poster.jpg"}, {}}, offered, 2);
    CHECK(fewest.first == std::vector<std::string>{"kit/lantern_d.png", "kit/lantern_n_old.png"});
    CHECK(fewest.all == 3);
    CHECK(PictureShelf({"a/tex/x.png", "b/y.png"}, {}).left("a/models/m.obj", {}, {}, 5).first ==
          std::vector<std::string>{"a/tex/x.png"});
    // What the model brings along, and roles that all its materials have, are not offered.
    const auto fewer =
        shelf.matching("kit/lantern_lod0.obj", {{"Glass", "Iron"}, {"lantern.png"}, {PictureRole::Normal}});
    CHECK(listed(fewer) == "kit/lantern_d.png colour; kit/lantern_glass_o.png opacity on Glass; "
                           "kit/iron_r.tga roughness on Iron");
    CHECK(PictureShelf({}, {}).matching("", {}).empty());
}

TEST_CASE("Finding the pictures of many models among many stays quick") {
    std::vector<std::string> pictures;
    for (int i = 0; i < 20000; ++i)
        for (const char* ending : {"d", "n"})
            pictures.push_back(fmt::format("p/{}/item-{}_{}.png", i % 50, i, ending));
    const WorkWatch watch;
    const PictureShelf shelf(pictures, platform::usualRoleEndings());
    std::size_t found = 0;
    for (int i = 0; i < 20000; ++i)
        found += shelf.matching(fmt::format("p/{}/item-{}.obj", i % 50, i), {{"Stone"}, {}, {}}).size();
    CHECK(found == 40000);
    CHECK(watch.seconds() < 8);
}

TEST_CASE("A sheet's endings are read, and wrong ones refused with their line") {
    TemporaryFolder folder;
    const auto with = [&](const std::string& ending) {
        std::ofstream(folder / "p.toml") << "id = \"p\"\nname = \"P\"\nkind = \"k\"\n[unit]\nname = "
                                            "\"m\"\nmetres = 1\n[axes]\nup = \"Y\"\n"
                                            "front = \"+Z\"\n[figure]\nheight = 1.7\n[[rule]]\nid = "
                                            "\"triangles\"\nlabel = \"T\"\nmost = 5\n"
                                            "message = \"M.\"\n[[ending]]\n"
                                         << ending;
        return platform::readSheet(folder / "p.toml").endings;
    };
    CHECK(with("names = [\"-Dye\"]\nmeans = \"colour\"").pictures ==
          std::vector<RoleEndings::Ending>{{"_dye", PictureRole::Colour}});
    CHECK(with("names = [\"_hid\"]\nmeans = \"opacity\"\nchannel = \"alpha\"").pictures[0].channel ==
          PictureChannel::Alpha);
    CHECK(with("names = [\"_form\"]\nmeans = \"nothing\"").empty == std::vector<std::string>{"_form"});
    CHECK_THROWS_WITH(with("names = [\"_x\"]\nmeans = \"colours\""), Catch::Contains("colours"));
    CHECK_THROWS_WITH(with("names = [\"x\"]\nmeans = \"colour\""), Catch::Contains("too short"));
    CHECK_THROWS_WITH(with("means = \"colour\""), Catch::Contains("names"));
    CHECK_THROWS_WITH(with("names = [\"_x\"]\nmeans = \"colour\"\nchannel = \"pink\""),
                      Catch::Contains("pink"));
}

TEST_CASE("A person's own table is kept, read back, and gone when it says what ships") {
    TemporaryFolder folder;
    const char* before = std::getenv("XDG_DATA_HOME");
    const std::string kept = before ? before : "";
    setenv("XDG_DATA_HOME", folder.path().c_str(), 1);
    RoleEndings own = platform::usualRoleEndings();
    own.pictures.push_back({"_\"odd\\ne", PictureRole::Gloss, PictureChannel::Green});
    own.empty.push_back("_final");
    platform::keepGeneralRoleEndings(own);
    CHECK(said("a_final_n", platform::generalRoleEndings()) == "a: normal.all");
    CHECK(said("a_\"odd\\ne", platform::generalRoleEndings()) == "a: gloss.green");
    platform::keepGeneralRoleEndings(platform::usualRoleEndings());
    CHECK_FALSE(std::filesystem::exists(folder / "zest-loom/endings.toml"));
    CHECK(platform::generalRoleEndings() == platform::usualRoleEndings());
    std::ofstream(folder / "zest-loom/endings.toml") << "[[ending]]\nmeans = 3";
    CHECK_THROWS_WITH(platform::generalRoleEndings(), Catch::Contains("means"));
    before ? setenv("XDG_DATA_HOME", kept.c_str(), 1) : unsetenv("XDG_DATA_HOME");
}

TEST_CASE("Pictures offered become a step that puts them on, also where faces have no material") {
    TemporaryFolder folder;
    std::ofstream(folder / "bench.obj")
        << "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n";
    std::ofstream(folder / "bench_d.png") << red2x2();
    std::ofstream(folder / "bench_orm.png") << red2x2();
    project::Project project;
    project.file = folder / "quay.zestloom";
    project::Piece piece;
    piece.name = "Bench";
    piece.sources.push_back({"bench.obj"});
    const PictureShelf shelf({"bench_d.png", "bench_orm.png"}, platform::usualRoleEndings());
    piece.recipe = project::wearing(shelf.matching("bench.obj", {}), {});
    REQUIRE(piece.recipe.size() == 1);
    project.pieces.push_back(piece);
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "thistledown");
    project::SourceCache sources;
    recipe::EvaluationCache cache;
    const auto run = [&] {
        const project::Companions around(project, project.pieces[0], *sheet, sources, &cache);
        const auto loaded = sources.load(project, project.pieces[0]);
        return recipe::evaluate(loaded.model, loaded.hash, piece.recipe, {sheet.get(), &around}, &cache);
    };
    const auto worn = run();
    REQUIRE(worn.model.materials.size() == 1);
    const Material& material = worn.model.materials[0];
    CHECK(material.picture(PictureRole::Colour));
    CHECK(material.baseColour == glm::vec4(1));
    CHECK(material.picture(PictureRole::Roughness).channel == PictureChannel::Green);
    CHECK(material.picture(PictureRole::Metalness).channel == PictureChannel::Blue);
    CHECK(material.picture(PictureRole::Occlusion).image == material.picture(PictureRole::Metalness).image);
    CHECK(worn.model.images.size() == 2);
    CHECK(worn.model.meshes[0]->runs[0].material == 0);
    CHECK_FALSE(worn.outcomes[0].fromCache);
    CHECK(run().outcomes[0].fromCache);
    // A picture's file is part of what the piece rests on: replaced, it is read again; gone, it is said.
    const auto dependencies = project::dependenciesOf(project, project.pieces[0], *sheet);
    CHECK(std::ranges::count(dependencies.files, folder / "bench_orm.png") == 1);
    std::ofstream(folder / "bench_d.png") << texture::encodePng({4, 4, std::vector<std::uint8_t>(64, 9)});
    const auto again = run();
    CHECK_FALSE(again.outcomes[0].fromCache);
    CHECK(again.model.images[std::size_t(again.model.materials[0].image(PictureRole::Colour))]->width == 4);
    std::filesystem::remove(folder / "bench_d.png");
    try {
        run();
        FAIL("a missing picture is said");
    } catch (const Error& error) {
        CHECK(error.whole().find("bench_d.png") != std::string::npos);
    }
    std::ofstream(folder / "bench_d.png") << "no picture";
    CHECK_THROWS_AS(run(), Error);
}

TEST_CASE("what is there twice is told, and pictures that moved are found again by name") {
    const PictureShelf shelf({"a/sail-n.png", "b/sail_normal.png", "sail-h.png"},
                             platform::usualRoleEndings());
    std::vector<project::OfferedPicture> twice;
    const auto taken = shelf.matching("boat.obj", {{"sail"}, {}, {}}, &twice);
    REQUIRE(taken.size() == 2);
    CHECK(taken[0].path == "a/sail-n.png");
    REQUIRE(twice.size() == 1);
    CHECK(twice[0].path == "b/sail_normal.png");

    TemporaryFolder folder;
    folder.write("here.png", "x");
    project::Project project;
    project.file = folder / "fair.zestloom";
    project::Piece piece;
    piece.name = "Boat";
    const auto step = [](const char* id, nlohmann::json params) {
        return recipe::Entry{id, true, steps::makeStep(id, params)->params()};
    };
    const auto row = [](const char* file) {
        return nlohmann::json{
            {"of", {"sail"}}, {"role", "colour"}, {"channel", "all"}, {"picture", {{"file", file}}}};
    };
    piece.recipe = {step("set-pictures", {{"pictures", {row("here.png"), row("gone/Sail.png")}}})};
    piece.crossings = {
        {"saltbranch", {step("picture-alpha", {{"way", "from"}, {"picture", {{"file", "gone/mask.png"}}}})}}};
    const std::vector<std::filesystem::path> found{folder / "new/sail.png", folder / "new/mask.png",
                                                   folder / "new/here.png"};
    const auto moved = project::movedPictures(project, piece, found);
    REQUIRE(moved.size() == 2);
    CHECK(moved[0] == project::MovedPicture{"gone/Sail.png", "new/sail.png"});
    CHECK(moved[1] == project::MovedPicture{"gone/mask.png", "new/mask.png"});
    const auto mended = project::relinked(piece, moved);
    CHECK(mended.recipe[0].params["pictures"][1]["picture"]["file"] == "new/sail.png");
    CHECK(mended.recipe[0].params["pictures"][0]["picture"]["file"] == "here.png");
    CHECK(mended.crossings[0].recipe[0].params["picture"]["file"] == "new/mask.png");
    CHECK(project::movedPictures(project, mended, {}).empty());
}
