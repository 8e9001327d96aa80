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
#include <utility>

namespace zl::standins::region {

namespace {

constexpr double figureMetres = 1.85;
constexpr float hover = 3, landed = 0; ///< metres
constexpr double pace = 2.2;           ///< metres a second
constexpr float stepUp = 0.45;         ///< metres that one steps up without a stair
constexpr float girth = 0.25;          ///< metres from one's middle to what is in the way

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
    void add(const glm::mat4& placing, const Bounds& other) { // moved, not turned
        add(glm::vec3(placing * glm::vec4(other.low, 1))), add(glm::vec3(placing * glm::vec4(other.high, 1)));
    }
};

class RegionArena : public world::Arena {
public:
    RegionArena(std::vector<DeliveredScene> builds, std::string note)
        : Arena("m", figureMetres), note_(std::move(note)) {
        for (DeliveredScene& scene : builds) addBuild(std::move(scene));
        arrive();
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        const Build& now = build();
        const glm::mat4 up = raisedTo(height_);
        for (const Thing& thing : now.things)
            if (alone_ == 0 || isIn(thing.group, now.groups[std::size_t(alone_ - 1)]))
                out.push_back({thing.item, up * thing.pose});
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        std::vector<world::Drawn> out;
        for (const float height : {landed, hover})
            for (const Thing& thing : build().things)
                out.push_back({thing.item, raisedTo(height) * thing.pose});
        return out;
    }
    std::vector<world::Action> actions() const override {
        return {{"down", "Set it down", "On the ground, to walk around in it"},
                {"up", "As it arrives", "Hovering above the one who brought it"}};
    }
    void act(const std::string& id) override {
        height_ = id == "down" ? landed : hover;
        arrive();
    }
    std::vector<world::Choice> choices() const override {
        std::vector<world::Choice> out;
        if (builds_.size() > 1) {
            std::vector<std::string> names;
            for (const Build& one : builds_) names.push_back(one.scene.name);
            out.push_back({"build", "Build", names, build_});
        }
        std::vector<std::string> names{"everything"};
        for (const int number : build().groups) names.push_back(build().scene.groups.at(number).name);
        out.push_back({"group", "Group", names, alone_});
        return out;
    }
    void choose(const std::string& id, int option) override {
        if (id == "build")
            build_ = std::clamp(option, 0, int(builds_.size()) - 1), alone_ = 0, clicked_ = -1, arrive();
        if (id == "group") alone_ = std::clamp(option, 0, int(build().groups.size()));
    }

    bool click(int item) override {
        const int before = std::exchange(clicked_, -1);
        for (const Thing& thing : build().things)
            if (thing.item == item && thing.solid != before) clicked_ = thing.solid;
        return false;
    }
    bool isWalked() const override { return true; }
    void walk(const glm::vec2& way) override { way_ = way; }
    bool advance(double seconds) override {
        Arena::advance(seconds);
        if (way_ == glm::vec2(0)) return false;
        const glm::vec2 step = way_ * float(pace * seconds);
        for (const glm::vec2& tried : {step, glm::vec2(step.x, 0), glm::vec2(0, step.y)})
            if (tried != glm::vec2(0) && isFree(tried)) { // along what is in the way, where it is slanted to
                foot_.x += tried.x, foot_.z += tried.y;
                break;
            }
        foot_.y = groundBelow();
        return true;
    }

    std::vector<world::Mark> marks() const override {
        std::vector<world::Mark> out;
        if (height_ > landed) {
            const glm::vec3 head = foot_ + glm::vec3(0, float(figureMetres), 0);
            out.push_back({head, {foot_.x, hover, foot_.z}, fmt::format("{} m above", hover), true});
        }
        if (clicked_ >= 0) {
            Bounds around;
            for (const Thing& thing : build().things)
                if (thing.group == clickedGroup() && (thing.group != 0 || thing.solid == clicked_))
                    around.add(raisedTo(height_), thing.bounds);
            const glm::vec3 middle = (around.low + around.high) * 0.5f,
                            top(middle.x, around.high.y, middle.z);
            out.push_back({top + glm::vec3(0, 0.6f, 0), top, nameOf(clickedGroup()), true});
        }
        return out;
    }
    glm::vec3 figureFoot() const override { return foot_; }
    std::vector<world::Table> tables() const override {
        const DeliveredScene& scene = build().scene;
        std::vector<world::Table> out;
        if (clicked_ >= 0) {
            const BuiltSolid& solid = scene.solids[std::size_t(clicked_)];
            world::Table clicked{"Clicked", {}, {}};
            clicked.rows.push_back({"solid", {solid.name}});
            clicked.rows.push_back({"group", {nameOf(solid.group)}});
            clicked.rows.push_back({"in the world", {solid.physics}});
            out.push_back(std::move(clicked));
        }
        world::Table groups{"Groups", {"solids", "goes by"}, {}};
        for (const int number : build().groups) {
            const BuiltGroup& group = scene.groups.at(number);
            std::size_t count = 0;
            // The one it names, else its own first, else the first of those within.
            const BuiltSolid* lead = nullptr;
            const auto rank = [&](const BuiltSolid* solid) {
                if (!solid) return 3;
                return solid->number == group.lead ? 0 : solid->group == number ? 1 : 2;
            };
            for (const BuiltSolid& solid : scene.solids) {
                if (!isIn(solid.group, number)) continue;
                ++count;
                if (rank(&solid) < rank(lead)) lead = &solid;
            }
            groups.rows.push_back({group.name, {showNumber(double(count), 0), lead ? lead->name : ""}});
        }
        world::Table room{"In the region", {}, {}};
        room.rows.push_back({"solids", {showNumber(double(scene.solids.size()), 0)}});
        room.rows.push_back({"places", {fmt::format("{} of {}", scene.places, mostPlaces)}});
        out.insert(out.end(), {std::move(groups), std::move(room)});
        return out;
    }
    std::vector<std::string> notes() const override {
        return {note_, "The arrow keys walk, a click tells a solid and its group."};
    }

private:
    struct Thing {
        glm::mat4 pose;
        int group, item, solid;
        Bounds bounds; ///< posed
    };
    struct Build {
        DeliveredScene scene;
        std::vector<Thing> things;
        std::vector<int> groups;
        Bounds bounds;
    };

    const Build& build() const { return builds_[std::size_t(build_)]; }
    glm::mat4 raisedTo(float height) const {
        return glm::translate(glm::mat4(1), {0, height - build().bounds.low.y, 0});
    }
    std::string nameOf(int group) const {
        const auto found = build().scene.groups.find(group);
        return found == build().scene.groups.end() ? "in no group" : found->second.name;
    }
    int clickedGroup() const { return build().scene.solids[std::size_t(clicked_)].group; }

    void addBuild(DeliveredScene scene) {
        Build made;
        for (std::size_t s = 0; s < scene.solids.size(); ++s) {
            const BuiltSolid& solid = scene.solids[s];
            const glm::mat4 pose = poseOf(solid);
            for (auto& [face, shape] : shapesOf(solid)) {
                Bounds bounds;
                for (const glm::vec3& at : shape.positions) bounds.add(glm::vec3(pose * glm::vec4(at, 1)));
                made.bounds.add(glm::mat4(1), bounds);
                const auto own = [face = face](const auto& map) {
                    const auto found = map.find(face);
                    return found == map.end() ? map.find(-1) : found;
                };
                world::Item item{solid.name, std::move(shape), {}, glm::vec3(0.8f), 0.02f};
                if (const auto colour = own(solid.colours); colour != solid.colours.end())
                    item.colour = colour->second;
                if (const auto picture = own(solid.pictures); picture != solid.pictures.end()) {
                    if (const auto found = scene.pictures.find(picture->second);
                        found != scene.pictures.end())
                        item.picture = found->second;
                    item.glow = item.picture ? 1.0f : 0.0f; // all light that there is is in it
                }
                made.things.push_back({pose, solid.group, int(items_.size()), int(s), bounds});
                stops_.push_back(solid.physics != "lets-through");
                items_.push_back(std::move(item));
            }
        }
        for (const auto& [number, group] : scene.groups) made.groups.push_back(number);
        made.scene = std::move(scene);
        builds_.push_back(std::move(made));
    }

    /// Where one stands at first: below what hovers, beside what is set down.
    void arrive() {
        const Bounds& bounds = build().bounds;
        foot_ = height_ <= landed ? glm::vec3(bounds.high.x + 0.7f, 0, bounds.high.z + 0.5f) : glm::vec3(0);
    }
    bool isFree(const glm::vec2& step) const {
        const glm::vec3 way(step.x / glm::length(step), 0, step.y / glm::length(step));
        for (const float height : {stepUp, 1.0f, 1.6f})
            if (wayTo(foot_ + glm::vec3(0, height, 0), way, girth + glm::length(step), stops())) return false;
        return true;
    }
    float groundBelow() const {
        const auto down = wayTo(foot_ + glm::vec3(0, stepUp, 0), {0, -1, 0}, foot_.y + stepUp, stops());
        return down ? std::max(0.0f, foot_.y + stepUp - *down) : 0.0f;
    }
    std::function<bool(int)> stops() const {
        return [this](int item) { return stops_[std::size_t(item)] != 0; };
    }
    bool isIn(int group, int wanted) const {
        const auto& groups = build().scene.groups;
        for (std::size_t steps = 0; group != 0 && steps <= groups.size(); ++steps) {
            if (group == wanted) return true;
            const auto found = groups.find(group);
            group = found == groups.end() ? 0 : found->second.within;
        }
        return false;
    }

    std::vector<Build> builds_;
    std::vector<char> stops_; ///< of each item, whether one walks against it
    std::string note_;
    int build_ = 0;
    int alone_ = 0;    ///< 0 for all, else a place in the build's groups and one
    int clicked_ = -1; ///< the solid, by its place
    glm::vec3 foot_{0};
    glm::vec2 way_{0};
    float height_ = hover;
};

} // namespace

bool holdsScene(const std::filesystem::path& folder) {
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none))
        if (entry.path().filename().string().ends_with(".scene.xml")) return true;
    return false;
}

std::unique_ptr<world::Arena> arenaOf(std::vector<DeliveredScene> builds, std::string note) {
    return std::make_unique<RegionArena>(std::move(builds), std::move(note));
}

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    world::Files files(folder, report);
    auto scene = loadScene(files, report);
    if (!scene) return nullptr;
    std::vector<DeliveredScene> builds;
    builds.push_back(std::move(*scene));
    return arenaOf(std::move(builds), "It stands here as a region's own program reads it.");
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
