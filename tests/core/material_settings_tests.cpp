// Named values of materials: beside the model, in a GLB, and in files that are none.
#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/formats/format.h"
#include "core/formats/material_settings.h"
#include "support/rich_model.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

Model withSettings() {
    Model model = richModel();
    model.materials[0].settings = {
        {"shine", 0.8}, {"glows", true}, {"pattern", std::string("rope \"7\"\nü")}};
    return model;
}

} // namespace

TEST_CASE("settings of materials survive their table, a GLB, and the way to another process") {
    const Model model = withSettings();
    const std::string table = formats::settingsTable(model.materials);
    const auto back = formats::settingsFrom(table, "x.materials.toml");
    REQUIRE(back.size() == 1);
    CHECK(back.at("bronze") == model.materials[0].settings);
    CHECK(formats::settingsTable({}).empty());
    CHECK(formats::settingsTable({{.name = "plain"}}).empty());

    const TemporaryFolder folder;
    writeAllOrNone(folder.path(), formats::writeGlb(model, {"bell"}, nullptr));
    const Model read = formats::readModel(folder / "bell.glb");
    CHECK(read.materials[0].settings == model.materials[0].settings);
    CHECK(read.materials[1].settings.empty());
}

TEST_CASE("names and values of every sort come back from the table as they were") {
    Material odd{.name = "a'b\"c\n\\ä\t"};
    for (const char* name : {"", "two words", "dot.ted", "quo'te\"s", "line\nbreak", "ümlaut", "plain_1-x"})
        odd.settings[name] = std::string(name);
    for (const double number : {0.1, -0.0, 1e300, 5e-324, 1.0 / 3, 123456789012.0})
        odd.settings["n" + std::to_string(odd.settings.size())] = number;
    odd.settings["yes"] = true;
    const auto back = formats::settingsFrom(formats::settingsTable({odd, {.name = "none"}, odd}), "x");
    REQUIRE(back.size() == 1);
    CHECK(back.at(odd.name) == odd.settings);
}

TEST_CASE("a table beside a model gives its materials settings, and what is wrong with it is a warning") {
    const TemporaryFolder folder;
    writeFile(folder / "lamp.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl brass\nf 1 2 3\n");
    const auto read = [&] { return formats::readModel(folder / "lamp.obj"); };
    const Model before = read();
    // It is followed for when it comes.
    CHECK(std::ranges::find(before.files, folder / "lamp.materials.toml") != before.files.end());
    writeFile(folder / "lamp.materials.toml",
              "[[material]]\nname = \"brass\"\nsettings = { shine = 1, kind = \"old\" }\n"
              "[[material]]\nname = \"glass\"\nsettings = { clear = true }\n");
    const Model model = read();
    CHECK(model.materials.at(0).settings == MaterialSettings{{"shine", 1.0}, {"kind", std::string("old")}});
    REQUIRE(model.warnings.size() == before.warnings.size() + 1);
    CHECK(model.warnings.back().find("\"glass\"") != std::string::npos);
    for (const char* wrong :
         {"", "material = 5", "[[material]]\nsettings = {}\n", "[[material]\n", "\xff\xfe\x00",
          "[[material]]\nname = \"brass\"\nsettings = { shine = nan }\n",
          "[[material]]\nname = \"brass\"\nsettings = { shine = [1] }\n", "material = [1, 2]"}) {
        INFO(wrong);
        writeFile(folder / "lamp.materials.toml", wrong);
        const Model broken = read();
        CHECK(broken.warnings.size() == before.warnings.size() + 1);
        CHECK(broken.materials.at(0).settings.empty());
        CHECK_THROWS_AS(formats::settingsFrom(wrong, "lamp"), Error);
    }
}

TEST_CASE("settings are numbers as everywhere, whatever the locale writes") {
    const char* was = std::setlocale(LC_NUMERIC, nullptr);
    const std::string kept = was ? was : "C";
    if (!std::setlocale(LC_NUMERIC, "de_DE.UTF-8")) WARN("no comma locale here");
    const std::string table = formats::settingsTable({{.name = "a", .settings = {{"shine", 0.5}}}});
    const auto back = formats::settingsFrom(table, "x");
    std::setlocale(LC_NUMERIC, kept.c_str());
    CHECK(table.find("0.5") != std::string::npos);
    CHECK(std::get<double>(back.at("a").at("shine")) == 0.5);
}
