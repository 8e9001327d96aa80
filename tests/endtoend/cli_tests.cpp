// The command line on the demo data, from a scan to a figure on the table.
#include "core/formats/format.h"
#include "support/temporary_folder.h"

#include <assimp/Importer.hpp>
#include <assimp/scene.h>
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <sys/wait.h>

using namespace zl;

namespace {

struct Ran {
    int code = -1;
    std::string out;
    nlohmann::json json() const { return nlohmann::json::parse(out); }
};

Ran run(const std::string& command) {
    Ran ran;
    FILE* pipe = ::popen((command + " 2>/dev/null").c_str(), "r");
    REQUIRE(pipe);
    char buffer[4096];
    while (const std::size_t count = std::fread(buffer, 1, sizeof buffer, pipe))
        ran.out.append(buffer, count);
    const int status = ::pclose(pipe);
    ran.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return ran;
}

std::string quoted(const std::filesystem::path& path) {
    return "'" + path.string() + "'";
}
Ran cli(const std::string& arguments) {
    return run(std::string(ZEST_LOOM_CLI) + " " + arguments);
}

/// The demo project, made once for all tests of this file.
const TemporaryFolder& demo() {
    static const TemporaryFolder folder;
    static const bool made = run(std::string(ZEST_LOOM_DEMO_DATA) + " " + quoted(folder.path())).code == 0;
    REQUIRE(made);
    return folder;
}

} // namespace

TEST_CASE("inspect tells what the scan is") {
    const auto ran = cli("inspect " + quoted(demo() / "tide-bell.stl") + " --json");
    REQUIRE(ran.code == 0);
    const auto json = ran.json();
    CHECK(json["format"] == "stl");
    CHECK(json["unit"]["assumed"] == true);
    CHECK(json["unit"]["name"] == "millimetres");
    CHECK(json["triangles"].get<int>() > 780000);
    CHECK(json["degenerateTriangles"].get<int>() > 400);
    CHECK(json["bounds"]["min"][0].get<double>() > 300); // far from the origin
    const double tall = json["bounds"]["max"][2].get<double>() - json["bounds"]["min"][2].get<double>();
    const double metres =
        json["boundsMetres"]["max"][1].get<double>() - json["boundsMetres"]["min"][1].get<double>();
    CHECK(metres == Approx(tall / 1000));
    for (const char* key : {"up", "vertices", "objects", "materials", "pictures", "bones", "clips",
                            "watertight", "openEdges", "nonManifoldEdges", "dropped", "warnings"})
        CHECK(json.contains(key));
    const auto kiosk = cli("inspect " + quoted(demo() / "press-kiosk.obj") + " --json").json();
    CHECK(kiosk["objects"] == 5);
    CHECK(kiosk["materials"] == 5);
    CHECK(kiosk["pictures"].size() == 5);
    CHECK(kiosk["warnings"].empty());
}

TEST_CASE("the scan is fitted, built and tried on the table") {
    TemporaryFolder out;
    const std::string bell = quoted(demo() / "tide-bell.stl");
    const auto fit = cli("fit " + bell + " --platform hearthboard --suggest --json");
    CHECK(fit.code == 1);
    const auto plan = fit.json();
    CHECK(plan["fits"] == false);
    CHECK(plan["fitsAfter"] == true);
    std::vector<std::string> steps;
    for (const auto& step : plan["suggested"]) {
        steps.push_back(step["step"]);
        CHECK(step["before"] != step["after"]);
    }
    CHECK(steps == std::vector<std::string>{"unit-and-up", "origin", "weld-and-clean", "reduce-triangles",
                                            "collider-cylinder"});

    const auto refused =
        cli("build " + bell + " --platform hearthboard --out " + quoted(out / "no") + " --json");
    CHECK(refused.code == 1);
    CHECK(refused.json()["files"].empty());
    CHECK_FALSE(std::filesystem::exists(out / "no"));

    const auto built = cli("build " + bell + " --platform hearthboard --suggest --name 'Tide bell' --out " +
                           quoted(out / "bell") + " --json");
    REQUIRE(built.code == 0);
    const auto result = built.json();
    CHECK(result["fits"] == true);
    REQUIRE(result["files"].size() == 3);
    for (const auto& file : result["files"])
        CHECK(std::filesystem::file_size(file["path"].get<std::string>()) ==
              file["bytes"].get<std::uintmax_t>());
    CHECK(std::filesystem::exists(out / "bell/tide-bell-collider.obj"));

    const auto tried = cli("try " + quoted(out / "bell") + " --platform hearthboard --json");
    REQUIRE(tried.code == 0);
    const auto table = tried.json();
    CHECK(table["accepted"] == true);
    CHECK(std::abs(table["tests"]["gapToFloor"].get<double>()) < 0.01);
    CHECK(table["tests"]["staysUpright"] == true);
    CHECK(table["tests"]["stackHeight"].get<double>() == Approx(1.42).margin(0.03));
    CHECK(table["tests"]["defaultBoxGap"].get<double>() >
          table["tests"]["sideBySideGap"].get<double>() + 0.3);

    // A reader that is not ours sees the same triangles and the same size.
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile((out / "bell/tide-bell.obj").string(), 0);
    REQUIRE(scene);
    REQUIRE(scene->mNumMeshes == 1);
    CHECK(scene->mMeshes[0]->mNumFaces <= 40000);
    CHECK(scene->mMeshes[0]->mNumFaces >= 38800);
    float low = 1e9f, high = -1e9f;
    for (unsigned i = 0; i < scene->mMeshes[0]->mNumVertices; ++i) {
        low = std::min(low, scene->mMeshes[0]->mVertices[i].y);
        high = std::max(high, scene->mMeshes[0]->mVertices[i].y);
    }
    CHECK(low == Approx(0).margin(0.002));
    CHECK(high == Approx(1.42).margin(0.01));
}

TEST_CASE("the demo project's recipes make its pieces fit") {
    const std::string fair = quoted(demo() / "bergamot-quay.zestloom");
    const auto meadow = cli("fit " + fair + " --platform playmeadow --json");
    CHECK(meadow.code == 0);
    CHECK(meadow.json()["pieces"].size() == 2);
    CHECK(cli("fit " + fair + " --platform lampwright --piece 'Tide bell'").code == 0);
    CHECK(cli("fit " + fair + " --platform lampwright --piece 'Press kiosk'").code == 1);
}

TEST_CASE("the recipe runs again by itself when the scan changes") {
    TemporaryFolder folder;
    std::filesystem::copy(demo() / "press-kiosk.obj", folder / "kiosk.obj");
    folder.write("recipe.json",
                 R"([{"step":"size","params":{"by":"height","measure":0.04}},{"step":"origin"}])");
    const auto fit = [&] {
        return cli("convert " + quoted(folder / "kiosk.obj") + " " + quoted(folder / "out.stl") + " --json")
            .json();
    };
    const auto before = fit()["files"][0]["bytes"].get<int>();
    std::string text = readText(folder / "kiosk.obj");
    text += "f 1 2 3\n";
    folder.write("kiosk.obj", text);
    CHECK(fit()["files"][0]["bytes"].get<int>() == before + 50); // one more triangle in the STL
}

TEST_CASE("every GLB that is written passes the validator") {
    TemporaryFolder folder;
    for (const char* source : {"press-kiosk.obj", "tide-bell.stl"}) {
        INFO(source);
        const auto out = folder / "out.glb";
        REQUIRE(cli("convert " + quoted(demo() / source) + " " + quoted(out)).code == 0);
        const auto checked = run("node " ZEST_LOOM_VALIDATOR " " + quoted(out));
        INFO(checked.out);
        REQUIRE(checked.code == 0);
        CHECK(checked.out.substr(0, checked.out.find('\n')) == "0");
    }
}

TEST_CASE("convert says what a format cannot hold and keeps the file's numbers") {
    TemporaryFolder folder;
    const auto ran =
        cli("convert " + quoted(demo() / "press-kiosk.obj") + " " + quoted(folder / "k.stl") + " --json");
    REQUIRE(ran.code == 0);
    std::string all;
    const auto document = ran.json();
    for (const auto& text : document["dropped"]) all += text.get<std::string>() + "\n";
    CHECK(all.find("UVs") != std::string::npos);
    CHECK(all.find("materials") != std::string::npos);
    CHECK(all.find("unit") != std::string::npos);
    const Model kiosk = formats::readModel(demo() / "press-kiosk.obj");
    const Model back = formats::readModel(folder / "k.stl");
    CHECK(triangleCount(back) == triangleCount(kiosk));
    REQUIRE(cli("convert " + quoted(demo() / "tide-bell.stl") + " " + quoted(folder / "b.ply")).code == 0);
    CHECK(cli("inspect " + quoted(folder / "b.ply") + " --json").json()["bounds"]["min"][0].get<double>() >
          300);
}

TEST_CASE("snapshots are pictures of the asked size") {
    TemporaryFolder folder;
    REQUIRE(cli("snapshot " + quoted(demo() / "press-kiosk.obj") + " " + quoted(folder / "k.png") +
                " --size 200x150 --samples 4 --json")
                .json()["width"] == 200);
    const std::string png = readText(folder / "k.png");
    REQUIRE(png.substr(1, 3) == "PNG");
    CHECK(static_cast<unsigned char>(png[19]) == 200);
    CHECK(static_cast<unsigned char>(png[23]) == 150);
}

TEST_CASE("exit codes tell bad usage from a piece that does not fit") {
    TemporaryFolder folder;
    CHECK(cli("").code == 2);
    CHECK(cli("melt").code == 2);
    CHECK(cli("inspect").code == 2);
    CHECK(cli("inspect " + quoted(folder / "missing.stl")).code == 2);
    CHECK(cli("inspect " + quoted(demo() / "press-kiosk.obj") + " --unit parsec").code == 2);
    CHECK(cli("fit " + quoted(demo() / "press-kiosk.obj") + " --platform nowhere").code == 2);
    CHECK(cli("fit " + quoted(demo() / "press-kiosk.obj") + " --platform hearthboard").code == 1);
    CHECK(cli("build " + quoted(demo() / "press-kiosk.obj") + " --platform playmeadow --out " +
              quoted(folder / "x"))
              .code == 1);
    CHECK(cli("try " + quoted(folder / "missing") + " --platform hearthboard").code == 2);
    CHECK(cli("try " + quoted(folder.path()) + " --platform hearthboard").code == 1);
    CHECK(cli("snapshot " + quoted(demo() / "press-kiosk.obj") + " " + quoted(folder / "x.png") +
              " --size huge")
              .code == 2);
    for (const char* command :
         {"inspect", "platforms", "steps", "fit", "build", "try", "convert", "snapshot"})
        CHECK(cli(std::string(command) + " --help").code == 0);
}

TEST_CASE("the lists are one JSON document each") {
    CHECK(cli("platforms --json").json()["platforms"].size() >= 3);
    const auto steps = cli("steps --json").json()["steps"];
    CHECK(steps.size() == 9);
    for (const auto& step : steps)
        for (const auto& field : step["fields"]) CHECK(field.contains("default"));
}
