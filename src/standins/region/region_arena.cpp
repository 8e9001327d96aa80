// A scene in its region: it hovers above the one who brought it; one walks around it and looks at one group
// after another.
#include "standins/region/region_arena.h"

#include "standins/region/scene_text.h"
#include "standins/region/solid_shape.h"
#include "standins/world/arena.h"
#include "standins/world/files.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::region {

namespace {

constexpr double figureMetres = 1.85;
constexpr float hover = 3, landed = 0; ///< metres

/// From the region's axes (Z up, +X ahead) to the shown world's.
glm::dmat4 shown() {
    return glm::dmat4(glm::dvec4(0, 0, 1, 0), glm::dvec4(1, 0, 0, 0), glm::dvec4(0, 1, 0, 0),
                      glm::dvec4(0, 0, 0, 1));
}

/// About X, then Y, then Z of the region, of a body whose own Y is up and Z ahead.
glm::mat4 poseOf(const BuiltSolid& solid) {
    glm::dmat4 out = glm::translate(glm::dmat4(1), solid.at);
    out = glm::rotate(out, glm::radians(solid.turn.z), glm::dvec3(0, 0, 1));
    out = glm::rotate(out, glm::radians(solid.turn.y), glm::dvec3(0, 1, 0));
    out = glm::rotate(out, glm::radians(solid.turn.x), glm::dvec3(1, 0, 0));
    return glm::mat4(shown() * out * glm::inverse(shown()));
}

struct Bounds {
    glm::vec3 low{1e30f}, high{-1e30f};
    void add(const glm::vec3& at) { low = glm::min(low, at), high = glm::max(high, at); }
    bool empty() const { return low.x > high.x; }
};

class RegionArena : public world::Arena {
public:
    explicit RegionArena(DeliveredScene scene) : Arena("m", figureMetres), scene_(std::move(scene)) {
        for (const BuiltSolid& solid : scene_.solids) {
            const glm::mat4 pose = poseOf(solid);
            for (auto& [face, shape] : shapesOf(solid)) {
                for (const glm::vec3& at : shape.positions) bounds_.add(glm::vec3(pose * glm::vec4(at, 1)));
                const auto own = [&](const auto& map) {
                    const auto found = map.find(face);
                    return found == map.end() ? map.find(-1) : found;
                };
                world::Item item{solid.name, std::move(shape), {}, glm::vec3(0.8f), 0.02f};
                if (const auto colour = own(solid.colours); colour != solid.colours.end())
                    item.colour = colour->second;
                if (const auto picture = own(solid.pictures); picture != solid.pictures.end()) {
                    if (const auto found = scene_.pictures.find(picture->second);
                        found != scene_.pictures.end())
                        item.picture = found->second;
                    item.glow = item.picture ? 1.0f : 0.0f; // all light that there is is in it
                }
                things_.push_back({pose, solid.group, int(items_.size())});
                items_.push_back(std::move(item));
            }
        }
        for (const auto& [number, group] : scene_.groups) groups_.push_back(number);
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        const glm::mat4 up = glm::translate(glm::mat4(1), {0, height_ - bounds_.low.y, 0});
        for (const Thing& thing : things_)
            if (chosen_ == 0 || isIn(thing.group, groups_[std::size_t(chosen_ - 1)]))
                out.push_back({thing.item, up * thing.pose});
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        std::vector<world::Drawn> out;
        for (const float height : {landed, hover})
            for (const Thing& thing : things_)
                out.push_back(
                    {thing.item, glm::translate(glm::mat4(1), {0, height - bounds_.low.y, 0}) * thing.pose});
        return out;
    }
    std::vector<world::Action> actions() const override {
        return {{"down", "Set it down", "On the ground, to walk around in it"},
                {"up", "As it arrives", "Hovering above the one who brought it"}};
    }
    void act(const std::string& id) override { height_ = id == "down" ? landed : hover; }
    std::vector<world::Choice> choices() const override {
        std::vector<std::string> names{"everything"};
        for (const int number : groups_) names.push_back(scene_.groups.at(number).name);
        return {{"group", "Group", names, chosen_}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "group") chosen_ = std::clamp(option, 0, int(groups_.size()));
    }
    std::vector<world::Mark> marks() const override {
        if (height_ <= landed) return {};
        const glm::vec3 foot = figureFoot(), under(foot.x, hover, foot.z);
        return {{foot + glm::vec3(0, float(figureMetres), 0), under, fmt::format("{} m above", hover), true}};
    }
    glm::vec3 figureFoot() const override {
        return height_ <= landed ? glm::vec3(bounds_.high.x + 0.7f, 0, bounds_.high.z + 0.5f) : glm::vec3(0);
    }
    std::vector<world::Table> tables() const override {
        world::Table groups{"Groups", {"solids", "goes by"}, {}};
        for (const int number : groups_) {
            const BuiltGroup& group = scene_.groups.at(number);
            std::size_t count = 0;
            std::string lead;
            for (const BuiltSolid& solid : scene_.solids) {
                if (!isIn(solid.group, number)) continue;
                ++count;
                if (solid.number == group.lead || lead.empty()) lead = solid.name;
            }
            groups.rows.push_back({group.name, {showNumber(double(count), 0), lead}});
        }
        world::Table room{"In the region", {}, {}};
        room.rows.push_back({"solids", {showNumber(double(scene_.solids.size()), 0)}});
        room.rows.push_back({"places", {fmt::format("{} of {}", scene_.places, mostPlaces)}});
        return {groups, room};
    }
    std::vector<std::string> notes() const override {
        return {"It stands here as a region's own program reads it."};
    }

private:
    struct Thing {
        glm::mat4 pose;
        int group, item;
    };
    bool isIn(int group, int wanted) const {
        for (std::size_t steps = 0; group != 0 && steps <= scene_.groups.size(); ++steps) {
            if (group == wanted) return true;
            const auto found = scene_.groups.find(group);
            group = found == scene_.groups.end() ? 0 : found->second.within;
        }
        return false;
    }

    DeliveredScene scene_;
    std::vector<Thing> things_;
    std::vector<int> groups_;
    Bounds bounds_;
    int chosen_ = 0; ///< 0 for all, else a place in groups_ and one
    float height_ = hover;
};

} // namespace

bool holdsScene(const std::filesystem::path& folder) {
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none))
        if (entry.path().filename().string().ends_with(".scene.xml")) return true;
    return false;
}

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    world::Files files(folder, report);
    auto scene = loadScene(files, report);
    return scene ? std::make_unique<RegionArena>(std::move(*scene)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    world::Files files(folder, report);
    const auto scene = loadScene(files, report);
    if (!scene) return report;
    Bounds bounds;
    std::size_t pictures = 0;
    for (const BuiltSolid& solid : scene->solids) {
        const glm::mat4 pose = poseOf(solid);
        for (const auto& [face, shape] : shapesOf(solid))
            for (const glm::vec3& at : shape.positions) bounds.add(glm::vec3(pose * glm::vec4(at, 1)));
        pictures += solid.pictures.size();
    }
    report.tests = world::sizesOf(bounds.low, bounds.high, figureMetres);
    report.lengths = {"width", "height", "length", "gapToFloor"};
    report.tests["solids"] = scene->solids.size();
    report.tests["groups"] = scene->groups.size();
    report.tests["picturesWorn"] = pictures;
    report.tests["places"] = scene->places;
    return report;
}

} // namespace zl::standins::region
