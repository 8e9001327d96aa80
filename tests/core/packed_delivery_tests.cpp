// Deliveries and examples that come packed, as the trial ground finds them, also such that mean harm.
#include "core/base/archive.h"
#include "core/formats/format.h"
#include "standins/files/delivered.h"
#include "standins/world/packed_files.h"
#include "support/containers.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace packed_delivery_tests {

using namespace zl::standins::files;
using Catch::Contains;
namespace fs = std::filesystem;

/// A piece with a name of more than plain letters, and what lies beside it.
std::vector<OutFile> piece() {
    const Model model = shapes::modelOf(shapes::sphere(24, 12, 0.5), "Küstenboje");
    return {{"räder/Küstenboje.obj", formats::writeObj(model, {"b"}, nullptr).at(0).bytes},
            {"about.txt", "a buoy"}};
}

/// What is said of a folder that holds this one file.
standins::TryReport said(const fs::path& folder) {
    standins::TryReport report;
    readDelivered(folder, report);
    return report;
}

TEST_CASE("a delivery that is packed is read, however it is packed and its files are called") {
    for (const containers::Kind& kind : containers::archives()) {
        INFO(kind.extension);
        const TemporaryFolder folder;
        containers::writeArchive(folder.path() / ("out." + kind.extension), kind, piece());
        standins::TryReport report;
        const Delivered read = readDelivered(folder.path(), report);
        CHECK((report.messages.empty() ? "" : report.messages[0].detail) == "");
        CHECK(read.archive == "out." + kind.extension);
        REQUIRE(read.models.size() == 1);
        CHECK(read.models[0].path == "räder/Küstenboje.obj");
        CHECK(read.models[0].triangles == 24 * 10 * 2 + 24 * 2);
        CHECK(read.texts.at("about.txt") == "a buoy");
        // And as the example that another is held against.
        const TemporaryFolder own;
        own.write("own.obj", piece()[0].bytes);
        const auto like =
            exampleFor(folder.path() / ("out." + kind.extension), readDelivered(own.path(), report));
        REQUIRE(like);
        CHECK(like->models.at(0).triangles == read.models[0].triangles);
    }
}

TEST_CASE("what the program packs as 7z is read back the same") {
    const auto read = standins::world::readPacked(sevenZipped(piece()), 1 << 20);
    CHECK(read.problem == "");
    REQUIRE(read.entries.size() == 2);
    for (const OutFile& file : piece()) CHECK(read.entries.at(file.name) == file.bytes);
    // To the byte as much as is taken, and no more.
    const std::size_t all = piece()[0].bytes.size() + piece()[1].bytes.size();
    CHECK(standins::world::readPacked(sevenZipped(piece()), all).problem.empty());
    CHECK_THAT(standins::world::readPacked(sevenZipped(piece()), all - 1).problem,
               Contains("larger than is taken"));
}

TEST_CASE("a 7z ends where its directory ends, which its first bytes name") {
    const std::string packed = sevenZipped(piece());
    const auto number = [&](std::size_t at) {
        std::uint64_t value = 0;
        for (std::size_t k = 0; k < 8; ++k)
            value |= std::uint64_t(static_cast<unsigned char>(packed.at(at + k))) << (8 * k);
        return value;
    };
    CHECK(packed.size() == 32 + number(12) + number(20));
}

TEST_CASE("an archive that is cut off anywhere is refused, or what was before the cut is read") {
    for (const std::string& whole : {zipped(piece()), sevenZipped(piece())})
        for (std::size_t cut = 0; cut < whole.size(); cut += 37) {
            const auto read = standins::world::readPacked(whole.substr(0, cut), 1 << 20);
            INFO(cut << " of " << whole.size() << ", " << whole.substr(0, 2));
            CHECK_FALSE(read.problem.empty());
            CHECK(read.entries.empty());
        }
    std::string wrong = sevenZipped(piece());
    for (std::size_t at = 6; at < wrong.size(); at += 11) { // a byte that is another; no crash is what counts
        std::string changed = wrong;
        changed[at] = char(changed[at] ^ 0x5a);
        const auto read = standins::world::readPacked(changed, 1 << 20);
        CHECK(read.entries.size() <= 2);
    }
}

TEST_CASE("archives with paths that climb out, files that stand there twice, or no model, are refused") {
    const auto refusal = [&](const containers::Kind& kind, const std::vector<OutFile>& files) -> std::string {
        const TemporaryFolder folder;
        containers::writeArchive(folder.path() / ("out." + kind.extension), kind, files);
        const auto report = said(folder.path());
        return report.messages.empty() ? "" : report.messages.at(0).text + ": " + report.messages[0].detail;
    };
    for (const containers::Kind& kind : containers::archives()) {
        INFO(kind.extension);
        CHECK_THAT(refusal(kind, {{"../up.obj", "x"}}), Contains("leads out of it"));
        CHECK_THAT(refusal(kind, {{"/etc/up.obj", "x"}}), Contains("leads out of it"));
        CHECK_THAT(refusal(kind, {{"a.txt", "x"}}), Contains("no model"));
        // An archive in an archive stays one: it may hold itself without end.
        CHECK_THAT(refusal(kind, {{"in.zip", zipped(piece())}}), Contains("no model"));
    }
    CHECK_THAT(refusal(containers::archives()[3], {{"a.obj", "x"}, {"a.obj", "y"}}), Contains("twice"));
    const TemporaryFolder folder;
    folder.write("out.7z", "no archive");
    CHECK_THAT(said(folder.path()).messages.at(0).text, Contains("not readable"));
}

} // namespace packed_delivery_tests
