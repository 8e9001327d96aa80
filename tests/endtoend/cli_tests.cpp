// The command line on the demo data, from a scan to a figure on the table.
#include "core/formats/format.h"
#include "endtoend/command_line.h"
#include "support/temporary_folder.h"

#include <assimp/Importer.hpp>
#include <assimp/scene.h>
#include <catch2/catch.hpp>

#include <cstdlib>
#include <fstream>

using namespace zl;

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
    CHECK(table["tests"]["uprightDrops"].get<int>() >= 9); // its collider is low and within the foot
    CHECK(table["tests"]["stackHeight"].get<double>() == Approx(0.171).margin(0.01));
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
    CHECK(meadow.json()["pieces"].size() == 5);
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

TEST_CASE("convert names the frame that the written format fixes") {
    TemporaryFolder folder;
    const auto [file, asked, unit, up] = GENERATE(table<std::string, std::string, std::string, std::string>(
        {{"k.glb", "mm", "metres", "Y"},
         {"k.x3d", "mm", "metres", "Y"},
         {"k.3mf", "in", "inches", "Z"},
         {"k.3mf", "dm", "millimetres", "Z"}, // 3MF has no decimetres
         {"k.dae", "dm", "decimetres", "Y"}}));
    CAPTURE(file, asked);
    const auto ran = cli("convert " + quoted(demo() / "press-kiosk.obj") + " " + quoted(folder / file) +
                         " --out-unit " + asked + " --out-up y --json");
    REQUIRE(ran.code == 0);
    CHECK(ran.json()["unit"] == unit);
    CHECK(ran.json()["up"] == up);
    const auto frame = formats::readModel(folder / file).frame;
    CHECK(frame.unit.name == unit);
    CHECK(upName(frame.up) == up);
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
    CHECK(cli("build " + quoted(demo() / "press-kiosk.obj") + " --platform culvert --out " +
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

TEST_CASE("what was built by a sheet of a project's own is tried by it, too, and told in whole sentences") {
    TemporaryFolder folder;
    std::filesystem::create_directories(folder / "platforms");
    std::ofstream(folder / "platforms" / "tray.toml")
        << "id = \"tray\"\nname = \"Tray\"\nkind = \"tabletop\"\n[try]\nkind = \"circuit\"\n"
           "[unit]\nname = \"m\"\nmetres = 1\n[axes]\nup = \"Y\"\nfront = \"+Z\"\n[figure]\nheight = 1.78\n"
           "[deliver]\nkind = \"race-car\"\n[[rule]]\nid = \"triangles\"\nlabel = \"Triangles\"\nmost = "
           "90000\n"
           "message = \"Trays are small.\"\n";
    const auto kiosk = folder / "kiosk.obj";
    std::filesystem::copy_file(demo() / "press-kiosk.obj", kiosk);
    REQUIRE(cli("build " + quoted(kiosk) + " --platform tray --out " + quoted(folder / "out")).code == 0);
    CHECK(cli("try " + quoted(folder / "out") + " --platform tray").code == 2);
    const Ran tried =
        cli("try " + quoted(folder / "out") + " --platform tray --project " + quoted(folder.path()));
    CHECK(tried.code == 1); // a kiosk has no hubs
    CHECK(tried.out.find("hub.front.left") != std::string::npos);
    CHECK(tried.out.find("()") == std::string::npos);
}

TEST_CASE("the lists are one JSON document each") {
    CHECK(cli("platforms --json").json()["platforms"].size() >= 3);
    const auto steps = cli("steps --json").json()["steps"];
    CHECK(steps.size() == 75);
    for (const auto& step : steps)
        for (const auto& field : step["fields"]) CHECK(field.contains("default"));
}

TEST_CASE("the demo's crossings are built at once, then left alone, and tried in their stand-ins") {
    TemporaryFolder out;
    const std::string fair = quoted(demo() / "bergamot-quay.zestloom");
    const auto first = cli("build " + fair + " --all --jobs 2 --out " + quoted(out.path()) + " --json");
    CHECK(first.code == 1); // the bell and the kiosk are left for Suggest a fit on two platforms
    const auto document = first.json();
    std::map<std::string, int> outcomes;
    for (const auto& crossing : document["crossings"]) ++outcomes[crossing["outcome"]];
    CHECK(outcomes["built"] == 29);
    CHECK(outcomes["does-not-fit"] == 3);
    const auto second = cli("build " + fair + " --all --out " + quoted(out.path()) + " --json").json();
    outcomes.clear();
    for (const auto& crossing : second["crossings"]) ++outcomes[crossing["outcome"]];
    CHECK(outcomes["unchanged"] == 29);
    CHECK(second["seconds"].get<double>() < 0.2 * document["seconds"].get<double>());

    const auto lantern =
        cli("try " + quoted(out / "thistledown/storm-lantern") + " --platform thistledown --json");
    CHECK(lantern.code == 0);
    const auto items = lantern.json()["tests"]["items"];
    REQUIRE(items.size() == 3); // beside the original and somebody else's copy
    std::set<double> heights;
    for (const auto& item : items) {
        CHECK(item["ownShape"] == true);
        heights.insert(item["height"].get<double>());
    }
    CHECK(heights.size() == 3);
    CHECK(heights.contains(0.5));
    const auto poses = cli("try " + quoted(out / "thistledown/dock-hand") + " --platform thistledown --json");
    CHECK(poses.code == 0);
    CHECK(poses.json()["tests"]["poses"][0]["title"] == "lantern up");
    CHECK(poses.json()["tests"]["poses"][0]["bones"] == 3);

    const auto cart = cli("try " + quoted(out / "mudhaul/haul-cart") + " --platform mudhaul --json");
    CHECK(cart.code == 0);
    CHECK(cart.json()["tests"]["width"].get<double>() == Approx(22).margin(1e-3));
    const auto hoist = cli("try " + quoted(out / "lampwright/dock-hoist") + " --platform lampwright --json");
    CHECK(hoist.code == 0);
    CHECK(hoist.json()["tests"]["height"].get<double>() ==
          Approx(5.06 * 40).margin(1)); // metres of the crane, times 40
    const auto props = cli("try " + quoted(out / "playmeadow/kiosk-props") + " --platform playmeadow --json");
    CHECK(props.code == 0);
    CHECK(props.json()["tests"]["refused"] == 0);
    for (const auto& entry : std::filesystem::directory_iterator(out / "playmeadow/kiosk-props"))
        if (entry.path().extension() == ".glb") {
            const auto checked = run("node " ZEST_LOOM_VALIDATOR " " + quoted(entry.path()));
            INFO(entry.path() << checked.out);
            CHECK(checked.out.substr(0, checked.out.find('\n')) == "0");
        }
}

TEST_CASE("the work is spread by any runner that reads Ninja's format") {
    TemporaryFolder out;
    const std::string fair = quoted(demo() / "bergamot-quay.zestloom");
    REQUIRE(cli("build " + fair + " --all --platform mudhaul --out " + quoted(out / "d") + " --ninja " +
                quoted(out / "fair.ninja"))
                .code == 0);
    const auto ran = run("ninja -f " + quoted(out / "fair.ninja"));
    INFO(ran.out);
    CHECK(ran.code == 0);
    CHECK(std::filesystem::exists(out / "d/mudhaul/haul-cart/haul-cart.dae"));
    CHECK(run("ninja -f " + quoted(out / "fair.ninja")).out.find("no work to do") != std::string::npos);
    CHECK(cli("build " + quoted(demo() / "press-kiosk.obj") + " --all --out " + quoted(out.path())).code ==
          2);
}

TEST_CASE("a chain says what each leg keeps and what was measured") {
    TemporaryFolder out;
    const std::string fair = quoted(demo() / "bergamot-quay.zestloom");
    const auto ran = cli("chain " + fair + " --piece 'Dock hoist' --platform lampwright --out " +
                         quoted(out.path()) + " --json");
    REQUIRE(ran.code == 0);
    const auto legs = ran.json()["legs"];
    REQUIRE(legs.size() == 3);
    CHECK(legs[0]["format"] == "glb");
    CHECK(legs[2]["format"] == "level");
    for (const auto& leg : legs) {
        CHECK(std::filesystem::exists(leg["file"].get<std::string>()));
        CHECK(leg["keeps"]["names"] == "kept");
        CHECK(leg["measured"]["names"]["state"] == "kept");
        CHECK(leg["measured"]["scale"]["state"] == "kept");
        CHECK(leg["measured"]["pictures"]["state"] == "kept");
    }
    const auto other =
        cli("chain " + quoted(demo() / "kiosk-props.glb") +
            " --platform playmeadow --through stl,dae --out " + quoted(out / "other") + " --json")
            .json()["legs"];
    CHECK(other[0]["keeps"]["objects"] == "lost");
    CHECK(other[0]["measured"]["objects"]["state"] == "put-back");
    CHECK(other[0]["measured"]["uvs"]["state"] == "lost");
    CHECK(cli("chain " + fair + " --piece 'Dock hoist' --platform skerry --out " + quoted(out.path())).code ==
          2);
    CHECK(cli("chain " + fair + " --piece 'Dock hoist' --platform lampwright --through glb,wax --out " +
              quoted(out.path()))
              .code == 2);
    const auto converted = cli("convert " + quoted(demo() / "dock-hoist.obj") + " " + quoted(out / "h.x3d") +
                               " --through glb,dae --json");
    REQUIRE(converted.code == 0);
    CHECK(converted.json()["legs"].size() == 2);
    CHECK(cli("inspect " + quoted(out / "h.x3d") + " --json").json()["objects"] == 5);
}

TEST_CASE("every demo piece goes through every written format as the table says") {
    TemporaryFolder out;
    const std::string project = quoted(demo() / "bergamot-quay.zestloom") + " --platform playmeadow --piece ";
    std::vector<std::string> inputs; // as their recipes make them
    for (const char* piece : {"'Press kiosk'", "'Dock hoist'", "'Haul cart'", "'Kiosk props'"})
        inputs.push_back(project + piece);
    // And the bell as scanned, with all its triangles; its size says nothing new where numbers have a comma.
    if (!std::getenv("ZEST_LOOM_COMMA"))
        inputs.push_back(quoted(demo() / "tide-bell.stl") + " --unit mm --up z --platform skerry");
    const std::string input = GENERATE_COPY(from_range(inputs));
    for (const char* format : {"obj", "stl", "ply", "glb", "dae", "x3d", "3mf", "level"}) {
        INFO(input << " through " << format);
        const auto ran =
            cli("chain " + input + " --through " + format + " --out " + quoted(out.path()) + " --json");
        REQUIRE(ran.code == 0);
        const auto leg = ran.json()["legs"][0];
        for (const auto& [aspect, expected] : leg["keeps"].items()) {
            const std::string state = leg["measured"][aspect]["state"];
            INFO(aspect << ": expected " << expected << ", measured " << state << " "
                        << leg["measured"][aspect]["words"]);
            if (expected == "kept") CHECK((state == "kept" || state == "put-back"));
            if (state == "lost") CHECK(expected == "lost");
            if (state == "changed") CHECK(expected != "kept");
        }
    }
}

TEST_CASE("a project of version 1 builds the same files as this version's") {
    const TemporaryFolder folder;
    std::filesystem::copy(demo().path(), folder / "fair");
    std::filesystem::copy(std::filesystem::path(ZEST_LOOM_ROOT) /
                              "tests/data/bergamot-quay-version-1.zestloom",
                          folder / "fair/old.zestloom");
    for (const char* name : {"old", "bergamot-quay"})
        REQUIRE(cli("build " + quoted(folder / "fair" / (std::string(name) + ".zestloom")) + " --all --out " +
                    quoted(folder / name))
                    .code == 1); // three are left for Suggest a fit
    std::size_t files = 0;
    for (const auto& file : std::filesystem::recursive_directory_iterator(folder / "old")) {
        const auto there = folder / "bergamot-quay" / file.path().lexically_relative(folder / "old");
        if (!file.is_regular_file() || there.string().find("/.zest-loom/") != std::string::npos) continue;
        INFO(there.string());
        CHECK(readText(file.path()) == readText(there));
        ++files;
    }
    CHECK(files > 20);
    REQUIRE(cli("build " + quoted(folder / "fair/old.zestloom") +
                " --piece 'Tide bell' --platform hearthboard --suggest --out " + quoted(folder / "bell"))
                .code == 0);
    CHECK(readText(folder / "bell/tide-bell.table.json").find("\"satin\"") != std::string::npos);
}

TEST_CASE("a yardstick on the command line sets a size") {
    TemporaryFolder folder;
    folder.write(
        "recipe.json",
        R"([{"step":"match-yardstick","params":{"by":"height"}},{"step":"heading"},{"step":"origin"},{"step":"rename-parts"},{"step":"bake-placement"}])");
    const auto built = cli(
        "build " + quoted(demo() / "dock-hoist.obj") + " --unit cm --up z --platform lampwright --recipe " +
        quoted(folder / "recipe.json") + " --yardstick " + quoted(demo() / "press-kiosk.obj") + " --out " +
        quoted(folder / "out") + " --json");
    INFO(built.out);
    REQUIRE(built.code == 0);
    const auto kiosk =
        cli("inspect " + quoted(demo() / "press-kiosk.obj") + " --json").json()["boundsMetres"];
    const double tall = kiosk["max"][1].get<double>() - kiosk["min"][1].get<double>();
    const auto tried = cli("try " + quoted(folder / "out") + " --platform lampwright --json").json();
    CHECK(tried["tests"]["height"].get<double>() == Approx(40 * tall).epsilon(1e-3));
}

TEST_CASE("what copies take is said before they are made, and a layout is drawn to be painted on") {
    const std::string kiosk = quoted(demo() / "press-kiosk.obj"), bell = quoted(demo() / "tide-bell.stl");
    const auto few = cli("cost " + kiosk + " --platform skerry --copies 50 --json");
    CHECK(few.code == 0);
    const auto cost = few.json();
    CHECK(cost["triangles"] == 19852);
    REQUIRE(cost["qualities"].size() == 3);
    CHECK(cost["qualities"][2]["usual"] == true);
    CHECK(cost["qualities"][2]["sharedBytes"].get<double>() ==
          Approx(cost["qualities"][2]["oneBytes"].get<double>() + 49 * 256));
    CHECK(cost["qualities"][0]["uniqueBytes"].get<double>() ==
          Approx(50 * cost["qualities"][0]["oneBytes"].get<double>()));
    const auto many = cli("cost " + bell + " --platform skerry --copies 50");
    CHECK(many.code == 1);
    CHECK(many.out.find("upload") != std::string::npos);
    CHECK(cli("cost " + kiosk + " --platform nowhere").code == 2);
    CHECK(cli("cost " + kiosk + " --platform skerry --copies 0").code == 2);

    TemporaryFolder out;
    const std::string layout = "uv-layout " + kiosk + " " + quoted(out / "crates.png");
    CHECK(cli(layout).code == 2); // there are several materials
    const auto drawn = cli(layout + " --material 'crate wood' --size 300 --json");
    REQUIRE(drawn.code == 0);
    CHECK(drawn.json()["islands"].get<int>() > 300);
    std::ifstream png(out / "crates.png", std::ios::binary);
    std::string head(24, ' ');
    png.read(head.data(), 24);
    CHECK(head.substr(1, 3) == "PNG");
    CHECK(int(std::uint8_t(head[18])) * 256 + int(std::uint8_t(head[19])) == 300); // width, big-endian
    CHECK(cli("uv-layout " + kiosk + " " + quoted(out / "a.svg") + " --material 'awning cloth'").code == 0);
    CHECK(std::filesystem::file_size(out / "a.svg") > 1000);
    CHECK(cli("uv-layout " + kiosk + " " + quoted(out / "a.bmp") + " --material 'awning cloth'").code == 2);
    CHECK(cli("uv-layout " + bell + " " + quoted(out / "bell.png")).code == 2); // it has no UVs
}

TEST_CASE("coarser copies are planned, written as files of their own, and tried") {
    TemporaryFolder out;
    const auto built = cli("build " + quoted(demo() / "press-kiosk.obj") +
                           " --platform saltbranch --suggest --front +z --name Kiosk --out " +
                           quoted(out / "kiosk") + " --json");
    REQUIRE(built.code == 0);
    std::size_t before = std::size_t(-1);
    for (const char* name : {"kiosk_lod0.glb", "kiosk_lod1.glb", "kiosk_lod2.glb"}) {
        REQUIRE(std::filesystem::exists(out / "kiosk" / name));
        Assimp::Importer importer;
        const aiScene* scene = importer.ReadFile((out / "kiosk" / name).string(), 0);
        REQUIRE(scene);
        std::size_t triangles = 0;
        for (unsigned m = 0; m < scene->mNumMeshes; ++m) triangles += scene->mMeshes[m]->mNumFaces;
        CHECK(triangles > 0);
        CHECK(triangles < before);
        before = triangles;
    }
    CHECK(before <= 6000);
    const auto tried = cli("try " + quoted(out / "kiosk") + " --platform saltbranch --json");
    CHECK(tried.code == 0);
    CHECK(tried.out.find("For what is seen from farther away") != std::string::npos);
    // What stands there is drawn without a window, in the light that is asked for.
    const auto drawnIn = [&](const std::string& light) {
        const auto file = out / (light + ".png");
        CHECK(cli("try " + quoted(out / "kiosk") + " --platform saltbranch --picture " + quoted(file) +
                  " --choose light=" + light)
                  .code == 0);
        std::ifstream in(file, std::ios::binary);
        return std::string(std::istreambuf_iterator<char>(in), {});
    };
    const std::string sun = drawnIn("sun"), lamp = drawnIn("lamp");
    CHECK(sun.starts_with("\x89PNG"));
    CHECK(sun.size() > 100000);
    CHECK(sun != lamp);
    CHECK(cli("try " + quoted(out / "kiosk") + " --platform saltbranch --picture " + quoted(out / "x.png") +
              " --choose light=moon")
              .code == 2);
    CHECK_FALSE(std::filesystem::exists(out / "x.png"));
    // A copy that is no coarser is found out there, too.
    std::filesystem::copy_file(out / "kiosk/kiosk_lod0.glb", out / "kiosk/kiosk_lod2.glb",
                               std::filesystem::copy_options::overwrite_existing);
    const auto wrong = cli("try " + quoted(out / "kiosk") + " --platform saltbranch --json");
    CHECK(wrong.code == 1);
    CHECK(wrong.out.find("It is no coarser than the one before") != std::string::npos);
}
