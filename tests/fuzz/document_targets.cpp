// The program's own documents, and what people type.
#include "fuzz/helpers.h"
#include "fuzz/targets.h"

#include "core/base/json_text.h"
#include "core/base/text_template.h"
#include "core/formats/scene_file.h"
#include "core/geometry/solids.h"
#include "core/platform/game_log.h"
#include "core/platform/name_pattern.h"
#include "core/platform/sheet_text.h"
#include "core/project/blocks_document.h"
#include "core/project/project.h"
#include "core/project/solids_document.h"
#include "core/selection/chosen.h"
#include "core/solids/scene_model.h"

namespace fuzz {

using namespace zl;

namespace documents {

namespace {

void project_(std::string_view bytes) {
    const auto project = project::load(written("x.zestloom", bytes));
    const auto again = project::fromJson(project::toJson(project), project.file);
    if (project::toJson(again) != project::toJson(project))
        complain("a project does not come back as it was");
}

void recipe_(std::string_view bytes) {
    const auto json = nlohmann::json::parse(bytes, nullptr, false);
    if (json.is_discarded()) return;
    const auto recipe = recipe::fromJson(json);
    if (recipe::fromJson(recipe::toJson(recipe)) != recipe) complain("a recipe does not come back as it was");
}

void sheet_(std::string_view bytes) {
    platform::readSheet(written("x.toml", bytes));
}

/// A template over a little of everything, in every escaping.
void template_(std::string_view bytes) {
    static const nlohmann::json data{{"name", "a \"b\" <c>"},
                                     {"objects", {{{"name", "x"}, {"first", true}}, {{"name", "y"}}}},
                                     {"file", {{"path", "a/b.c"}}}};
    const TextTemplate made(std::string(bytes), "x", {{"twice", "{{name}}{{name}}"}});
    for (const Escaping as : {Escaping::None, Escaping::Json, Escaping::Xml, Escaping::Csv, Escaping::Toml})
        if (made.filled(TemplateData(data, as), nullptr, 1 << 20).size() > 1 << 20)
            complain("a text is larger than the limit");
}

/// Text as a sheet that is changed in places: TOML stays TOML.
void sheetText_(std::string_view bytes) {
    platform::SheetText text{std::string(bytes)};
    const auto check = [&] { platform::SheetText{text.text()}; };
    text.set("unit", "metres", "2"), check();
    text.set("rule", 0, "most", "7"), check();
    text.erase("rule", 0, "label"), check();
    text.add("answer", "[[answer]]\npiece = \"a\"\nwhen = \"b\"\n"), check();
    text.remove("rule", 0), check();
}

/// Text as a game's log: a pattern made of any of its lines matches that line.
void gameLog(std::string_view bytes) {
    platform::Sheet sheet;
    sheet.log = {{"mesh '(.+)' has ([0-9]+)", "{1} has {2}, {9}"}};
    for (const auto& line : platform::readLog(bytes.substr(0, 4000), sheet))
        if (!platform::NamePattern(platform::patternFor(line.text, platform::changingIn(line.text)))
                 .found(line.text))
            complain("a line is not like itself");
}

/// Text as a selection, made out on a small model.
void selection_(std::string_view bytes) {
    const auto json = parsedJson(bytes);
    if (json.is_discarded()) return;
    const auto read = selection::fromJson(json);
    const auto again = selection::toJson(read);
    if (selection::toJson(selection::fromJson(again)) != again)
        complain("a selection is read otherwise again");
    Model model;
    model.meshes.push_back(std::make_shared<const Mesh>(geometry::boxMesh({0, 0, 0}, {1, 1, 1})));
    model.nodes = {{"hull", -1, glm::dmat4(1.0), 0}, {"wheel", 0, glm::dmat4(1.0), 0}};
    selection::chosen(model, read);
}

/// A document of blocks, as a model and as text again.
void blocksDocument(std::string_view bytes) {
    const auto json = parsedJson(bytes);
    if (json.is_discarded()) return;
    const auto document = project::BlocksDocument::read(json);
    lookThrough(document->model({}, {}));
    if (project::BlocksDocument::read(parsedJson(jsonText(document->toJson())))->toJson() !=
        document->toJson())
        complain("a document does not come back");
}

/// A scene of solids in XML, as a scene and as text again.
void sceneXml(std::string_view bytes) {
    const formats::SceneFile file = formats::readScene(bytes, "fuzz");
    const formats::SceneFile again =
        formats::readScene(formats::writeScene({"fuzz", file.scene, file.lit}, Up::Y, "+Z"), "again");
    if (again.scene != file.scene) complain("a scene does not come back");
    if (file.scene.solids.empty() || file.scene.solids.size() > 50) return;
    lookThrough(solids::modelOf(file.scene, "fuzz"));
}

/// A document of solids in the same way.
void solidsDocument(std::string_view bytes) {
    const auto json = parsedJson(bytes);
    if (json.is_discarded()) return;
    const auto document = project::SolidsDocument::read(json);
    if (project::SolidsDocument::read(parsedJson(jsonText(document->toJson())))->toJson() !=
        document->toJson())
        complain("a document does not come back");
}

} // namespace

const std::vector<Target>& targets() {
    static const std::vector<Target> all{{"selection", selection_}, {"project", project_},
                                         {"recipe", recipe_},       {"sheet", sheet_},
                                         {"template", template_},   {"sheet-text", sheetText_},
                                         {"game-log", gameLog},     {"blocks-document", blocksDocument},
                                         {"scene-xml", sceneXml},   {"solids-document", solidsDocument}};
    return all;
}

} // namespace documents

} // namespace fuzz
