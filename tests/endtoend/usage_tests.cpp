// The command line as people and scripts use it: exit codes, one JSON document, odd names, spoiled folders,
// and being stopped half-way.
#include "core/formats/format.h"
#include "endtoend/command_line.h"
#include "support/glb_builder.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <fmt/format.h>

#include <fstream>
#include <set>

using namespace zl;

namespace {

/// A figure of 30 mm in metres as a file of its own in `folder`.
std::filesystem::path figure(const TemporaryFolder& folder, const std::string& name = "figure.obj",
                             double tall = 0.03) {
    const Model model = shapes::box({-0.01, 0, -0.01}, {0.01, tall, 0.01});
    const auto files = formats::formatToWrite(name).write(model, {.name = "figure"}, nullptr);
    return folder.write(name, files[0].bytes);
}

std::set<std::string> keysOf(const nlohmann::json& json) {
    std::set<std::string> keys;
    for (const auto& [key, value] : json.items()) keys.insert(key);
    return keys;
}

void checkKeys(const nlohmann::json& json, const std::set<std::string>& wanted) {
    const auto have = keysOf(json);
    for (const auto& key : wanted) {
        INFO(key);
        CHECK(have.contains(key));
    }
}

std::size_t filesIn(const std::filesystem::path& folder) {
    std::size_t count = 0;
    std::error_code error;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder, error))
        count += entry.is_regular_file();
    return count;
}

std::string slurp(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

} // namespace

TEST_CASE("every command's JSON has the keys that scripts rely on") {
    TemporaryFolder folder;
    const std::string file = quoted(figure(folder));
    const auto inspect = cli("inspect " + file + " --json").json();
    checkKeys(inspect, {"format", "unit", "up", "triangles", "vertices", "objects", "materials", "pictures",
                        "bones", "clips", "bounds", "boundsMetres", "watertight", "openEdges",
                        "nonManifoldEdges", "degenerateTriangles", "dropped", "warnings"});
    checkKeys(inspect["unit"], {"name", "assumed"});
    checkKeys(inspect["bounds"], {"min", "max"});
    CHECK(inspect["bounds"]["min"].size() == 3);
    CHECK(inspect["watertight"] == true);
    CHECK(inspect["triangles"] == 12);

    const auto fit = cli("fit " + file + " --platform hearthboard --suggest --json").json();
    checkKeys(fit, {"platform", "fits", "rules", "suggested"});
    REQUIRE_FALSE(fit["rules"].empty());
    std::set<std::string> ids;
    for (const auto& rule : fit["rules"]) {
        checkKeys(rule, {"id", "severity", "state", "measured", "limit", "message", "mends"});
        CHECK((rule["state"] == "fits" || rule["state"] == "tight" || rule["state"] == "broken"));
        CHECK((rule["severity"] == "must" || rule["severity"] == "should"));
        CHECK(ids.insert(rule["id"].get<std::string>()).second);
    }
    for (const auto& step : fit["suggested"]) checkKeys(step, {"step", "params", "before", "after"});

    const auto built = cli("build " + file + " --platform hearthboard --unit m --up y --suggest --out " +
                           quoted(folder / "out") + " --json");
    INFO(built.out);
    REQUIRE(built.code == 0);
    const auto build = built.json();
    checkKeys(build, {"fits", "files", "steps", "seconds", "credits"});
    for (const auto& entry : build["files"]) checkKeys(entry, {"path", "bytes"});
    for (const auto& step : build["steps"]) checkKeys(step, {"step", "seconds", "note"});

    const auto tried = cli("try " + quoted(folder / "out") + " --platform hearthboard --json").json();
    checkKeys(tried, {"accepted", "messages", "tests"});
    checkKeys(tried["tests"],
              {"gapToFloor", "staysUpright", "stackHeight", "sideBySideGap", "defaultBoxGap"});
    CHECK(tried["accepted"] == true);
    CHECK(tried["tests"]["staysUpright"] == true);

    const auto chain =
        cli("chain " + file + " --platform lampwright --out " + quoted(folder / "legs") + " --json").json();
    REQUIRE(chain["legs"].size() == 3);
    for (const auto& leg : chain["legs"]) {
        checkKeys(leg, {"format", "file", "keeps", "measured"});
        CHECK(keysOf(leg["keeps"]) == keysOf(leg["measured"]));
    }
}

TEST_CASE("nothing but the document is on standard output, whatever there is to warn about") {
    TemporaryFolder folder;
    folder.write("warn.obj", "mtllib gone.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl x\nf 1 2 3\nf 1 2 9\nodd\n");
    for (const char* command :
         {"inspect {0} --json", "fit {0} --platform hearthboard --json", "convert {0} {1}/out.glb --json",
          "convert {0} {1}/out.dae --json", "snapshot {0} {1}/out.png --size 64x48 --json"}) {
        const auto ran = cli(fmt::format(fmt::runtime(command), quoted(folder / "warn.obj"),
                                         "'" + folder.path().string() + "'"));
        INFO(command << ": " << ran.out);
        CHECK_NOTHROW(ran.json());
        CHECK(ran.out.back() == '\n');
    }
    CHECK(cli("inspect " + quoted(folder / "warn.obj") + " --json").json()["warnings"].size() >= 3);
}

TEST_CASE("a unit and an up axis given on the command line replace what was assumed") {
    TemporaryFolder folder;
    const std::string file = quoted(figure(folder));
    const auto tall = [&](const std::string& options) {
        const auto json = cli("inspect " + file + options + " --json").json();
        return json["boundsMetres"]["max"][1].get<double>() - json["boundsMetres"]["min"][1].get<double>();
    };
    CHECK(tall(" --unit m --up y") == Approx(0.03));
    CHECK(tall(" --unit in --up y") == Approx(0.03 * 0.0254));
    CHECK(tall(" --unit m --up z") == Approx(0.02));
    CHECK(cli("inspect " + file + " --unit cm --json").json()["unit"]["assumed"] == false);
    CHECK(cli("inspect " + file + " --up x").code == 2);
}

TEST_CASE("the cart as it comes is turned, sized, baked and delivered from a suggestion alone") {
    TemporaryFolder folder;
    const auto built = cli("build " + quoted(demo() / "haul-cart.glb") +
                           " --platform mudhaul --suggest --out " + quoted(folder.path()) + " --json");
    CHECK(built.code == 0);
    bool turned = false;
    const auto steps = built.json()["steps"];
    for (const auto& step : steps) turned |= step["step"] == "heading";
    CHECK(turned);
    const auto tried = cli("try " + quoted(folder.path()) + " --platform mudhaul");
    CHECK(tried.code == 0);
    CHECK(tried.out.find("gap to floor") != std::string::npos);
    CHECK(tried.out.find("22\u202fdm") != std::string::npos);
}

TEST_CASE("names with blanks, quotes, umlauts and a leading dash are names like any other") {
    TemporaryFolder folder;
    for (const std::string name : {"a bell.obj", "b\"ell\".obj", "Glöckchen \U0001F514.obj", "-bell.obj"}) {
        figure(folder, name);
        const auto path = folder / name;
        INFO(name);
        CHECK(cli("inspect " + quoted(path) + " --json").code == 0);
        const auto built =
            cli("build " + quoted(path) + " --platform hearthboard --unit m --up y --suggest --out " +
                quoted(folder / ("out " + name)) + " --json");
        CHECK(built.code == 0);
        CHECK(filesIn(folder / ("out " + name)) >= 2);
    }
}

TEST_CASE("input that cannot be read is exit code 2 for every command, and leaves nothing behind") {
    TemporaryFolder folder;
    folder.write("empty.obj", "");
    folder.write("half.stl", std::string(90, 'x'));
    folder.write("none.xyz", "hello");
    folder.write("fake.glb", "glTF nonsense");
    folder.write("odd.zestloom", "{\"format\": \"zest-loom-project\", \"version\": 77}");
    const auto before = filesIn(folder.path());
    for (const char* file :
         {"empty.obj", "half.stl", "none.xyz", "fake.glb", "missing.obj", "odd.zestloom"}) {
        const std::string in = quoted(folder / file), out = quoted(folder / "out");
        INFO(file);
        if (std::string(file) != "odd.zestloom") {
            CHECK(cli("inspect " + in).code == 2);
            CHECK(cli("convert " + in + " " + quoted(folder / "out.glb")).code == 2);
            CHECK(cli("snapshot " + in + " " + quoted(folder / "out.png")).code == 2);
        }
        CHECK(cli("fit " + in + " --platform hearthboard").code == 2);
        CHECK(cli("build " + in + " --platform hearthboard --suggest --out " + out).code == 2);
        CHECK(cli("chain " + in + " --platform lampwright --out " + out).code == 2);
    }
    CHECK(filesIn(folder.path()) == before);
}

TEST_CASE("a recipe file is run in place of a project's own, and refused with its line when wrong") {
    TemporaryFolder folder;
    const std::string file = quoted(figure(folder, "figure.obj", 0.5));
    const auto build = [&](const std::string& recipe) {
        folder.write("recipe.json", recipe);
        return cli("build " + file + " --platform hearthboard --unit m --up y --recipe " +
                   quoted(folder / "recipe.json") + " --out " + quoted(folder / "out") + " --json");
    };
    CHECK(build("[]").code == 1); // half a metre is too tall for the table
    const auto fine = build(R"([{"step": "size", "params": {"by": "height", "measure": 0.03}},
                                {"step": "collider-box"}])");
    CHECK(fine.code == 0);
    CHECK(fine.json()["steps"].size() >= 3); // reading, sizing, the collider
    CHECK(build("[{\"step\": \"size\"}").code == 2);
    CHECK(build("{\"recipe\": 5}").code == 2);
    CHECK(build(R"([{"step": "melt"}])").code == 2);
    CHECK(build(R"([{"step": "size", "params": {"by": "feel"}}])").code == 2);
}

TEST_CASE("every readable format converts to every writable one and keeps its triangles") {
    TemporaryFolder folder;
    const std::string from = GENERATE("obj", "stl", "ply", "glb", "dae", "x3d", "3mf", "lamplevel");
    const Model model = shapes::modelOf(shapes::sphere(9, 5), "float");
    writeAllOrNone(folder.path(), formats::formatToWrite("in." + from).write(model, {.name = "in"}, nullptr));
    for (const char* to : {"obj", "stl", "ply", "glb", "dae", "x3d", "3mf", "lamplevel"}) {
        INFO(from << " to " << to);
        const auto out = folder / (std::string("to-") + to + "." + to);
        REQUIRE(cli("convert " + quoted(folder / ("in." + from)) + " " + quoted(out)).code == 0);
        const auto json = cli("inspect " + quoted(out) + " --json").json();
        CHECK(json["triangles"] == 72);
        CHECK(json["bounds"]["max"].size() == 3);
    }
}

TEST_CASE("delivered folders that were tampered with are refused like a game would, with the file's name") {
    TemporaryFolder folder;
    const std::string file = quoted(figure(folder));
    const auto deliver = [&] {
        std::filesystem::remove_all(folder / "out");
        folder.write("recipe.json", R"([{"step": "collider-box"}])");
        REQUIRE(cli("build " + file + " --platform hearthboard --unit m --up y --name figure --recipe " +
                    quoted(folder / "recipe.json") + " --out " + quoted(folder / "out"))
                    .code == 0);
    };
    const auto tried = [&] {
        return cli("try " + quoted(folder / "out") + " --platform hearthboard --json");
    };
    deliver();
    CHECK(tried().code == 0);
    const auto refusedAfter = [&](const std::string& name, const auto& change) {
        deliver();
        change(folder / "out" / name);
        const auto ran = tried();
        INFO(name << ": " << ran.out);
        CHECK(ran.code == 1);
        const auto json = ran.json();
        CHECK(json["accepted"] == false);
        CHECK_FALSE(json["messages"].empty());
        bool named = name.ends_with(".json"); // without its description a delivery has no names
        for (const auto& message : json["messages"])
            named |= message["kind"] == "refused" &&
                     message.dump().find(std::filesystem::path(name).stem().string()) != std::string::npos;
        CHECK(named);
    };
    const auto remove = [](const std::filesystem::path& path) { REQUIRE(std::filesystem::remove(path)); };
    refusedAfter("figure.obj", remove);
    refusedAfter("figure-collider.obj", remove);
    refusedAfter("figure.table.json", remove);
    refusedAfter("figure.obj", [](const auto& path) { writeFile(path, "v 0 0\nf 1 2 3\n"); });
    refusedAfter("figure.table.json", [](const auto& path) { writeFile(path, "{\"format\": 1"); });
    refusedAfter("figure.table.json", [](const auto& path) {
        auto json = nlohmann::json::parse(slurp(path));
        for (auto& [key, value] : json.items())
            if (value.is_string() && value.template get<std::string>().ends_with(".obj"))
                value = "../../x.obj";
        if (json.contains("files"))
            for (auto& value : json["files"])
                if (value.is_string()) value = "../../x.obj";
        writeFile(path, json.dump());
    });
    refusedAfter("figure.obj", [](const auto& path) { // twice as large as any figure may be
        std::string text = slurp(path), out;
        std::istringstream lines(text);
        for (std::string line; std::getline(lines, line);) {
            float x, y, z;
            if (std::sscanf(line.c_str(), "v %f %f %f", &x, &y, &z) == 3)
                line = fmt::format("v {} {} {}", x * 40, y * 40, z * 40);
            out += line + "\n";
        }
        writeFile(path, out);
    });
}

TEST_CASE("work that is stopped by a signal leaves no file half-written") {
    TemporaryFolder folder;
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(1200, 400)), "large");
    writeAllOrNone(folder.path(),
                   formats::formatToWrite("large.stl").write(model, {.name = "large"}, nullptr));
    const auto ran =
        run("timeout -s INT 0.15 " + std::string(ZEST_LOOM_CLI) + " build " + quoted(folder / "large.stl") +
            " --platform hearthboard --suggest --out " + quoted(folder / "out"));
    CHECK(ran.code != 0);
    CHECK(filesIn(folder / "out") == 0);
}

TEST_CASE("a delivery replaces the one before it as a whole") {
    TemporaryFolder folder;
    const auto build = [&](double tall) {
        return cli("build " + quoted(figure(folder, "figure.obj", tall)) +
                   " --platform hearthboard --unit m --up y --suggest --name figure --out " +
                   quoted(folder / "out") + " --json");
    };
    REQUIRE(build(0.03).code == 0);
    const std::string first = slurp(folder / "out/figure.obj");
    const auto count = filesIn(folder / "out");
    REQUIRE(build(0.04).code == 0);
    CHECK(slurp(folder / "out/figure.obj") != first);
    CHECK(filesIn(folder / "out") == count);
    REQUIRE(build(0.03).code == 0);
    CHECK(slurp(folder / "out/figure.obj") == first); // the same input, the same bytes
}

TEST_CASE("sheets beside a project are platforms like any other, and wrong ones are named") {
    TemporaryFolder folder;
    figure(folder);
    folder.write("fair.zestloom", R"({"format": "zest-loom-project", "version": 1, "name": "Fair",
        "platforms": ["quay"], "pieces": [{"name": "Figure", "sources": [{"path": "figure.obj",
        "permission": "own-work"}], "recipe": [], "crossings": []}]})");
    folder.write("platforms/quay.toml", R"(id = "quay"
name = "Quay"
kind = "a harbour"
about = "For tests."
[unit]
name = "m"
metres = 1.0
[axes]
up = "Y"
front = "+Z"
[figure]
height = 1.8
[[rule]]
id = "triangles"
label = "Triangles"
most = 11
message = "Few."
)");
    const std::string project = quoted(folder / "fair.zestloom");
    const auto fit = cli("fit " + project + " --platform quay --json");
    CHECK(fit.code == 1);
    folder.write("platforms/wrong.toml", "id = \"wrong\"\nname = 3\n");
    CHECK(cli("fit " + project + " --platform quay --json").code == 1); // the good one still works
    CHECK(cli("fit " + project + " --platform wrong").code == 2);
}

TEST_CASE("a picture of a model is the asked size, and wrong sizes are refused") {
    TemporaryFolder folder;
    const std::string file = quoted(figure(folder)), out = quoted(folder / "p.png");
    REQUIRE(cli("snapshot " + file + " " + out + " --size 100x60").code == 0);
    const std::string png = slurp(folder / "p.png");
    REQUIRE(png.size() > 24);
    const auto number = [&](std::size_t at) {
        return static_cast<unsigned char>(png[at + 2]) * 256 + static_cast<unsigned char>(png[at + 3]);
    };
    CHECK(number(16) == 100); // PNG: width and height stand behind the first chunk's name
    CHECK(number(20) == 60);
    for (const char* size : {"0x10", "10", "axb", "-5x5", "100000x100000", "10x"})
        CHECK(cli("snapshot " + file + " " + out + " --size " + size).code == 2);
}

TEST_CASE(
    "what a plan asks is answered by --front and --size, and a wrong answer is refused before the work") {
    TemporaryFolder folder;
    Model ball = shapes::modelOf(shapes::sphere(24, 12, 1.1), "ball");
    const auto file = folder.write("ball.obj", formats::writeObj(ball, {"ball"}, nullptr)[0].bytes);
    const std::string fit = "fit " + quoted(file) + " --platform mudhaul --unit m --suggest ";
    const auto asked = cli(fit + "--json").json();
    CHECK(asked["fitsAfter"] == false);
    REQUIRE(asked["questions"].size() == 1);
    CHECK(asked["questions"][0]["step"] == "heading");
    CHECK(asked["reasons"].empty());
    CHECK(cli(fit).out.find("asks: Which way does its front point? Say it with --front") !=
          std::string::npos);
    for (const char* front : {"+z", "-x", "37.5"}) {
        const auto answered = cli(fit + "--front=" + front + " --json").json();
        CHECK(answered["fitsAfter"] == true);
        CHECK(answered["questions"].empty());
    }
    const auto sized = cli(fit + "--front=+x --size width=22dm --json").json();
    CHECK(sized["fitsAfter"] == true);
    bool said = false;
    for (const auto& step : sized["suggested"])
        if (step["step"] == "size") said = step["params"]["measure"].get<double>() == Approx(2.2);
    CHECK(said);
    for (const char* wrong : {"--front up", "--front 3q", "--size 3m", "--size height=zz",
                              "--size height=-1m", "--size depth=2m", "--size height=1xx"}) {
        INFO(wrong);
        CHECK(cli(fit + wrong).code == 2);
    }
    CHECK(cli("fit " + quoted(file) + " --platform mudhaul --front=+z").code == 2); // nothing was asked
    CHECK(cli("build " + quoted(file) + " --all --front=+z --out " + quoted(folder / "all")).code == 2);
    const std::string prop = "fit " + quoted(file) + " --platform culvert --unit m --suggest --front=+z ";
    const auto kind = cli(prop + "--json").json()["questions"];
    REQUIRE(kind.size() == 1);
    CHECK(kind[0]["step"] == "surface-kind");
    CHECK(cli(prop + "--made-of stone --json").json()["fitsAfter"] == true);
    CHECK(cli(prop + "--made-of cheese").code == 2);
    const auto built =
        cli("build " + quoted(file) + " --platform mudhaul --unit m --suggest --front=+x --out " +
            quoted(folder / "out"));
    CHECK(built.code == 0);
}
