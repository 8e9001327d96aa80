// Blocks, props and city objects from the fair to their stand-ins, and read by others.
#include "endtoend/command_line.h"

#include <catch2/catch.hpp>

#include <fstream>
using namespace zl;
using nlohmann::json;

namespace {

std::filesystem::path built(TemporaryFolder& out, const std::string& piece, const std::string& platform) {
    const auto folder = out / "delivered";
    const auto ran = cli("build " + quoted(demo() / "bergamot-quay.zestloom") + " --piece '" + piece +
                         "' --platform " + platform + " --out " + quoted(folder));
    INFO(ran.out);
    REQUIRE(ran.code == 0);
    return folder;
}

/// What Python's own libraries read, as JSON.
json python(const std::string& program) {
    TemporaryFolder folder;
    const auto file = folder.write("read.py", "import json,zipfile,csv,io,sys\n" + program);
    const auto ran = run("python3 " + quoted(file));
    INFO(ran.out);
    REQUIRE(ran.code == 0);
    return json::parse(ran.out);
}

} // namespace

TEST_CASE("the crate lamp can be carried, and another version of the engine is refused") {
    TemporaryFolder out;
    const auto folder = built(out, "Crate lamp", "cobblekeep");
    const auto tried = cli("try " + quoted(folder) + " --platform cobblekeep --json");
    REQUIRE(tried.code == 0);
    const json tests = tried.json()["tests"];
    CHECK(tests["can"]["CarryMe"] == true);
    CHECK(tests["can"]["Wired"] == true); // mended from "Wired " as the file has it
    CHECK(tests["can"]["ClimbOn"] == "place 7 is empty");
    CHECK(tests["blocks"] == json::array({1, 1, 1}));
    CHECK(tests["arrows"]["hit"] == tests["arrows"]["aimed"]);

    const json theirs =
        python("z=zipfile.ZipFile('" + (folder / "crate-lamp.bundle.zip").string() +
               "')\nassert z.testzip() is "
               "None\nprint(json.dumps({'names':z.namelist(),'about':json.loads(z.read('bundle.json'))}))");
    CHECK(theirs["names"] == json::array({"bundle.json", "crate-lamp.glb"}));
    CHECK(theirs["about"]["engine"] == "4.1");
    TemporaryFolder unpacked;
    python("z=zipfile.ZipFile('" + (folder / "crate-lamp.bundle.zip").string() + "')\nz.extractall('" +
           unpacked.path().string() + "')\nprint('{}')");
    const auto checked = run("node " ZEST_LOOM_VALIDATOR " " + quoted(unpacked / "crate-lamp.glb"));
    CHECK(checked.out.substr(0, checked.out.find('\n')) == "0");

    // As the file came: marks do nothing and say why, and the version is another.
    const json report =
        cli("fit " + quoted(demo() / "crate-lamp.glb") + " --platform cobblekeep --json").json();
    std::map<std::string, json> rules;
    for (const auto& rule : report["rules"]) rules[rule["id"]] = rule;
    CHECK(rules["marks"]["message"].get<std::string>().starts_with(
        "\"carryme\" in place 3 does nothing: the platform reads \"CarryMe\" in place 2"));
    CHECK(rules["engine-version"]["message"].get<std::string>().starts_with(
        "It is made for 3.2, and Cobblekeep runs 4.1"));
    python("import shutil,os\np='" + (folder / "crate-lamp.bundle.zip").string() +
           "'\nz=zipfile.ZipFile(p)\nall={n:z.read(n) for n in "
           "z.namelist()}\nall['bundle.json']=all['bundle.json'].replace(b'4.1',b'4.0')\n"
           "z.close()\nw=zipfile.ZipFile(p,'w')\n[w.writestr(n,b) for n,b in "
           "all.items()]\nw.close()\nprint('{}')");
    const auto older = cli("try " + quoted(folder) + " --platform cobblekeep --json");
    CHECK(older.code == 1);
    CHECK(older.json()["messages"].back()["text"] == "It was made for 4.0");
}

TEST_CASE("the quay clock is put into the city, found by others' readers, and taken out to the byte") {
    TemporaryFolder out, copy;
    std::filesystem::copy(demo() / "games" / "port-calder", copy.path(),
                          std::filesystem::copy_options::recursive);
    const auto folder = built(out, "Quay clock", "portcalder");
    CHECK(cli("try " + quoted(folder) + " --platform portcalder --json").json()["accepted"] == true);
    const auto worldOf = [&] { return cli("world " + quoted(copy.path()) + " --json").json(); };
    const json before = worldOf();
    CHECK(before["numbers"]["taken"].size() == 212);
    CHECK(before["collisionFiles"]["used"] == 4);
    CHECK(before["collisionFiles"]["limit"] == 5);
    CHECK(before["problems"].empty());
    const std::string snapshot =
        "import os,hashlib\nr='" + copy.path().string() +
        "'\nprint(json.dumps({os.path.relpath(os.path.join(d,f),r):hashlib.sha256(open(os.path.join(d,f),'rb'"
        ").read()).hexdigest() for d,_,fs in os.walk(r) for f in fs}))";
    const json bytes = python(snapshot);

    REQUIRE(cli("install " + quoted(folder) + " --into " + quoted(copy.path()) + " --dry-run").code == 0);
    CHECK(python(snapshot) == bytes);
    const auto put = cli("install " + quoted(folder) + " --into " + quoted(copy.path()) + " --json");
    REQUIRE(put.code == 0);
    CHECK(put.json()["found"].size() == 5);
    const json theirs = python(
        "r='" + copy.path().string() +
        "/'\nz=zipfile.ZipFile(r+'objects.zip')\nassert z.testzip() is None\n"
        "d=[x for x in csv.DictReader(open(r+'definitions.csv')) if x['name']=='quay-clock']\n"
        "p=[x for x in csv.DictReader(open(r+'placements-lamplighters.csv')) if x['name']=='quay-clock']\n"
        "print(json.dumps({'names':[n for n in z.namelist() if n.startswith('quay-clock')],'d':d,'p':p}))");
    CHECK(theirs["names"].size() == 3);
    REQUIRE(theirs["d"].size() == 1);
    CHECK(theirs["d"][0]["number"] == "41207");
    REQUIRE(theirs["p"].size() == 1);
    CHECK(std::stod(theirs["p"][0]["x"].get<std::string>()) == Approx(412.6));
    CHECK(std::stod(theirs["p"][0]["qz"].get<std::string>()) ==
          Approx(std::sin(35 * 3.14159265358979 / 360)).margin(1e-6));
    const json inCity = cli("try " + quoted(copy.path()) + " --platform portcalder --json").json();
    CHECK(inCity["accepted"] == true);
    CHECK(inCity["tests"]["placements"][0]["standsOn"] == "lamplighters-quay");
    CHECK(inCity["tests"]["placements"][0]["gap"] == 0);

    // The hoist would be the sixth collision file.
    TemporaryFolder second;
    const auto hoist = built(second, "Dock hoist", "portcalder");
    const auto refused = cli("install " + quoted(hoist) + " --into " + quoted(copy.path()) + " --json");
    CHECK(refused.code == 1);
    CHECK(refused.json()["mergeInto"].size() == 5);
    CHECK(cli("install " + quoted(hoist) + " --into " + quoted(copy.path()) +
              " --merge-into quay-extras.contact")
              .code == 0);
    CHECK(worldOf()["collisionFiles"]["used"] == 5);
    REQUIRE(cli("uninstall " + quoted(copy.path()) + " quay-clock").code == 0);
    REQUIRE(cli("uninstall " + quoted(copy.path()) + " dock-hoist").code == 0);
    CHECK(python(snapshot) == bytes);
}

TEST_CASE("two pieces with one number are refused with both names") {
    TemporaryFolder fair, out;
    std::string project = readText(demo() / "bergamot-quay.zestloom");
    const auto at = project.find("41207");
    REQUIRE(at != std::string::npos);
    project.replace(at, 5, "41208");
    const auto file = fair.write("bergamot-quay.zestloom", project);
    std::filesystem::copy(demo() / "quay-clock.obj", fair.path());
    const auto refused =
        run("sh -c '" ZEST_LOOM_CLI " build " + file.string() +
            " --piece \"Quay clock\" --platform portcalder --out " + (out / "built").string() + " 2>&1'");
    CHECK(refused.code == 1);
    CHECK(refused.out.find("41208 is the number of Dock hoist already, so Quay clock cannot have it") !=
          std::string::npos);
    CHECK_FALSE(std::filesystem::exists(out / "built"));
}

TEST_CASE("six collision files end the city half-way, with the reason that the game would not give") {
    TemporaryFolder out, copy;
    std::filesystem::copy(demo() / "games" / "port-calder", copy.path(),
                          std::filesystem::copy_options::recursive);
    python("p='" + (copy / "objects.zip").string() +
           "'\nw=zipfile.ZipFile(p,'a')\n"
           "[w.writestr('more-%d.contact'%i,'contact 1\\nbody more-%d\\n'%i) for i in "
           "range(2)]\nw.close()\nprint('{}')");
    const auto tried = cli("try " + quoted(copy.path()) + " --platform portcalder --json");
    CHECK(tried.code == 1);
    std::string all;
    const json told = tried.json();
    for (const auto& message : told["messages"]) all += message["text"].get<std::string>() + "\n";
    CHECK(all.find("The city ended half-way: it met collision file 6 of 6, and holds 5") !=
          std::string::npos);
}

TEST_CASE("the dock hoist compiles for the shooter engine, and balls go where its body lets them") {
    TemporaryFolder out;
    const auto folder = built(out, "Dock hoist", "culvert");
    const auto tried = cli("try " + quoted(folder) + " --platform culvert --json");
    INFO(tried.out);
    REQUIRE(tried.code == 0);
    const json tests = tried.json()["tests"];
    CHECK(tests["pieces"].get<int>() <= 10);
    CHECK(tests["corners"].get<int>() <= 64);
    CHECK(tests["height"].get<double>() == Approx(5.06 / 0.02).margin(0.5));
    CHECK(tests["balls"]["hit"].get<double>() > 0.9 * tests["balls"]["aimed"].get<double>());
    const auto body = folder / "dock_hoist.body.txt";
    std::string text = readText(body);
    text.replace(text.find("surface "), 12, "surface iron");
    std::ofstream(body) << text;
    const auto refused = cli("try " + quoted(folder) + " --platform culvert --json");
    CHECK(refused.code == 1);
    CHECK(refused.json()["messages"][0]["file"].get<std::string>() == "dock_hoist.body.txt:2");
}
