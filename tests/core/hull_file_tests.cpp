// Hulls of blocks as files: written, read back, and refused where they are broken.
#include "core/base/error.h"
#include "core/blocks/turns.h"
#include "core/formats/hull_file.h"

#include <catch2/catch.hpp>
#include <pugixml.hpp>

#include <random>

using namespace zl;
using formats::HullFile;

namespace {

HullFile randomHull(unsigned seed) {
    std::mt19937 dice(seed);
    const auto below = [&](int n) { return int(dice() % unsigned(n)); };
    HullFile out;
    out.name = "Fair <airship> & \"co\"";
    out.edge = 0.25;
    out.paints = {{"oak", glm::vec3(168, 123, 79) / 255.0f}, {"sail", glm::vec3(244, 238, 220) / 255.0f}};
    out.build = blocks::Build({1 + below(9), 1 + below(7), 1 + below(20)});
    for (std::size_t i = 0; i < out.build.cellCount(); ++i)
        if (below(3) > 0)
            out.build.put(blocks::cellIn(out.build.size(), i),
                          {below(3) ? blocks::Kind::Cube : blocks::Kind(below(4)),
                           blocks::Turn(below(2) ? 0 : below(24)), std::uint8_t(below(2))});
    return out;
}

std::string problemWith(const std::string& text) {
    try {
        formats::readHull(text, "hull.xml");
        return {};
    } catch (const Error& error) {
        return error.whole();
    }
}

std::string hull(const std::string& inside,
                 const std::string& head = "across='4' up='3' along='8' edge='0.25'") {
    return "<hull version='1' name='x' " + head + ">" + inside + "</hull>";
}

} // namespace

TEST_CASE("hulls come back as they were written, and rows of like blocks are one run") {
    for (unsigned seed = 0; seed < 60; ++seed) {
        const HullFile before = randomHull(seed);
        const HullFile after = formats::readHull(formats::writeHull(before), "hull.xml");
        CHECK(after == before);
    }
    HullFile row;
    row.name = "row";
    row.build = blocks::Build({1, 1, 9});
    for (int z = 1; z < 9; ++z) row.build.put({0, 0, z}, {});
    pugi::xml_document document;
    REQUIRE(document.load_string(formats::writeHull(row).c_str()));
    const auto runs = document.child("hull").children("run");
    REQUIRE(std::distance(runs.begin(), runs.end()) == 1);
    CHECK(std::string(runs.begin()->attribute("long").value()) == "8");
    CHECK(std::string(runs.begin()->attribute("shape").value()) == "cube");
    CHECK_FALSE(runs.begin()->attribute("top")); // as it is untilted
    CHECK(formats::readHull(formats::writeHull(HullFile{}), "x").build.count() == 0);
}

TEST_CASE("broken hulls are refused with what is wrong") {
    CHECK(problemWith(hull("<run x='0' y='0' z='0' shape='cube'/>")).empty());
    CHECK(problemWith("") != "");
    CHECK(problemWith("<hull").find("not XML") != std::string::npos);
    CHECK(problemWith("<ship/>").find("no <hull>") != std::string::npos);
    CHECK(problemWith("<hull version='7'/>").find("version 7") != std::string::npos);
    CHECK(problemWith(hull("", "across='4' up='3' along='8' edge='nan'")).find("edge") != std::string::npos);
    CHECK(problemWith(hull("", "across='4' up='3' along='8' edge='-1'")).find("edge") != std::string::npos);
    CHECK(problemWith(hull("", "across='-4' up='3' along='8' edge='1'")).find("across") != std::string::npos);
    CHECK(problemWith(hull("", "across='99999' up='99999' along='99999' edge='1'")).find("more blocks") !=
          std::string::npos);
    CHECK(problemWith(hull("<run x='4' y='0' z='0' shape='cube'/>")).find("\"x\"") != std::string::npos);
    CHECK(problemWith(hull("<run x='0' y='0' z='0' long='9' shape='cube'/>")).find("\"long\"") !=
          std::string::npos);
    CHECK(problemWith(hull("<run x='0' y='0' z='0' shape='cone'/>")).find("no shape \"cone\"") !=
          std::string::npos);
    CHECK(problemWith(hull("<run x='0' y='0' z='0' shape='slope' top='up'/>")).find("no top") !=
          std::string::npos);
    CHECK(problemWith(hull("<run x='0' y='0' z='0' shape='slope' spin='4'/>")).find("spin") !=
          std::string::npos);
    CHECK(problemWith(hull("<run x='0' y='0' z='0' shape='cube' paint='0'/>")).find("paint") !=
          std::string::npos);
    CHECK(problemWith(hull("<paint name='oak' rgb='12345g'/>")).find("oak") != std::string::npos);
    CHECK(problemWith(hull("<run x='0' y='0' z='0' long='3' shape='cube'/>"
                           "<run x='0' y='0' z='2' shape='slope'/>"))
              .find("two blocks at 0 0 2") != std::string::npos);
    CHECK(problemWith(hull("<run x='1e1' y='0' z='0' shape='cube'/>")).find("\"x\"") != std::string::npos);
    // Entities that would grow into gigabytes are not followed.
    std::string bomb = "<!DOCTYPE hull [<!ENTITY a \"aaaaaaaaaa\">";
    for (char c = 'b'; c < 'k'; ++c)
        bomb += std::string("<!ENTITY ") + c + " \"" + std::string(10, '&') + char(c - 1) + ";\">";
    CHECK(problemWith(bomb + "]>" + hull("<run x='0' y='0' z='0' shape='&j;'/>")).find("no shape") !=
          std::string::npos);
    const std::string whole = formats::writeHull(randomHull(3));
    for (std::size_t length = 0; length < whole.size(); length += 7)
        (void)problemWith(whole.substr(0, length)); // an answer, never a crash
}
