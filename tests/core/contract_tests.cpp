// What every deliverable and every stand-in promise each other, whichever come to be: what fits is accepted,
// a file that is missing or cut short is not, and files that were made for another are refused with a reason.
#include "core/base/error.h"
#include "core/deliver/deliver.h"
#include "core/planner/planner.h"
#include "core/platform/file_terms.h"
#include "standins/stand_in.h"
#include "standins/world/arena.h"
#include "support/avatar_figure.h"
#include "support/box_car.h"
#include "support/random_tree.h"
#include "support/sheets.h"
#include "support/swimmer.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <fstream>
#include <set>

using namespace zl;
namespace fs = std::filesystem;

namespace {

/// The shipped sheets that have both; the contract is empty without them.
std::vector<std::shared_ptr<const platform::Sheet>> sheetsWithBoth() {
    std::vector<std::shared_ptr<const platform::Sheet>> both;
    for (const auto& sheet : platform::loadSheets())
        if (!sheet->deliverable.empty() && !sheet->standIn.empty()) both.push_back(sheet);
    return both;
}

std::vector<std::pair<std::string, Model>> pieces() {
    std::vector<std::pair<std::string, Model>> all{
        {"box", shapes::box({-3, -1, -2}, {4, 6, 2})},
        {"bell", richModel()},
        {"tree", shapes::randomTree(12, 5, true)},
        {"scan", shapes::modelOf(shapes::exploded(shapes::sphere(40, 20, 0.7)), "scan")},
        {"car", boxCars::boxCar()},
        {"fish", swimmer()},
        {"worn", ranStep(avatarFigure(), "rest-pose", {{"take", "level"}}).model}};
    for (auto& [name, model] : all) model.headingKnown = true; // no plan decides that
    return all;
}

/// Plans and builds into `out`; false when no plan holds or a must rule is left.
bool built(const Model& model, const platform::Sheet& sheet, const std::string& finish, const fs::path& out) {
    deliver::Labels labels{"piece", "own work"};
    std::vector<deliver::OtherSize> others; // the same in every size that the platform wants
    Sizes sizes;
    for (const std::string& size : sheet.sizes) {
        if (labels.sizes.first.empty()) {
            labels.sizes.first = sizes.first = size;
            continue;
        }
        others.push_back({size, model, 1, nullptr});
        sizes.others.push_back({size, model});
    }
    const auto plan = planner::plan(model, sheet, nullptr, 0, {}, {}, sizes);
    for (const auto& reason : plan.reasons) UNSCOPED_INFO(reason);
    if (!plan.holds) return false;
    const auto params = finish.empty() ? nlohmann::json::object() : nlohmann::json{{"finish", finish}};
    return deliver::build(model, 1, plan.recipe(), sheet, out, labels, params, nullptr, {}, nullptr, others)
        .fits;
}

/// The first of the pieces that can be brought to fit.
bool builtOne(const platform::Sheet& sheet, const fs::path& out) {
    for (const auto& [name, model] : pieces())
        if (built(model, sheet, "", out)) return true;
    return false;
}

std::string wordsOf(const standins::TryReport& report) {
    std::string words;
    for (const auto& message : report.messages) words += message.file + ": " + message.text + "; ";
    return words;
}

bool saysWhy(const standins::TryReport& report) {
    for (const auto& message : report.messages)
        if (message.kind == standins::Message::Kind::Refused && !message.text.empty()) return true;
    return false;
}

std::string contentOf(const fs::path& file) {
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

} // namespace

TEST_CASE("what fits and was built is accepted by the platform's stand-in, in every finish") {
    const auto sheets = sheetsWithBoth();
    REQUIRE(sheets.size() >= 4);
    for (const auto& sheet : sheets) {
        int accepted = 0;
        for (const auto& [name, model] : pieces()) {
            std::vector<std::string> finishes{""};
            for (const auto& ask : sheet->files.asks)
                if (ask.name == "finish") finishes = ask.options;
            for (const auto& finish : finishes) {
                INFO(sheet->id << " " << name << " " << finish);
                const TemporaryFolder folder;
                if (!built(model, *sheet, finish, folder / "out")) continue;
                const auto report = standins::standInNamed(sheet->standIn)->tryFolder(folder / "out");
                INFO(wordsOf(report));
                CHECK(report.accepted);
                ++accepted;
                if (sheet->deliverable != "files") continue;
                // Who knows no game holds the files to what the sheet says of them.
                const auto neutral =
                    standins::standInNamed("files")->tried(folder / "out", platform::fileTerms(*sheet));
                INFO(wordsOf(neutral));
                CHECK(neutral.accepted);
            }
        }
        INFO(sheet->id);
        CHECK(accepted > 0);
    }
}

TEST_CASE("a delivered file that is gone or cut to a third is never passed over in silence") {
    for (const auto& sheet : sheetsWithBoth()) {
        const TemporaryFolder folder;
        const fs::path out = folder / "out";
        INFO(sheet->id);
        REQUIRE(builtOne(*sheet, out));
        const auto& standIn = *standins::standInNamed(sheet->standIn);
        const auto whole = standIn.tryFolder(out);
        REQUIRE(whole.accepted);
        std::vector<fs::path> files;
        for (const auto& entry : fs::recursive_directory_iterator(out))
            if (entry.is_regular_file()) files.push_back(entry.path());
        for (const auto& file : files) {
            const std::string bytes = contentOf(file);
            INFO(file.filename());
            for (const bool gone : {true, false}) {
                INFO((gone ? "gone" : "cut"));
                fs::remove(file);
                if (!gone)
                    std::ofstream(file, std::ios::binary)
                        .write(bytes.data(), std::streamsize(bytes.size() / 3));
                const auto report = standIn.tryFolder(out);
                INFO(wordsOf(report));
                CHECK((saysWhy(report) || wordsOf(report) != wordsOf(whole)));
                CHECK(report.accepted != saysWhy(report));
            }
            std::ofstream(file, std::ios::binary) << bytes;
        }
        CHECK(standIn.tryFolder(out).accepted);
    }
}

TEST_CASE("files made for another game are refused by every stand-in, with a reason") {
    const auto sheets = sheetsWithBoth();
    for (const auto& made : sheets) {
        const TemporaryFolder folder;
        REQUIRE(builtOne(*made, folder / "out"));
        for (const auto& standIn : standins::allStandIns()) {
            if (standIn.id == made->standIn || standIn.tryUnder) continue; // that one knows no game
            INFO(made->id << " in " << standIn.id);
            const auto report = standIn.tryFolder(folder / "out");
            CHECK_FALSE(report.accepted);
            CHECK(saysWhy(report));
            standins::TryReport opened;
            standIn.open(folder / "out", opened);
            CHECK(saysWhy(opened));
        }
    }
}

TEST_CASE("every deliverable has a sheet and a stand-in that hold it to its word") {
    std::set<std::string> held, tried;
    for (const auto& sheet : sheetsWithBoth()) {
        held.emplace(sheet->deliverable);
        tried.emplace(sheet->standIn);
    }
    for (const auto& deliverable : deliver::allDeliverables()) {
        INFO(deliverable->info().id);
        CHECK(held.contains(std::string(deliverable->info().id)));
        for (const auto& field : deliverable->fields()) CHECK_FALSE(field.type().describe(field).empty());
    }
    for (const auto& standIn : standins::allStandIns()) {
        INFO(standIn.id);
        if (standIn.tryUnder) continue; // for sheets that do not ship
        CHECK(tried.contains(std::string(standIn.id)));
    }
}
