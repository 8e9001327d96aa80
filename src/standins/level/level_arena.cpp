#include "standins/level/level_arena.h"

#include "standins/level/level_file.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

namespace zl::standins::level {

namespace {

using Kind = Message::Kind;
using world::Files, world::Item, world::Mark, world::over, world::Table;

// The engine's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostTriangles = 12000, mostCorners = 21845, mostMaterials = 4, longestName = 31;
constexpr int mostEdge = 512;
constexpr double figureUnits = 72, leastSize = 1.44, mostSize = 2880, floorGap = 0.4;

bool isName(const std::string& name) {
    return !name.empty() && name.size() <= longestName && std::ranges::all_of(name, [](char c) {
        return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '_';
    });
}

/// From the engine's axes (Z up, front +X) to the shown world (Y up, front +Z): x = y', y = z', z = x'.
glm::vec3 shown(const glm::vec3& v) {
    return {v.y, v.z, v.x};
}

struct Loaded {
    std::vector<Item> items;
    glm::vec3 low{1e30f}, high{-1e30f};
    std::string credit;
};

std::optional<Loaded> load(const std::filesystem::path& folder, TryReport& report) {
    Files files(folder, report);
    if (files.refused()) return std::nullopt;
    const auto about = files.description(".scene.json", "level-scene", {"name", "level", "credit"});
    if (about.is_null()) return std::nullopt;
    const std::string name = about["level"];
    const auto text = files.bytes(name);
    if (!text) return std::nullopt;
    const LevelFile level = readLevelFile(*text);
    if (!level.problem.empty()) {
        files.say(Kind::Refused, name, "The compiler stops: " + level.problem, "Build the level again");
        return std::nullopt;
    }
    Loaded loaded;
    loaded.credit = about["credit"];
    std::size_t triangles = 0;
    std::set<std::string> names, used;
    for (const LevelObject& object : level.objects) {
        if (!isName(object.name))
            files.say(Kind::Refused, name, fmt::format("\"{}\" is no name", object.name),
                      "takes a–z, 0–9 and _, 31 at most");
        if (!names.insert(object.name).second)
            files.say(Kind::Refused, name, fmt::format("\"{}\" stands there twice", object.name),
                      "every name once");
        const auto corners = double(object.shape.positions.size());
        files.refuseOver(name, fmt::format("{} corners in \"{}\"", showNumber(corners, 0), object.name),
                         corners, mostCorners);
        triangles += object.triangles();
        used.insert(object.materials.begin(), object.materials.end());
        for (const glm::vec3& p : object.shape.positions) {
            loaded.low = glm::min(loaded.low, shown(p));
            loaded.high = glm::max(loaded.high, shown(p));
        }
    }
    files.sayLimit(name, showNumber(double(triangles), 0) + " triangles", double(triangles), mostTriangles);
    files.refuseOver(name, fmt::format("{} materials", used.size()), double(used.size()), mostMaterials);
    for (const LevelMaterial& material : level.materials)
        if (!isName(material.name))
            files.say(Kind::Refused, name, fmt::format("\"{}\" is no name for a material", material.name),
                      "takes a–z, 0–9 and _, 31 at most");
    const glm::vec3 size = loaded.high - loaded.low;
    const double longest = std::max({size.x, size.y, size.z});
    const bool likely = longest >= leastSize && longest <= mostSize;
    files.say(
        likely ? Kind::Fine : Kind::Refused, name,
        fmt::format("{}\u202fu tall, {} of a figure", showMeasure(size.y), showMeasure(size.y / figureUnits)),
        likely ? "the importer multiplied by 40"
               : "that is no size for a prop: was the scene written in metres?");
    if (std::abs(loaded.low.y) > floorGap * 1.01)
        files.say(Kind::Refused, name,
                  fmt::format("Its base is {}\u202fu {} the floor", showMeasure(std::abs(loaded.low.y)),
                              loaded.low.y > 0 ? "above" : "below"),
                  "takes at most 0.4 u; stand it on the floor");
    for (const LevelObject& object : level.objects) {
        Item item{object.name, object.shape, {}, glm::vec3(0.8f), 0.1f};
        world::turnAll(item.shape, shown);
        world::addMissingNormals(item.shape);
        if (item.shape.uvs.size() != item.shape.positions.size())
            item.shape.uvs.assign(item.shape.positions.size(), glm::vec2(0));
        if (!object.materials.empty()) {
            const auto material =
                std::ranges::find(level.materials, object.materials[0], &LevelMaterial::name);
            item.colour = material->colour;
            if (!material->picture.empty()) item.picture = files.picture(material->picture, mostEdge, true);
        }
        loaded.items.push_back(std::move(item));
    }
    if (files.refused()) return std::nullopt;
    files.say(Kind::Fine, "",
              fmt::format("{} in {} files", showBytes(double(files.totalBytes())), files.count()),
              "compiled");
    report.accepted = true;
    return loaded;
}

/// A prop in a room: it stands, and three of it can be stacked beside the figure as a measuring stick.
class LevelArena : public world::Arena {
public:
    explicit LevelArena(Loaded loaded) : Arena("u", figureUnits), loaded_(std::move(loaded)) {
        // Hulls are of the whole prop, so that its parts stay together.
        const glm::vec3 low = loaded_.low, high = loaded_.high;
        physics().addShape(world::boxShape(low, high),
                           {(low.x + high.x) / 2, low.y + (high.y - low.y) / 3, (low.z + high.z) / 2});
        items_ = loaded_.items;
        physics().add(0, {0, 0, 0});
    }
    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (std::size_t b = 0; b < physics().count(); ++b)
            for (std::size_t i = 0; i < items_.size(); ++i)
                out.push_back({int(i), physics().pose(int(b)).matrix});
        return out;
    }
    std::vector<world::Action> actions() const override {
        return {{"one", "One", "The prop alone"},
                {"stack", "Stack of three", "A measuring stick beside the figure"},
                {"drop", "Drop", "From half a figure's height"}};
    }
    void act(const std::string& id) override {
        physics().clear();
        const float tall = loaded_.high.y - loaded_.low.y;
        stacked_ = id == "stack";
        if (id == "drop")
            physics().add(0, {0, float(figureUnits) / 2 - loaded_.low.y, 0}, 0.05f, 1.1f);
        else
            for (int i = 0; i < (stacked_ ? 3 : 1); ++i) physics().add(0, {0, float(i) * tall * 1.002f, 0});
    }
    std::vector<Mark> marks() const override {
        const float front = loaded_.high.z, reach = 0.4f * float(figureUnits);
        std::vector<Mark> out{{{0, 0.5f, front}, {0, 0.5f, front + reach}, "front +X", true}};
        if (stacked_ && physics().count() == 3) {
            const float top = physics().pose(2).matrix[3].y + loaded_.high.y,
                        x = loaded_.low.x - 0.1f * float(figureUnits);
            out.push_back({{x, 0, 0},
                           {x, top, 0},
                           fmt::format("three are {}\u202fu, {} figures", showMeasure(top),
                                       showMeasure(top / figureUnits))});
        }
        return out;
    }
    std::vector<Table> tables() const override {
        const glm::vec3 size = loaded_.high - loaded_.low;
        const auto u = [](double v) { return showMeasure(v) + "\u202fu"; };
        const auto m = [](double v) { return showMeasure(v / 40) + "\u202fm"; };
        return {{"Size, after × 40",
                 {"units", "metres"},
                 {{"height", {u(size.y), m(size.y)}},
                  {"width", {u(size.x), m(size.x)}},
                  {"length, front to back", {u(size.z), m(size.z)}},
                  {"of a figure's height", {showMeasure(size.y / figureUnits), ""}}}}};
    }
    std::vector<std::string> notes() const override {
        return loaded_.credit.empty() ? std::vector<std::string>{}
                                      : std::vector<std::string>{"Credit: " + loaded_.credit};
    }

private:
    Loaded loaded_;
    bool stacked_ = false;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto loaded = load(folder, report);
    return loaded ? std::make_unique<LevelArena>(std::move(*loaded)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto loaded = load(folder, report);
    if (!loaded) return report;
    report.tests = world::sizesOf(loaded->low, loaded->high, figureUnits);
    report.tests["objects"] = loaded->items.size();
    report.tests["importerMultiplies"] = importerMultiplies;
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::level
