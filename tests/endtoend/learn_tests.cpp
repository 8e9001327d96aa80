// Sheets that are learnt from what shipped platforms take, and deliver what they take again.
#include "core/base/file_set.h"
#include "core/base/name_styles.h"
#include "core/deliver/deliver.h"
#include "core/learn/sheet_from.h"
#include "core/planner/planner.h"
#include "core/platform/own_sheet.h"
#include "core/platform/sheet_known.h"
#include "core/project/source_cache.h"
#include "endtoend/command_line.h"
#include "standins/stand_in.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

#include <nlohmann/json.hpp>

using namespace zl;

namespace learn_end_tests {

/// Demo pieces brought to fit a platform: what is built of each.
struct Built {
    std::string piece;
    Model model;
};

std::vector<Built> builtFor(const platform::Sheet& sheet, const std::filesystem::path& folder) {
    std::vector<Built> out;
    for (const char* file : {"crate-lamp.glb", "dock-hoist.obj", "haul-cart.glb", "rope-bollard.obj",
                             "quay-clock.obj", "press-kiosk.obj"}) {
        Model model = project::SourceCache().load(demo() / file).model;
        model.headingKnown = true;
        const auto plan = planner::plan(model, sheet, nullptr, 0);
        if (!plan.holds) continue;
        const std::string name = std::filesystem::path(file).stem().string();
        const auto result = deliver::build(model, 1, plan.recipe(), sheet, folder / name,
                                           {.name = name, .credit = "own work"});
        if (!result.fits) continue;
        const auto* standIn = standins::standInNamed(sheet.standIn);
        if (!standIn->tryFolder(folder / name).accepted) continue;
        out.push_back({name, std::move(model)});
    }
    return out;
}

std::string wordsOf(const standins::TryReport& report) {
    std::string words;
    for (const auto& message : report.messages)
        if (message.kind == standins::Message::Kind::Refused)
            words += message.file + ": " + message.text + " (" + message.detail + ")\n";
    return words;
}

TEST_CASE("what shipped platforms take is learnt, delivered again by the learnt sheet, and taken again") {
    for (const char* id : {"hearthboard", "lampwright", "mudhaul", "skerry", "playmeadow"}) {
        INFO(id);
        const TemporaryFolder folder;
        const auto shipped = sheet(id);
        const auto built = builtFor(*shipped, folder / "taken");
        REQUIRE(built.size() >= 2);
        const auto evidence = learn::evidenceOf({folder / "taken", {}});
        std::set<std::string> taken;
        for (const auto& property : evidence.properties)
            if (property.offered) taken.insert(property.id);
        const std::string text = learn::sheetFrom(evidence, {"learnt", "Learnt", {}, {}}, taken);
        INFO(text);
        std::vector<std::string_view> standIns = standins::standInIds();
        const auto learnt =
            platform::readSheet(folder.write("learnt.toml", text), deliver::sheetWords(standIns));
        REQUIRE(learnt.deliverable == "files");
        for (const Built& piece : built) {
            INFO(piece.piece);
            const auto out = folder / "again" / piece.piece;
            const auto plan = planner::plan(piece.model, learnt, nullptr, 0);
            const auto result = deliver::build(piece.model, 1, plan.recipe(), learnt, out,
                                               {.name = piece.piece, .credit = "own work"});
            for (const auto& rule : result.report.rules)
                if (rule.severity == platform::Severity::Must) {
                    INFO(rule.label << ": " << rule.finding.note);
                    CHECK(rule.state != platform::State::Broken);
                }
            const auto report = standins::standInNamed(shipped->standIn)->tryFolder(out);
            INFO(wordsOf(report));
            CHECK(report.accepted);
        }
    }
}

TEST_CASE("learn tells its evidence as one document, and writes a sheet that builds and is tried") {
    const TemporaryFolder folder;
    builtFor(*sheet("playmeadow"), folder / "taken");
    std::filesystem::create_directories(folder / "platforms");
    folder.write("taken/broken.glb", "glTF but not for long");
    const Ran ran =
        cli("learn " + quoted(folder / "taken") + " --json --all --name \"Meadow of mine\" --out " +
            quoted(folder / "platforms/mine.toml"));
    REQUIRE(ran.code == 0);
    const auto told = nlohmann::json::parse(ran.out);
    CHECK(told.at("unreadable").size() == 1);
    CHECK(told.at("files").get<int>() > 8);
    bool triangles = false;
    for (const auto& property : told.at("properties"))
        if (property.at("id") == "triangles")
            triangles = property.at("offered").at("check") == "triangles" &&
                        property.at("least") <= property.at("most");
    CHECK(triangles);
    CHECK(told.at("files-layout").at("templates").at(0).at("path") == "pack.json");
    const std::string with = " --platform mine --project " + quoted(folder.path());
    CHECK(cli("learn " + quoted(folder / "nowhere")).code == 2);
    CHECK(cli("learn " + quoted(folder / "taken") + " --out " + quoted(folder / "x.txt")).code == 2);
    const Ran tried = cli("try " + quoted(folder / "taken/dock-hoist") + with + " --like " +
                          quoted(folder / "taken/dock-hoist"));
    INFO(tried.out);
    CHECK(tried.code == 0);
}

TEST_CASE("a game whose files were named and written by hand is learnt, built for and tried") {
    const TemporaryFolder folder;
    for (const char* title : {"Oak door", "Quay bench", "Pear crate", "Hop bed", "Tin bucket"}) {
        const std::string name = "SM_" + styledName(title, NameStyle::Capitals);
        folder.write("taken/Defs/" + name + ".json", "{\n  // kept by hand\n  \"id\": \"" + name.substr(3) +
                                                         "\",\n  \"mesh\": \"Meshes/" + name +
                                                         ".obj\",\n}\n");
        std::filesystem::create_directories(folder.path() / "taken/Meshes");
        std::filesystem::copy(demo() / "rope-bollard.obj", folder.path() / ("taken/Meshes/" + name + ".obj"));
    }
    std::filesystem::create_directories(folder.path() / "platforms");
    const Ran learnt = cli("learn " + quoted(folder / "taken") + " --name Yard --out " +
                           quoted(folder / "platforms/yard.toml"));
    REQUIRE(learnt.code == 0);
    const std::string with = " --platform yard --project " + quoted(folder.path());
    const Ran built =
        cli("build " + quoted(demo() / "rope-bollard.obj") + with + " --out " + quoted(folder / "out"));
    INFO(built.out);
    REQUIRE(built.code == 0);
    CHECK(std::filesystem::exists(folder / "out/Meshes/SM_RopeBollard.obj"));
    CHECK(
        readText(folder / "out/Defs/SM_RopeBollard.json") ==
        "{\n  // kept by hand\n  \"id\": \"RopeBollard\",\n  \"mesh\": \"Meshes/SM_RopeBollard.obj\",\n}\n");
    const Ran tried = cli("try " + quoted(folder / "out") + with + " --like " + quoted(folder / "taken"));
    INFO(tried.out);
    CHECK(tried.code == 0);
    CHECK(tried.out.find("comments") != std::string::npos);
}

TEST_CASE("what the game said is kept, becomes a limit, and its log is read") {
    const TemporaryFolder folder;
    builtFor(*sheet("playmeadow"), folder / "taken");
    const std::string project = " --platform playmeadow --project " + quoted(folder.path());
    const std::string shipped = readText(sheet("playmeadow")->file);
    const Ran took = cli("answer " + quoted(folder / "taken/rope-bollard") + project + " --accepted --json");
    REQUIRE(took.code == 0);
    CHECK(nlohmann::json::parse(took.out).at("piece") == "rope-bollard");
    CHECK(readText(sheet("playmeadow")->file) == shipped);
    const std::string refusing = "answer " + quoted(folder / "taken/haul-cart") + project +
                                 " --refused --because \"it stutters\" --piece Cart";
    const Ran asked = cli(refusing + " --json");
    REQUIRE(asked.code == 0);
    const auto told = nlohmann::json::parse(asked.out);
    REQUIRE_FALSE(told.at("differences").empty());
    double last = 1e9;
    std::string property;
    for (const auto& one : told.at("differences")) {
        CHECK(one.at("tells").get<double>() <= last);
        last = one.at("tells");
        if (one.contains("limits") && property.empty()) property = one.at("property");
    }
    REQUIRE_FALSE(property.empty());
    const Ran kept = cli(refusing + " --take " + property + " --json");
    REQUIRE(kept.code == 0);
    const auto after = platform::sheetNamed(platform::loadSheets(folder.path()), "playmeadow");
    REQUIRE(after->answers.size() == 3);
    CHECK(after->answers[2].because == "it stutters");
    CHECK(after->rule(after->answers[2].limit));
    // What was refused does not fit any more; what was taken does.
    CHECK(cli("fit " + quoted(demo() / "haul-cart.glb") + " --platform playmeadow --suggest --json").code <=
          1);
    CHECK(cli("answer " + quoted(folder / "taken/haul-cart") + project).code == 2);
    CHECK(cli("answer " + quoted(folder / "nowhere") + project + " --accepted").code == 2);
    CHECK(cli(refusing + " --take nothing").code == 2);
    // Its log.
    const auto log = folder.write("game.log", "loading\n[9:00] mesh 'cart' has 9120 tris\n");
    CHECK(cli("log " + quoted(log) + project + " --json").json().at("unknown") == 2);
    platform::changeSheet(*after, folder.path(),
                          [](platform::SheetText& text) {
                              text.add("log", platform::logSection({"mesh '(.+)' has ([0-9]+) tris",
                                                                    "{1} has {2} triangles",
                                                                    "triangles",
                                                                    {"reduce-triangles"}}));
                          },
                          {});
    const Ran read = cli("log " + quoted(log) + project + " --json");
    CHECK(read.code == 1);
    CHECK(read.json().at("known") == 1);
    CHECK(read.json().at("lines").at(0).at("says") == "cart has 9120 triangles");
    CHECK(cli("log " + quoted(folder / "none.log") + project).code == 2);
}

TEST_CASE("what a sheet delivers is installed where it says, and taken out again") {
    const TemporaryFolder folder;
    builtFor(*sheet("playmeadow"), folder / "taken");
    std::string text = readText(sheet("playmeadow")->file);
    text.replace(text.find("name = \"Pack of objects\""), 0, "installed = \"packs/{name}\"\n");
    folder.write("platforms/playmeadow.toml", text);
    folder.write("game/read me.txt", "somebody's");
    const std::string install =
        "install " + quoted(folder / "taken/rope-bollard") + " --into " + quoted(folder / "game");
    CHECK(cli(install).code == 2);                            // nothing says where
    CHECK(cli(install + " --platform playmeadow").code == 1); // nor does the sheet that ships
    const std::string by = " --platform playmeadow --project " + quoted(folder.path());
    CHECK(cli(install + by + " --dry-run").code == 0);
    CHECK_FALSE(std::filesystem::exists(folder / "game/packs"));
    REQUIRE(cli(install + by + " --json").code == 0);
    CHECK(std::filesystem::exists(folder / "game/packs/rope-bollard/pack.json"));
    CHECK(cli("try " + quoted(folder / "game/packs/rope-bollard") + " --platform playmeadow").code == 0);
    CHECK(cli("uninstall " + quoted(folder / "game") + " rope-bollard").code == 0);
    CHECK_FALSE(std::filesystem::exists(folder / "game/packs/rope-bollard/pack.json"));
    CHECK(readText(folder / "game/read me.txt") == "somebody's");
}

} // namespace learn_end_tests
