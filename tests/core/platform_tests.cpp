#include "core/deliver/deliver.h"
#include "core/geometry/world.h"
#include "core/planner/planner.h"
#include "core/project/project.h"
#include "standins/stand_in.h"
#include "standins/table/table_tests.h"
#include "standins/world/arena.h"
#include "support/sheets.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;
using platform::State;

namespace {

State stateOf(const platform::FitReport& report, const char* id) {
    const auto* rule = report.rule(id);
    REQUIRE(rule);
    return rule->state;
}

/// 32 mm tall, standing at the origin: it fits the table.
Model figure() {
    return shapes::box({-0.008, 0, -0.008}, {0.008, 0.032, 0.008});
}

} // namespace

TEST_CASE("the sheets that ship are read and have rules, figures and words") {
    std::vector<std::string> problems;
    const auto sheets = platform::loadSheets({}, &problems);
    CHECK(problems.empty());
    CHECK(sheets.size() >= 3);
    for (const auto& s : sheets) {
        CHECK(s->rules.size() >= 5);
        CHECK_FALSE(s->about.empty());
        for (const auto& rule : s->rules)
            for (const auto& mend : rule.mends) CHECK_NOTHROW(steps::makeStep(mend));
    }
    CHECK(sheet("hearthboard")->figureMetres() == Approx(0.032));
    CHECK(sheet("playmeadow")->figureMetres() == Approx(1.5));
    CHECK(sheet("lampwright")->figureMetres() == Approx(1.8));
}

TEST_CASE("a wrong sheet is refused with file, line and what was expected") {
    TemporaryFolder folder;
    const std::string good = readText(sheet("hearthboard")->file);
    const auto broken = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        text.replace(text.find(from), from.size(), to);
        try {
            platform::readSheet(folder.write("broken.toml", text));
        } catch (const Error& error) {
            return error.whole();
        }
        return std::string("read");
    };
    CHECK(broken("metres = 0.025", "metres = \"long\"").find("broken.toml:12") != std::string::npos);
    CHECK(broken("metres = 0.025", "metres = -1").find("above zero") != std::string::npos);
    CHECK(broken("up = \"Y\"", "up = \"W\"").find("\"Y\" or \"Z\"") != std::string::npos);
    CHECK(broken("id = \"triangles\"", "id = \"melting\"").find("one of") != std::string::npos);
    CHECK(broken("most = 40000", "mots = 40000").find("most") != std::string::npos);
    CHECK(broken("[unit]", "[unit").find("broken.toml") != std::string::npos);
    CHECK(broken("severity = \"should\"", "severity = \"maybe\"").find("should") != std::string::npos);
}

TEST_CASE("sheets of the project's folder and of the data folder join those that ship") {
    TemporaryFolder folder;
    std::string text = readText(sheet("hearthboard")->file);
    text.replace(text.find("id = \"hearthboard\""), 18, "id = \"garden-table\"");
    folder.write("platforms/garden.toml", text);
    folder.write("platforms/wrong.toml", "id = 3");
    std::vector<std::string> problems;
    const auto sheets = platform::loadSheets(folder.path(), &problems);
    CHECK_NOTHROW(platform::sheetNamed(sheets, "garden-table"));
    CHECK(problems.size() == 1);
    folder.write("data/zest-loom/platforms/garden.toml", text);
    setenv("XDG_DATA_HOME", (folder / "data").c_str(), 1);
    CHECK_NOTHROW(platform::sheetNamed(platform::loadSheets(), "garden-table"));
    unsetenv("XDG_DATA_HOME");
}

TEST_CASE("a platform that is not there is refused with what to do, also when none is") {
    const auto mendFor = [](const auto& sheets) {
        try {
            platform::sheetNamed(sheets, "nowhere");
            return std::string("accepted");
        } catch (const Error& error) {
            return error.mend();
        }
    };
    CHECK_THAT(mendFor(platform::loadSheets()), Catch::Contains("hearthboard, "));
    CHECK_THAT(mendFor(decltype(platform::loadSheets()){}), Catch::Contains("install the program again"));
}

TEST_CASE("each rule tells what fits from what does not") {
    const auto table = sheet("hearthboard");
    CHECK(platform::check(figure(), *table).fits());
    const auto sized = [&](double factor) {
        return platform::check(moved(figure(), glm::scale(glm::dmat4(1.0), glm::dvec3(factor))), *table);
    };
    CHECK(stateOf(sized(0.5), "height") == State::Broken);
    CHECK(stateOf(sized(0.9 * 0.025 / 0.032), "height") == State::Fits); // exactly the lower limit
    CHECK(stateOf(sized(2.4 * 0.025 / 0.032), "height") == State::Fits); // exactly the upper one
    CHECK(stateOf(sized(2.45 * 0.025 / 0.032), "height") == State::Broken);
    const auto lifted =
        platform::check(moved(figure(), glm::translate(glm::dmat4(1.0), {0, 0.001, 0})), *table);
    CHECK(stateOf(lifted, "stands-on-floor") == State::Broken);
    const auto aside =
        platform::check(moved(figure(), glm::translate(glm::dmat4(1.0), {0.001, 0, 0})), *table);
    CHECK(stateOf(aside, "origin-under-foot") == State::Broken);
    CHECK(stateOf(aside, "stands-on-floor") == State::Fits);

    Model many = shapes::modelOf(shapes::sphere(220, 100, 0.016));
    CHECK(stateOf(platform::check(many, *table), "triangles") == State::Broken);
    Model tight = shapes::modelOf(shapes::sphere(200, 98, 0.016));
    CHECK(stateOf(platform::check(tight, *table), "triangles") == State::Tight);

    Model two = figure();
    two.nodes.push_back({"other", -1, glm::dmat4(1.0), 0});
    CHECK(stateOf(platform::check(two, *table), "objects") == State::Broken);
    CHECK(platform::check(two, *table).rule("objects")->finding.nodes.size() == 2);

    Model assumed = figure();
    assumed.frame.unitAssumed = true;
    const auto report = platform::check(assumed, *table);
    CHECK(stateOf(report, "unit-known") == State::Broken);
    CHECK(report.fits()); // advice does not stop a delivery
}

TEST_CASE("a wide figure without a collider is warned about, and a hovering collider refused") {
    const auto table = sheet("hearthboard");
    Model wide = figure();
    Model arm = shapes::box({-0.03, 0.025, -0.002}, {0.03, 0.03, 0.002});
    auto mesh = std::make_shared<Mesh>(geometry::flattened(wide));
    for (const std::uint32_t i : arm.meshes[0]->indices) mesh->indices.push_back(i + 8);
    mesh->positions.insert(mesh->positions.end(), arm.meshes[0]->positions.begin(),
                           arm.meshes[0]->positions.end());
    mesh->runs = {{0, 24, -1}};
    wide.meshes[0] = mesh;
    const auto report = platform::check(wide, *table);
    CHECK(stateOf(report, "collider") == State::Broken);
    CHECK(report.rule("collider")->finding.value == Approx(0.06 / 0.016));
    CHECK(report.fits());
    wide.colliders = {
        {"c", "box",
         std::make_shared<const Mesh>(geometry::boxMesh({-0.01, -0.002, -0.01}, {0.01, 0.03, 0.01}))}};
    CHECK(stateOf(platform::check(wide, *table), "collider") == State::Fits);
    CHECK(stateOf(platform::check(wide, *table), "collider-bottom") == State::Broken);
}

TEST_CASE("the plan is the shortest that makes a piece fit") {
    const auto table = sheet("hearthboard");
    const Model stout = shapes::box({-0.012, 0, -0.012}, {0.012, 0.032, 0.012}); // stands without a collider
    const auto stepsOf = [](const planner::Plan& plan) {
        std::vector<std::string> ids;
        for (const auto& step : plan.steps) ids.push_back(step.entry.step);
        return ids;
    };
    CHECK(planner::plan(stout, *table).steps.empty());
    const auto lifted = planner::plan(moved(stout, glm::translate(glm::dmat4(1.0), {0, 0.01, 0})), *table);
    CHECK(stepsOf(lifted) == std::vector<std::string>{"stand-on-floor"});
    const auto astray = planner::plan(moved(stout, glm::translate(glm::dmat4(1.0), {0.1, 0.01, 0})), *table);
    CHECK(stepsOf(astray) == std::vector<std::string>{"origin"}); // one step mends floor and origin
    const auto large = planner::plan(moved(stout, glm::scale(glm::dmat4(1.0), glm::dvec3(10))), *table);
    CHECK(stepsOf(large) == std::vector<std::string>{"size"});
    CHECK(large.holds);
    CHECK(large.steps[0].before != large.steps[0].after);
    const auto dense = planner::plan(moved(shapes::modelOf(shapes::exploded(shapes::sphere(220, 110, 0.016))),
                                           glm::translate(glm::dmat4(1.0), {0, 0.016, 0})),
                                     *table);
    CHECK(dense.holds);
    CHECK(stepsOf(dense)[0] == "weld-and-clean");
    CHECK(stepsOf(dense)[1] == "reduce-triangles");
    Model two = stout;
    two.nodes.push_back({"other", -1, glm::dmat4(1.0), 0});
    CHECK(stepsOf(planner::plan(two, *table)) == std::vector<std::string>{"join-parts"});
}

TEST_CASE("unit and up are guessed from size and foot, with reasons") {
    const auto table = sheet("hearthboard");
    // A cone of 35 mm standing along Z, in millimetres, as OBJ numbers (which are metres until told
    // otherwise).
    Mesh cone;
    for (int i = 0; i < 24; ++i)
        cone.positions.emplace_back(9 * std::cos(i * shapes::pi / 12), 9 * std::sin(i * shapes::pi / 12), 0);
    cone.positions.emplace_back(0, 0, 35);
    cone.positions.emplace_back(0, 0, 0);
    for (std::uint32_t i = 0; i < 24; ++i)
        cone.indices.insert(cone.indices.end(), {i, (i + 1) % 24, 24, (i + 1) % 24, i, 25});
    Model model = shapes::modelOf(cone);
    model.format = "obj";
    model.frame.unitAssumed = model.frame.upAssumed = true;
    const auto guess = planner::guessFrame(model, *table);
    CHECK(guess.frame.unit.id == "mm");
    CHECK(guess.frame.up == Up::Z);
    CHECK(guess.reasons.size() == 2);
    const auto plan = planner::plan(model, *table);
    CHECK(plan.holds);
    REQUIRE_FALSE(plan.steps.empty());
    CHECK(plan.steps[0].entry.step == "unit-and-up");
    CHECK(plan.steps[0].required);
}

TEST_CASE("on the table figures are put side by side, on one another and in the air") {
    TemporaryFolder folder;
    const auto recipe = recipe::fromJson({{{"step", "collider-cylinder"}, {"params", {{"inset", 0}}}}});
    REQUIRE(deliver::build(figure(), 1, recipe, *sheet("hearthboard"), folder / "out", {"Pepper post"}).fits);
    standins::TryReport report;
    const auto arena = standins::standInNamed("table")->open(folder / "out", report);
    REQUIRE(arena);
    const auto at = [&](std::size_t i) { return arena->drawn().at(i).pose[3]; };
    arena->act("base");
    CHECK(at(1).x - at(0).x == Approx(0.64 * std::sqrt(2)).margin(0.01)); // the cylinder is around a square
    CHECK(at(0).y == Approx(0).margin(1e-4));
    arena->act("stack");
    REQUIRE(arena->drawn().size() == 2);
    CHECK(at(1).y == Approx(1.28 + 0.25)); // its height, and a little to fall
    arena->act("drop");
    REQUIRE(arena->drawn().size() == 1);
    CHECK(at(0).y == Approx(3).margin(0.01)); // a little tipped
    arena->act("copy");
    REQUIRE(arena->drawn().size() == 2);
    CHECK(at(1).y == Approx(1));
}

TEST_CASE("the delivery is read back by the table at its own numbers") {
    TemporaryFolder folder;
    const auto table = sheet("hearthboard");
    const auto recipe = recipe::fromJson({{{"step", "collider-cylinder"}, {"params", {{"inset", 0}}}}});
    const auto result = deliver::build(figure(), 1, recipe, *table, folder / "out",
                                       {"Pepper post", "by Odd Fennel"}, {{"finish", "gloss"}});
    REQUIRE(result.fits);
    REQUIRE(result.files.size() == 3);
    standins::TryReport report;
    const auto loaded = standins::table::loadFigure(folder / "out", report);
    REQUIRE(loaded);
    CHECK(loaded->finish == "gloss");
    CHECK(loaded->credit == "by Odd Fennel");
    CHECK(loaded->model.high().y == Approx(1.28)); // 32 mm at 25 mm a unit
    CHECK(loaded->model.high().x == Approx(0.32));
    REQUIRE(loaded->collider);
    CHECK(loaded->collider->indices.size() == 124 * 3);
    CHECK(loaded->collider->low().y == Approx(0).margin(1e-6));
    CHECK_THROWS_AS(deliver::build(figure(), 1, {}, *table, folder / "x", {"a"}, {{"finish", "velvet"}}),
                    Refused);
    CHECK_FALSE(std::filesystem::exists(folder / "x"));
    platform::Sheet nothing = *sheet("culvert");
    nothing.deliverable.clear(); // a sheet may say what fits before anything is written for it
    CHECK_THROWS_AS(deliver::build(figure(), 1, {}, nothing, folder / "x", {}), Refused);
}

TEST_CASE("nothing is written for a piece that does not fit") {
    TemporaryFolder folder;
    const auto result = deliver::build(moved(figure(), glm::scale(glm::dmat4(1.0), glm::dvec3(9))), 1, {},
                                       *sheet("hearthboard"), folder / "out", {});
    CHECK_FALSE(result.fits);
    CHECK_FALSE(std::filesystem::exists(folder / "out"));
}

TEST_CASE("the table refuses what is over its limits, and says how far") {
    TemporaryFolder folder;
    const auto table = sheet("hearthboard");
    deliver::build(figure(), 1, {}, *table, folder / "out", {"post"});
    const auto refusedWith = [&](const std::string& part) {
        const auto report = standins::table::tryFolder(folder / "out");
        CHECK_FALSE(report.accepted);
        for (const auto& message : report.messages)
            if (message.kind == standins::Message::Kind::Refused &&
                (message.text + message.detail).find(part) != std::string::npos)
                return true;
        return false;
    };
    const std::string obj = readText(folder / "out/post.obj"),
                      json = readText(folder / "out/post.table.json");
    std::string many = obj;
    for (int i = 0; i < 40000; ++i) many += "f 1 2 3\n";
    folder.write("out/post.obj", many);
    CHECK(refusedWith("12 too many"));
    folder.write("out/post.obj", obj + "f 1 2 3 4\n");
    CHECK(refusedWith("takes triangles"));
    folder.write("out/post.obj", obj + "f 1 2 999\n");
    CHECK(refusedWith("not there"));
    folder.write("out/post.obj", obj + "v 0 9 0\nf 1 2 25\n");
    CHECK(refusedWith("too tall"));
    std::filesystem::remove(folder / "out/post.obj");
    CHECK(refusedWith("missing"));
    folder.write("out/post.obj", obj);
    std::string evil = json;
    evil.replace(evil.find("post.obj"), 8, "../x.obj");
    folder.write("out/post.table.json", evil);
    CHECK(refusedWith("leads out"));
    folder.write("out/post.table.json", "{");
    CHECK(refusedWith("not readable"));
    folder.write("out/other.table.json", json);
    CHECK(refusedWith("2 descriptions"));
}

TEST_CASE("the table measures what can be worked out by hand") {
    // A post of 0.64 u with a collider 0.1 u narrower on each side: two touch 0.2 u before their feet would.
    standins::table::Figure post;
    const auto shape = [](const Mesh& mesh) {
        standins::table::Shape out;
        out.positions = mesh.positions;
        out.normals.resize(mesh.positions.size(), {0, 1, 0});
        out.uvs.resize(mesh.positions.size());
        out.indices = mesh.indices;
        return out;
    };
    post.model = shape(geometry::boxMesh({-0.32, 0, -0.32}, {0.32, 1.28, 0.32}));
    post.collider = shape(geometry::boxMesh({-0.22, 0, -0.22}, {0.22, 1.28, 0.22}));
    const auto own = standins::table::measure(post, standins::table::ColliderKind::Own);
    CHECK(own.sideBySideGap == Approx(-0.2).margin(0.005));
    CHECK(own.gapToFloor == Approx(0).margin(0.01));
    CHECK(own.stackHeight == Approx(1.28).margin(0.02));
    CHECK(own.staysUpright);
    const auto box = standins::table::measure(post, standins::table::ColliderKind::DefaultBox);
    CHECK(box.sideBySideGap == Approx(0).margin(0.005));
    CHECK(box.uprightDrops >= own.uprightDrops); // a wider base stands no worse
    // A collider that reaches 0.1 u below the feet makes it hover by just that.
    post.collider = shape(geometry::boxMesh({-0.3, -0.1, -0.3}, {0.3, 1.28, 0.3}));
    CHECK(standins::table::measure(post, standins::table::ColliderKind::Own).gapToFloor ==
          Approx(0.1).margin(0.01));
}

TEST_CASE("a figure on the table is as heavy as its collider, and stands as firmly") {
    standins::table::Shape wedge; // a tetrahedron's middle is a quarter of the way along each edge
    wedge.positions = {{1, 1, 1}, {5, 1, 1}, {1, 3, 1}, {1, 1, 9}};
    wedge.indices = {0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3};
    CHECK(glm::distance(wedge.middleOfMass(), {2, 1.5, 3}) < 1e-5);
    wedge.positions.pop_back(); // flat, and encloses nothing
    wedge.indices = {0, 2, 1};
    CHECK(glm::distance(wedge.middleOfMass(), {3, 2, 1}) < 1e-5);

    // A tall, narrow post falls with the box around it, which leans 17° at most, and stands on a low one.
    standins::table::Figure post;
    post.model = standins::world::boxShape({-0.2f, 0, -0.2f}, {0.2f, 1.28f, 0.2f});
    post.collider = standins::world::boxShape({-0.19f, 0, -0.19f}, {0.19f, 0.095f, 0.19f});
    CHECK(standins::table::measure(post, standins::table::ColliderKind::Own).uprightDrops == 10);
    CHECK(standins::table::measure(post, standins::table::ColliderKind::DefaultBox).uprightDrops < 5);
}

TEST_CASE("a project comes back as it was saved, with credits and warnings") {
    TemporaryFolder folder;
    project::Project fair;
    fair.name = "Fair";
    fair.file = folder / "fair.zestloom";
    fair.platforms = {"hearthboard"};
    project::Piece bell;
    bell.name = "Bell";
    bell.sources = {{"bell.stl", "Mira Quill", "CC BY 4.0", project::Permission::AskFirst},
                    {"rope.obj", "", "", project::Permission::NotAllowed}};
    bell.recipe = recipe::fromJson({{{"step", "turn"}, {"params", {{"x", 90}}}}});
    bell.crossings = {
        {"hearthboard", recipe::fromJson({{{"step", "origin"}, {"on", false}}}), {{"finish", "gloss"}}}};
    fair.pieces = {bell};
    project::save(fair);
    const auto back = project::load(fair.file);
    CHECK(toJson(back) == toJson(fair));
    CHECK(recipeFor(back.pieces[0], "hearthboard").size() == 2);
    CHECK(project::permissionWarnings(back.pieces[0]).size() == 2);
    CHECK(project::creditOf(back.pieces[0]).find("not allowed") != std::string::npos);
}

TEST_CASE("where two units are likely, the one that is usual for the format is taken") {
    const auto meadow = sheet("playmeadow");
    const auto length = float(5.6 * meadow->figureMetres()); // likely in metres, and in centimetres
    Model plank = shapes::box({0, 0, 0}, {length, 1, 1});
    plank.frame = {unitNamed("m"), Up::Y, true, true};
    const auto [format, unit] = GENERATE(table<std::string, std::string>(
        {{"obj", "m"}, {"ply", "m"}, {"fbx", "cm"}, {"stl", "cm"}, {"3mf", "cm"}, {"amf", "cm"}}));
    plank.format = format;
    CHECK(planner::guessFrame(plank, *meadow).frame.unit.id == unit);
}

TEST_CASE("numbers are shown as people read them") {
    CHECK(showNumber(1234567, 0) == "1\u202f234\u202f567");
    CHECK(showNumber(9999, 0) == "9999");
    CHECK(showNumber(-12345.5, 2) == "-12\u202f345.5");
    CHECK(showNumber(0.1 + 0.2, 2) == "0.3");
    CHECK(showNumber(-0.001, 1) == "0");
    CHECK(showBytes(4123456) == "4.1 MB");
    CHECK(unitNamed("Inches").metres == Approx(0.0254));
    CHECK_THROWS_AS(unitNamed("parsec"), Error);
    CHECK(unitOfMetres(0.01).id == "cm");
}
