// Kinds of parameters: each reads what it says it takes, prints what it read, and refuses the rest by name.
#include "core/fields/table.h"

#include <catch2/catch.hpp>

#include <set>

using namespace zl;
using namespace zl::fields;
using nlohmann::json;

namespace {

struct Slot {
    std::string name = "walk";
    ClipRef clip;
    bool loops = true;

    static constexpr auto fields =
        describe(field<&Slot::name>("name", "Slot"), field<&Slot::clip>("clip", "Clip"),
                 field<&Slot::loops>("loops", "Loops"));
};

enum class Kind { Soft, Hard };

/// One member of every type.
struct Everything {
    double number = 1, length = 2, angle = 0, share = 0.5;
    int count = 3;
    bool flag = false;
    Kind kind = Kind::Soft;
    glm::dvec3 point{1, 2, 3};
    std::string text = "lamp";
    PartNames parts;
    Colour colour;
    std::vector<Slot> slots;
    zl::selection::Selection faces;
    ModelRef model;
    PictureRef picture;
    NodeRef node;
    BoneRef bone;
    ClipRef clip;

    static constexpr Choice kinds[] = {{"soft", "soft one"}, {"hard", "hard one"}};
    static constexpr auto fields = describe(
        field<&Everything::number>("number", "Number").between(-5, 5),
        field<&Everything::length>("length", "Length").metres().between(0, 10),
        field<&Everything::angle>("angle", "Angle").degrees().between(-360, 360),
        field<&Everything::share>("share", "Share").share().between(0, 1),
        field<&Everything::count>("count", "Count").between(0, 9), field<&Everything::flag>("flag", "Flag"),
        field<&Everything::kind>("kind", "Kind").oneOf(kinds), field<&Everything::point>("point", "Point"),
        field<&Everything::text>("text", "Text"), field<&Everything::parts>("parts", "Parts").leastIs("all"),
        field<&Everything::colour>("colour", "Colour"), field<&Everything::slots>("slots", "Slots"),
        field<&Everything::faces>("faces", "Faces"), field<&Everything::model>("model", "Model"),
        field<&Everything::picture>("picture", "Picture"), field<&Everything::node>("node", "Node"),
        field<&Everything::bone>("bone", "Bone"), field<&Everything::clip>("clip", "Clip"));
};

Everything withValue(const char* name, const json& value) {
    Everything out;
    readInto(Everything::fields, &out, {{name, value}}, "everything");
    return out;
}

} // namespace

TEST_CASE("a value of each kind is read into its member and printed as it was") {
    const auto sameAgain = [](const char* name, const json& value) {
        INFO(name);
        const Everything read = withValue(name, value);
        CHECK(json(printed(Everything::fields, &read)[name]) == value);
        return read;
    };
    CHECK(sameAgain("number", -2.5).number == -2.5);
    CHECK(sameAgain("length", 2.5).length == 2.5);
    CHECK(sameAgain("angle", 90.0).angle == Approx(1.5707963267948966));
    CHECK(sameAgain("share", 0.25).share == 0.25);
    CHECK(sameAgain("count", 7).count == 7);
    CHECK(sameAgain("flag", true).flag);
    CHECK(sameAgain("kind", "hard").kind == Kind::Hard);
    CHECK(sameAgain("point", {4, 5, 6}).point == glm::dvec3(4, 5, 6));
    CHECK(sameAgain("text", "wheel").text == "wheel");
    CHECK(sameAgain("parts", {"a*", "b"}).parts.patterns == std::vector<std::string>{"a*", "b"});
    CHECK(sameAgain("colour", "#e59a12").colour.rgb == std::array<std::uint8_t, 3>{229, 154, 18});
    const auto slots =
        sameAgain("slots", json::array({{{"name", "run"}, {"clip", "Run 2"}, {"loops", false}}}));
    REQUIRE(slots.slots.size() == 1);
    CHECK(slots.slots[0].clip.name == "Run 2");
    CHECK_FALSE(slots.slots[0].loops);
    CHECK(sameAgain("faces", json::parse(R"([{"parts": ["x"]}])")).faces.terms.size() == 1);
    CHECK(sameAgain("model", {{"yardstick", "Gate"}}).model == ModelRef{ModelRef::Kind::Yardstick, "Gate"});
    CHECK(sameAgain("model", {{"file", "a/b.glb"}}).model == ModelRef{ModelRef::Kind::File, "a/b.glb"});
    CHECK(sameAgain("picture", {{"picture", "wood"}}).picture.name == "wood");
    CHECK(sameAgain("node", "hull/wheel#2").node.name == "hull/wheel#2");
    CHECK(sameAgain("bone", "Elbow").bone.name == "Elbow");
    CHECK(sameAgain("clip", "Walk").clip.name == "Walk");
}

TEST_CASE("what recipes held once is read: parts as one text, a yardstick as its name") {
    CHECK(withValue("parts", "a*, b").parts.patterns == std::vector<std::string>{"a*", "b"});
    CHECK(withValue("model", "Gate").model == ModelRef{ModelRef::Kind::Yardstick, "Gate"});
    CHECK(withValue("model", "").model == ModelRef{ModelRef::Kind::Yardstick, ""});
}

TEST_CASE("each kind refuses what it does not take and says what it expected") {
    const auto [name, value, expected] = GENERATE(table<const char*, json, const char*>({
        {"number", "2", "number"},
        {"number", 6, "-5 to 5"},
        {"count", 1.5, "whole"},
        {"angle", 361, "-360"},
        {"kind", "firm", "one of soft, hard"},
        {"flag", 1, "true or false"},
        {"point", json::array({1, 2}), "three numbers"},
        {"text", "a\nb", "line ends"},
        {"parts", json::array({1}), "quotation marks"},
        {"colour", "e59a12", "#rrggbb"},
        {"colour", "#e59a1g", "#rrggbb"},
        {"colour", json::array({1, 2, 3}), "#rrggbb"},
        {"slots", json::object(), "list"},
        {"slots", json::array({{{"name", "x"}, {"clip", ""}, {"loops", 3}}}), "true or false"},
        {"slots", json::array({{{"name", "x"}, {"clip", ""}, {"loops", true}, {"speed", 2}}}),
         "no \"speed\""},
        {"faces", json::array({{{"parts", 3}}}), "name"},
        {"faces", json::array({{{"colour", "red"}}}), "parts, materials"},
        {"model", json::object({{"pieces", "x"}}), "piece"},
        {"model", json::object({{"piece", "x"}, {"file", "y"}}), "piece"},
        {"model", nullptr, "piece"},
        {"picture", "x", "picture"},
        {"clip", 3, "text"},
    }));
    INFO(name << " = " << value.dump());
    try {
        withValue(name, value);
        FAIL("was taken");
    } catch (const Error& error) {
        CHECK(error.whole().find(expected) != std::string::npos);
        CHECK(error.where() == "everything");
    }
}

TEST_CASE("of several values none is set when one is refused") {
    Everything all;
    CHECK_THROWS_AS(readInto(Everything::fields, &all, {{"count", 5}, {"number", 99}}, "x"), Error);
    CHECK(all.count == 3);
    CHECK_THROWS_AS(readInto(Everything::fields, &all, {{"count", 5}, {"weight", 1}}, "x"), Error);
    CHECK(all.count == 3);
}

TEST_CASE("a new row of a list has the defaults of its fields") {
    const Field* slots = named(Everything::fields, "slots");
    CHECK(slots->emptyRow() == json{{"name", "walk"}, {"clip", ""}, {"loops", true}});
}

TEST_CASE("every kind tells in words what it takes") {
    std::set<std::string_view> names;
    for (const Field& field : Everything::fields) {
        CHECK(names.insert(field.type().name()).second);
        CHECK_FALSE(field.type().describe(field).empty());
    }
    CHECK(names.size() == 18);
}
