// The wardrobe: an outfit on the stand, blended from slim to broad, at rest or walking.
#include "standins/wardrobe/wardrobe.h"

#include "standins/world/arena.h"
#include "standins/world/doll.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <array>
#include <numbers>

namespace zl::standins::wardrobe {

namespace {

constexpr double figureUnits = 126, secondsToBlend = 1.2, secondsAStep = 1.1;

std::string shown(float setting) {
    return showNumber(double(setting));
}

/// How far each bone is turned about the axis through both hips, at a moment of a walk in steps.
std::vector<float> walking(const std::vector<Bone>& bones, double steps) {
    std::vector<float> out(bones.size(), 0);
    const float swing = 0.42f * float(std::sin(2 * std::numbers::pi * steps));
    for (std::size_t i = 0; i < bones.size(); ++i) {
        const std::string& name = bones[i].name;
        const bool leg = name.starts_with("thigh") || name.find("leg") != std::string::npos;
        const float side = name.find("right") != std::string::npos ? -1.0f : 1.0f;
        if (leg) out[i] = side * swing;
        if (name.starts_with("chest")) out[i] = 0.04f * std::abs(swing);
    }
    return out;
}

class WardrobeArena : public world::Arena {
public:
    explicit WardrobeArena(Outfit outfit) : Arena("u", figureUnits), outfit_(std::move(outfit)) {
        for (std::size_t i = 0; i < outfit_.slim.objects.size(); ++i) {
            const OutfitObject& object = outfit_.slim.objects[i];
            const auto setting = [&](const char* name, float usual) {
                const auto found = object.settings.find(name);
                return found == object.settings.end() ? usual : found->second;
            };
            world::Item item{object.name, object.shape, outfit_.pictures[i], object.colour,
                             setting("shine", 0.12f)};
            item.glow = setting("glow", 0);
            items_.push_back(std::move(item));
        }
        for (world::Shape& limb : world::doll::limbs()) {
            limbs_.push_back(limb.indices.empty() ? -1 : int(items_.size()));
            if (limbs_.back() >= 0)
                items_.push_back({"the stand", std::move(limb), {}, glm::vec3(0.66f, 0.60f, 0.54f), 0.06f});
        }
        bend();
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < bent_.size(); ++i) out.push_back({int(i), glm::mat4(1.0f)});
        // What it hangs on is a doll, broader as the outfit is.
        const auto broader = float(1 + 0.24 * blend_);
        const glm::mat4 inUnits = glm::scale(glm::mat4(1.0f), glm::vec3(broader, 1, broader) / unitMetres);
        world::doll::Turns turns;
        for (std::size_t i = 0; i < turns_.size(); ++i)
            turns[outfit_.slim.bones[i].name] = glm::angleAxis(turns_[i], glm::vec3(1, 0, 0));
        const auto bones = world::doll::posed(turns);
        for (std::size_t b = 0; b < limbs_.size(); ++b)
            if (limbs_[b] >= 0) out.push_back({limbs_[b], inUnits * bones[b]});
        return out;
    }
    const world::Shape* bent(int item) const override {
        return std::size_t(item) < bent_.size() ? &bent_[std::size_t(item)] : nullptr;
    }
    glm::vec3 figureFoot() const override { return {-85, 0, 0}; }

    std::vector<world::Choice> choices() const override {
        return {{"size", "Size", {"slim", "a quarter", "half-way", "three quarters", "broad"}, chosen_}};
    }
    void choose(const std::string& id, int option) override {
        if (id != "size" || option < 0 || option > 4) return;
        chosen_ = option;
        swaying_ = false;
    }
    std::vector<world::Action> actions() const override {
        return {{"sway", swaying_ ? "Stop blending" : "Blend to and fro",
                 "From slim to broad and back, as the game does for everybody in between"},
                {"walk", walks_ ? "Stand still" : "Walk", "How it moves with the legs"}};
    }
    void act(const std::string& id) override {
        if (id == "sway") swaying_ = !swaying_;
        if (id == "walk") walks_ = !walks_, steps_ = 0;
    }
    bool advance(double seconds) override {
        const double wanted = swaying_ ? (toBroad_ ? 1.0 : 0.0) : double(chosen_) / 4;
        const double most = seconds / secondsToBlend;
        const double was = blend_;
        blend_ += std::clamp(wanted - blend_, -most, most);
        if (swaying_ && std::abs(blend_ - wanted) < 1e-9) toBroad_ = !toBroad_;
        if (walks_) steps_ += seconds / secondsAStep;
        const bool moves = walks_ || swaying_ || was != blend_;
        if (moves || !still_) bend();
        still_ = !moves;
        Arena::advance(seconds);
        return moves;
    }
    std::vector<world::Table> tables() const override {
        world::Table table{"Objects", {"corners", "triangles", "shine", "glow"}, {}};
        for (const OutfitObject& object : outfit_.slim.objects) {
            const auto setting = [&](const char* name) {
                const auto found = object.settings.find(name);
                return found == object.settings.end() ? std::string("–") : shown(found->second);
            };
            table.rows.push_back({object.name,
                                  {showNumber(double(object.shape.positions.size()), 0),
                                   showNumber(double(object.shape.indices.size() / 3), 0), setting("shine"),
                                   setting("glow")}});
        }
        world::Table size{"Size", {}, {}};
        size.rows.push_back({"blend", {fmt::format("{} %", int(std::lround(100 * blend_)))}});
        const auto [low, high] = bounds();
        size.rows.push_back({"wide", {showMeasure(high.x - low.x) + "\u202fu"}});
        size.rows.push_back({"tall", {showMeasure(high.y - low.y) + "\u202fu"}});
        return {table, size};
    }
    std::vector<std::string> notes() const override {
        return outfit_.credit.empty() ? std::vector<std::string>{} : std::vector{"Credit: " + outfit_.credit};
    }

private:
    void bend() {
        turns_ = walks_ ? walking(outfit_.slim.bones, steps_) : std::vector<float>();
        bent_.resize(outfit_.slim.objects.size());
        for (std::size_t i = 0; i < bent_.size(); ++i) bent_[i] = outfit_.object(i, float(blend_), turns_);
    }
    std::pair<glm::vec3, glm::vec3> bounds() const {
        glm::vec3 low(1e30f), high(-1e30f);
        for (const world::Shape& shape : bent_)
            if (!shape.positions.empty())
                low = glm::min(low, shape.low()), high = glm::max(high, shape.high());
        return {low, high};
    }

    Outfit outfit_;
    std::vector<world::Shape> bent_; ///< by object, which come first among the items
    std::vector<int> limbs_;         ///< of the doll, by bone; -1 for none
    std::vector<float> turns_;       ///< of the outfit's bones, now
    int chosen_ = 0;                 ///< quarters of the way to broad
    double blend_ = 0, steps_ = 0;
    bool swaying_ = false, toBroad_ = true, walks_ = false, still_ = true;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto outfit = loadOutfit(folder, report);
    return outfit ? std::make_unique<WardrobeArena>(std::move(*outfit)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto outfit = loadOutfit(folder, report);
    if (!outfit) return report;
    auto objects = nlohmann::ordered_json::array();
    for (std::size_t i = 0; i < outfit->slim.objects.size(); ++i) {
        const OutfitObject& object = outfit->slim.objects[i];
        nlohmann::ordered_json told{{"name", object.name},
                                    {"corners", object.shape.positions.size()},
                                    {"triangles", object.shape.indices.size() / 3},
                                    {"material", object.material},
                                    {"settings", object.settings}};
        auto widths = nlohmann::ordered_json::array(); // slim, half-way, broad
        for (const float blend : {0.0f, 0.5f, 1.0f})
            widths.push_back(world::round4(outfit->object(i, blend, {}).size().x));
        told["widths"] = std::move(widths);
        objects.push_back(std::move(told));
    }
    report.tests = {{"objects", objects}, {"bones", outfit->slim.bones.size()}};
    report.lengths = {"widths"};
    return report;
}

} // namespace zl::standins::wardrobe
