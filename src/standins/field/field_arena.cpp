#include "standins/field/field_arena.h"

#include "standins/field/bundle.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::field {

namespace {

constexpr double figureBlocks = 1.75;

/// An arrow on its way: where it starts, where to, and how far it flies.
struct Arrow {
    glm::vec3 from{0}, way{0}; ///< `way` has length 1
    float flies = 0;
    bool hit = false;
};

/// A line of sight that meets what is seen, and whether the body stops an arrow along it.
struct Volley {
    std::vector<Arrow> arrows; ///< those that were aimed at what is seen
    std::size_t hits() const { return std::size_t(std::ranges::count_if(arrows, &Arrow::hit)); }
};

/// Arrows from all four sides, aimed at a raster over the thing; those that meet nothing seen are no aim.
Volley shoot(const Thing& thing, int across) {
    Volley out;
    const glm::vec3 middle = (thing.low + thing.high) / 2.0f, half = (thing.high - thing.low) / 2.0f;
    for (int side = 0; side < 4; ++side) {
        const float angle = float(side) * 1.5707963f;
        const glm::vec3 way(std::sin(angle), 0, std::cos(angle)), right(way.z, 0, -way.x);
        const float wide = std::abs(right.x) * half.x + std::abs(right.z) * half.z, far = half.x + half.z + 6;
        for (int i = 0; i < across; ++i)
            for (int j = 0; j < across; ++j) {
                const float u = (2 * (float(i) + 0.5f) / float(across) - 1) * wide,
                            v = (2 * (float(j) + 0.5f) / float(across) - 1) * half.y;
                const glm::vec3 from = middle + u * right + glm::vec3(0, v, 0) - far * way;
                bool seen = false;
                for (const world::Item& part : thing.parts)
                    seen = seen || world::firstMet(part.shape, from, way);
                if (!seen) continue;
                Arrow arrow{from, way, 2 * far, false};
                for (const world::Shape& body : thing.bodies)
                    if (const auto met = world::firstMet(body, from, way); met && met->distance < arrow.flies)
                        arrow.flies = met->distance, arrow.hit = true;
                out.arrows.push_back(arrow);
            }
    }
    return out;
}

/// One slender shape along +Z with its tip at the origin.
world::Item arrowItem() {
    world::Item out{
        "arrow", world::boxShape({-0.015f, -0.015f, -0.7f}, {0.015f, 0.015f, 0}), {}, {0.35f, 0.24f, 0.12f}};
    world::makeFlat(out.shape);
    return out;
}

class FieldArena : public world::Arena {
public:
    explicit FieldArena(Thing thing)
        : Arena("blocks", figureBlocks), thing_(std::move(thing)), volley_(shoot(thing_, 7)) {
        for (const world::Item& part : thing_.parts) items_.push_back(part);
        parts_ = items_.size();
        addGround();
        arrow_ = int(items_.size());
        items_.push_back(arrowItem());
        wire_ = int(items_.size());
        world::Item wire{
            "wire", world::boxShape({-0.03f, 0, 0}, {0.03f, 0.03f, 2.0f}), {}, {0.75f, 0.2f, 0.15f}};
        world::makeFlat(wire.shape);
        items_.push_back(std::move(wire));
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < parts_; ++i) out.push_back({int(i), stands()});
        if (doing_ == "beside")
            for (std::size_t i = 0; i < parts_; ++i)
                out.push_back({int(i), glm::translate(glm::mat4(1.0f), {float(thing_.blocks[0]), 0, 0})});
        for (const auto& [item, pose] : ground_) out.push_back({item, pose});
        if (doing_ == "wire") out.push_back({wire_, glm::translate(glm::mat4(1.0f), {0, 0, thing_.high.z})});
        if (doing_ == "arrows")
            for (const Arrow& arrow : volley_.arrows) {
                const float gone = std::min(arrow.flies, float(clock_) * 14);
                const glm::vec3 at = arrow.from + gone * arrow.way;
                const float turn = std::atan2(arrow.way.x, arrow.way.z);
                out.push_back({arrow_, glm::rotate(glm::translate(glm::mat4(1.0f), at), turn, {0, 1, 0})});
            }
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < parts_; ++i) out.push_back({int(i)});
        for (const auto& [item, pose] : ground_) out.push_back({item, pose});
        return out;
    }
    bool hasGround() const override { return true; }
    glm::vec3 figureFoot() const override { return {thing_.high.x + 1, 0, 0.5f}; }
    double seenFrom() const override { return 0.45; }
    bool advance(double seconds) override {
        clock_ += seconds;
        return doing_ == "arrows" ? clock_ < 2 : doing_ == "carry" && clock_ < 1.2;
    }
    std::vector<world::Action> actions() const override {
        return {{"arrows", "Shoot arrows", "From all four sides, at what is seen of it"},
                {"carry", "Take hold of it", "Lifts it, where it can be carried"},
                {"beside", "Set another beside", "On the next blocks of the grid"},
                {"wire", "Lay a wire", "To its front, where it is switched by wires"},
                {"rest", "Put it back", "As it was placed"}};
    }
    void act(const std::string& id) override { doing_ = id, clock_ = 0; }
    std::vector<world::Mark> marks() const override {
        std::vector<world::Mark> out;
        const float top = thing_.high.y + (doing_ == "carry" ? lifted() : 0) + 0.25f;
        const auto say = [&](std::string text, bool warning) {
            out.push_back({{thing_.low.x, top, 0}, {thing_.high.x, top, 0}, std::move(text), false, warning});
        };
        const auto told = [&](const Ability& ability) {
            const std::string why = thing_.whyNot(ability);
            say(why.empty() ? std::string(ability.word) : "not: " + why, !why.empty());
        };
        if (doing_ == "carry") told(abilities[0]);
        if (doing_ == "wire") told(abilities[1]);
        if (doing_ == "arrows" && clock_ >= 2)
            say(fmt::format("{} of {} arrows hit", volley_.hits(), volley_.arrows.size()),
                volley_.hits() < volley_.arrows.size());
        return out;
    }
    std::vector<world::Table> tables() const override {
        world::Table can{"What it can", {}, {}};
        for (const Ability& ability : abilities) {
            const std::string why = thing_.whyNot(ability);
            can.rows.push_back({std::string(ability.word), {why.empty() ? "yes" : "no: " + why}, false});
        }
        const glm::vec3 size = thing_.high - thing_.low;
        world::Table sizes{"Blocks", {"fills", "is"}, {}};
        for (const auto& [name, k] : {std::pair("across", 0), {"high", 1}, {"deep", 2}})
            sizes.rows.push_back(
                {name, {std::to_string(thing_.blocks[std::size_t(k)]), showMeasure(size[k])}});
        world::Table arrows{"Arrows",
                            {},
                            {{"aimed", {std::to_string(volley_.arrows.size())}},
                             {"hit", {std::to_string(volley_.hits())}},
                             {"pass through",
                              {std::to_string(volley_.arrows.size() - volley_.hits())},
                              volley_.hits() < volley_.arrows.size()}}};
        return {can, arrows, sizes};
    }
    std::vector<std::string> notes() const override {
        return thing_.credit.empty() ? std::vector<std::string>{}
                                     : std::vector<std::string>{"Credit: " + thing_.credit};
    }

private:
    float lifted() const {
        return thing_.whyNot(abilities[0]).empty() ? std::min(1.0f, float(clock_)) : 0.0f;
    }
    glm::mat4 stands() const {
        return glm::translate(glm::mat4(1.0f), {0, doing_ == "carry" ? lifted() : 0, 0});
    }
    /// Blocks below and some around, so that the grid is seen.
    void addGround() {
        const auto block = [&](const glm::vec3& colour) {
            world::Item item{
                "block", world::boxShape({0, -1, 0}, {0.985f, -0.015f, 0.985f}), {}, colour, 0.03f};
            world::makeFlat(item.shape);
            items_.push_back(std::move(item));
            return int(items_.size()) - 1;
        };
        const int kinds[] = {block({0.50f, 0.60f, 0.42f}), block({0.46f, 0.56f, 0.40f}),
                             block({0.62f, 0.58f, 0.52f})};
        const int halfX = thing_.blocks[0] / 2 + 3, halfZ = thing_.blocks[2] / 2 + 3;
        const float shiftX = thing_.blocks[0] % 2 == 1 ? 0.5f : 0,
                    shiftZ = thing_.blocks[2] % 2 == 1 ? 0.5f : 0;
        for (int x = -halfX; x <= halfX; ++x)
            for (int z = -halfZ; z <= halfZ; ++z) {
                const bool path = std::abs(z) > 1 && (x + 40) % 5 == 0;
                ground_.emplace_back(
                    kinds[path ? 2 : (x + z) & 1],
                    glm::translate(glm::mat4(1.0f), {float(x) - shiftX, 0, float(z) - shiftZ}));
            }
        for (const glm::vec3& at :
             {glm::vec3(-halfX, 1, -halfZ), glm::vec3(-halfX + 1, 1, -halfZ), glm::vec3(-halfX, 2, -halfZ)})
            ground_.emplace_back(kinds[2],
                                 glm::translate(glm::mat4(1.0f), at - glm::vec3(shiftX, 0, shiftZ)));
    }

    Thing thing_;
    Volley volley_;
    std::size_t parts_ = 0;
    std::vector<std::pair<int, glm::mat4>> ground_;
    int arrow_ = -1, wire_ = -1;
    std::string doing_;
    double clock_ = 0;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto thing = loadThing(folder, report);
    return thing && report.accepted ? std::make_unique<FieldArena>(std::move(*thing)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto thing = loadThing(folder, report);
    if (!thing || !report.accepted) return report;
    report.tests = world::sizesOf(thing->low, thing->high, figureBlocks);
    report.tests["blocks"] = thing->blocks;
    const Volley volley = shoot(*thing, 10);
    report.tests["arrows"] = {{"aimed", volley.arrows.size()}, {"hit", volley.hits()}};
    auto& can = report.tests["can"] = nlohmann::ordered_json::object();
    for (const Ability& ability : abilities) {
        const std::string why = thing->whyNot(ability);
        can[std::string(ability.mark)] =
            why.empty() ? nlohmann::ordered_json(true) : nlohmann::ordered_json(why);
    }
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::field
