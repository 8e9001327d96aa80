#include "standins/yard/yard_arena.h"

#include "standins/world/files.h"
#include "standins/world/measures.h"
#include "standins/world/collada_file.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <map>

namespace zl::standins::yard {

namespace {

using Kind = Message::Kind;
using world::Item, world::Mark, world::over;

// The game's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostTriangles = 90000;
constexpr double figureUnits = 17.8, leastWidth = 19, gateWidth = 25, floorGap = 0.1, unitMetres = 0.1;
constexpr int mostEdge = 8192;

/// From the game's axes (Y up, front +X) to the shown world (front +Z).
glm::vec3 shown(const glm::vec3& v) {
    return {-v.z, v.y, v.x};
}

struct Truck {
    std::vector<Item> items;
    glm::vec3 low{1e30f}, high{-1e30f};
    std::size_t triangles = 0;
    std::string credit;
};

std::optional<Truck> load(const std::filesystem::path& folder, TryReport& report) {
    world::Files files(folder, report);
    if (files.refused()) return std::nullopt;
    const auto about = files.description(".truck.json", "truck-scene", {"name", "model", "credit"});
    if (about.is_null()) return std::nullopt;
    const std::string name = about["model"];
    const auto text = files.bytes(name);
    if (!text) return std::nullopt;
    world::ColladaFile file = world::readColladaFile(*text);
    if (!file.problem.empty()) {
        files.say(Kind::Refused, name, "The file cannot be read: " + file.problem, "Build it again");
        return std::nullopt;
    }
    const bool unitFine = std::abs(file.unitMetres - unitMetres) < 1e-9;
    files.say(unitFine ? Kind::Fine : Kind::Refused, name,
              fmt::format("declares a unit of {} m", showMeasure(file.unitMetres)),
              unitFine ? "decimetres, as it should" : "takes 0.1 only");
    if (file.upAxis != "Y_UP")
        files.say(Kind::Refused, name, fmt::format("declares {}", file.upAxis), "takes Y_UP only");
    files.say(file.transformed.empty() ? Kind::Fine : Kind::Refused, name,
              file.transformed.empty()
                  ? "Nothing carries a transform"
                  : fmt::format("{} a transform, \"{}\" first",
                                showCount(long(file.transformed.size()), "node carries", "nodes carry"),
                                file.transformed[0]),
              file.transformed.empty() ? "everything is baked in"
                                       : "bake it in: the suspension would apply it twice");
    if (!file.empty.empty())
        files.say(Kind::Odd, name, fmt::format("\"{}\" has no shape", file.empty[0]),
                  "it becomes a part that shows nothing");
    Truck truck;
    truck.credit = about["credit"];
    for (world::ColladaPart& part : file.parts) {
        Item item{part.name, std::move(part.shape), {}, part.colour, 0.25f};
        truck.triangles += item.shape.indices.size() / 3;
        world::turnAll(item.shape, shown);
        for (const glm::vec3& p : item.shape.positions)
            truck.low = glm::min(truck.low, p), truck.high = glm::max(truck.high, p);
        world::addMissingNormals(item.shape);
        if (!part.picture.empty()) item.picture = files.picture(part.picture, mostEdge, false);
        truck.items.push_back(std::move(item));
    }
    if (truck.triangles == 0) {
        files.say(Kind::Refused, name, "There is nothing to drive", "It holds no triangles");
        return std::nullopt;
    }
    files.sayLimit(name, showNumber(double(truck.triangles), 0) + " triangles", double(truck.triangles),
                   mostTriangles);
    const double width = truck.high.x - truck.low.x;
    const bool passes = width >= leastWidth * 0.9999 && width <= gateWidth * 1.0001;
    files.say(passes ? Kind::Fine : Kind::Refused, name, fmt::format("{}\u202fdm wide", showMeasure(width)),
              passes              ? "it passes the gate of 25 dm"
              : width > gateWidth ? fmt::format("the gate is 25 dm wide, this is {} dm too much",
                                                showMeasure(width - gateWidth))
                                  : "a full-size truck is at least 19 dm wide");
    if (std::abs(truck.low.y) > floorGap * 1.01)
        files.say(Kind::Refused, name,
                  fmt::format("Its wheels are {}\u202fdm {} the ground", showMeasure(std::abs(truck.low.y)),
                              truck.low.y > 0 ? "above" : "below"),
                  "takes at most 0.1 dm; stand it on the floor");
    if (files.refused()) return std::nullopt;
    report.accepted = true;
    return truck;
}

class YardArena : public world::Arena {
public:
    explicit YardArena(Truck truck) : Arena("dm", figureUnits), truck_(std::move(truck)) {
        const glm::vec3 low = truck_.low, high = truck_.high;
        physics().addShape(world::boxShape(low, high),
                           {(low.x + high.x) / 2, low.y + (high.y - low.y) / 4, (low.z + high.z) / 2});
        items_ = truck_.items;
        // Two posts of the gate stand in front of the truck.
        const float z = high.z + 12, half = float(gateWidth) / 2;
        for (const float side : {-1.0f, 1.0f}) {
            const float inner = side * half, outer = side * (half + 2);
            Item post{"post",
                      world::boxShape({std::min(inner, outer), 0, z}, {std::max(inner, outer), 26, z + 2}),
                      {},
                      {0.55f, 0.42f, 0.28f},
                      0.05f};
            world::makeFlat(post.shape);
            items_.push_back(std::move(post));
        }
        physics().add(0, {0, 0, 0});
    }
    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        const std::size_t parts = truck_.items.size();
        for (std::size_t b = 0; b < physics().count(); ++b)
            for (std::size_t i = 0; i < parts; ++i) out.push_back({int(i), at(int(b))});
        for (std::size_t i = parts; i < items_.size(); ++i) out.push_back({int(i)});
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        std::vector<world::Drawn> out = drawn();
        if (driving_) // the whole way, so that the end of it is in sight
            for (std::size_t i = 0; i < truck_.items.size(); ++i)
                out.push_back({int(i), glm::translate(glm::mat4(1.0f), {0, 0, wayThrough()})});
        return out;
    }
    bool advance(double seconds) override {
        Arena::advance(seconds);
        if (driving_) driven_ = std::min(driven_ + float(seconds) * 18, wayThrough());
        return driving_ && driven_ < wayThrough();
    }
    std::vector<world::Action> actions() const override {
        return {{"drive", "Drive through the gate", "Forward, where the arrow points"},
                {"back", "Back to the start", "Before the gate"},
                {"drop", "Drop", "From half a figure's height"}};
    }
    void act(const std::string& id) override {
        driving_ = id == "drive";
        driven_ = 0;
        physics().clear();
        physics().add(0, {0, id == "drop" ? float(figureUnits) / 2 : 0, 0}, id == "drop" ? 0.05f : 0, 0.6f);
    }
    std::vector<Mark> marks() const override {
        const float z = truck_.high.z + 13, half = float(gateWidth) / 2, width = truck_.high.x - truck_.low.x;
        return {{{0, 0.2f, truck_.high.z + driven_}, {0, 0.2f, truck_.high.z + driven_ + 11}, "front", true},
                {{-half, 23, z}, {half, 23, z}, "gate 25\u202fdm"},
                {{truck_.low.x, truck_.high.y + 1, truck_.low.z + driven_},
                 {truck_.high.x, truck_.high.y + 1, truck_.low.z + driven_},
                 showMeasure(width) + "\u202fdm wide"}};
    }
    std::vector<world::Table> tables() const override {
        const glm::vec3 size = truck_.high - truck_.low;
        const auto dm = [](double v) { return showMeasure(v) + "\u202fdm"; };
        const auto m = [](double v) { return showMeasure(v / 10) + "\u202fm"; };
        return {{"Size",
                 {"decimetres", "metres"},
                 {{"width", {dm(size.x), m(size.x)}},
                  {"height", {dm(size.y), m(size.y)}},
                  {"length, front to back", {dm(size.z), m(size.z)}},
                  {"left at the gate", {dm(gateWidth - size.x), m(gateWidth - size.x)}}}}};
    }
    std::vector<std::string> notes() const override {
        return truck_.credit.empty() ? std::vector<std::string>{}
                                     : std::vector<std::string>{"Credit: " + truck_.credit};
    }
    glm::vec3 figureFoot() const override {
        return {truck_.high.x + 0.7f * float(figureUnits), 0, (truck_.low.z + truck_.high.z) / 2};
    }

private:
    /// From where the truck stands to behind the gate.
    float wayThrough() const { return truck_.high.z - truck_.low.z + 22; }
    glm::mat4 at(int body) const {
        glm::mat4 pose = physics().pose(body).matrix;
        pose[3].z += driven_;
        return pose;
    }
    Truck truck_;
    bool driving_ = false;
    float driven_ = 0;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto truck = load(folder, report);
    return truck ? std::make_unique<YardArena>(std::move(*truck)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto truck = load(folder, report);
    if (!truck) return report;
    report.tests = world::sizesOf(truck->low, truck->high, figureUnits);
    report.tests["leftAtTheGate"] = world::round4(gateWidth - (truck->high.x - truck->low.x));
    report.tests["parts"] = truck->items.size();
    report.lengths = {"width", "height", "length", "gapToFloor", "leftAtTheGate"};
    return report;
}

} // namespace zl::standins::yard
