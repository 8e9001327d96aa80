#include "standins/table/table_arena.h"

#include "standins/table/table_tests.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::standins::table {

namespace {

using world::Action, world::Choice, world::Drawn, world::Mark, world::Table;

constexpr double figureUnits = 1.28;
constexpr glm::vec2 tableTop(6, 3.5f);
const std::vector<std::string> finishes{"matte", "satin", "gloss", "wood"};

float glossOf(const std::string& finish) {
    return finish == "gloss" ? 0.8f : finish == "satin" ? 0.35f : finish == "wood" ? 0.18f : 0.02f;
}

std::string inUnits(double value) {
    return showNumber(value) + "\u202fu";
}

class TableArena : public world::Arena {
public:
    explicit TableArena(Figure figure) : Arena("u", figureUnits), figure_(std::move(figure)) {
        World::addCollidersOf(figure_, physics());
        items_.push_back(
            {figure_.name, figure_.model, figure_.picture, figure_.colour, glossOf(figure_.finish)});
        finish_ = std::max<int>(0, int(std::ranges::find(finishes, figure_.finish) - finishes.begin()));
        physics().keepWithin(tableTop, true);
        own_ = measure(figure_, ColliderKind::Own);
        box_ = measure(figure_, ColliderKind::DefaultBox);
        baseToBase();
    }

    std::vector<Drawn> drawn() const override {
        std::vector<Drawn> out; // whatever a body collides with, it looks like the figure
        for (std::size_t i = 0; i < physics().count(); ++i) out.push_back({0, physics().pose(int(i)).matrix});
        return out;
    }
    glm::vec2 table() const override { return tableTop; }
    bool showsColliders() const override { return collidersShown_; }

    std::vector<Action> actions() const override {
        return {{"base", "Base to base", "Two figures, collider to collider"},
                {"drop", "Drop", "One figure from 3 u, a little tipped"},
                {"stack", "Stack", "One figure on another"},
                {"knock", "Knock over", "A push at the top"},
                {"copy", "Add a copy", "One more figure from 1 u"}};
    }
    void act(const std::string& id) override {
        if (id == "base") baseToBase();
        if (id == "drop") drop();
        if (id == "stack") stack();
        if (id == "knock" && physics().count() > 0)
            physics().push(0, {2.2f, 0, 0.4f}), showing_ = Showing::Single;
        if (id == "copy") addCopy();
    }
    std::vector<Choice> choices() const override {
        return {{"collider", "Collider", {"with its collider", "with the default box"}, shape_},
                {"outline",
                 "Collider outlines",
                 {"colliders shown", "colliders hidden"},
                 collidersShown_ ? 0 : 1},
                {"finish", "Finish", finishes, finish_}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "collider") {
            shape_ = option;
            if (showing_ == Showing::Stack)
                stack();
            else
                baseToBase();
        }
        if (id == "outline") collidersShown_ = option == 0;
        if (id == "finish") {
            finish_ = option;
            items_[0].gloss = glossOf(finishes.at(std::size_t(option)));
        }
    }

    std::vector<Mark> marks() const override {
        // A measure holds while both stand as they were put, and not when one is carried off or falls.
        if (showing_ == Showing::BaseToBase && physics().count() >= 2 && stands(0) && stands(1) &&
            std::abs(place(0).z - place(1).z) < 0.1f) {
            const float half = float(footWidth(figure_)) / 2,
                        z = std::max(place(0).z, place(1).z) + figure_.model.high().z + 0.12f;
            const float a = std::min(place(0).x, place(1).x) + half,
                        b = std::max(place(0).x, place(1).x) - half;
            return {{{a, 0, z},
                     {b, 0, z},
                     b >= a ? inUnits(b - a) + " between feet" : "feet overlap by " + inUnits(a - b)}};
        }
        if (showing_ == Showing::Stack && physics().count() >= 2 && isUpright(1)) {
            const glm::vec3 at = place(1);
            return {{at, at + glm::vec3(0.9f, 0.1f, 0), "stands at " + inUnits(at.y + foot())}};
        }
        return {};
    }

    std::vector<Table> tables() const override {
        const std::vector<std::string> columns{"yours", "default box"};
        const auto stands = [](double height) { return height > 0 ? inUnits(height) : std::string("falls"); };
        return {{"Base to base",
                 columns,
                 {{"gap between feet",
                   {inUnits(own_.sideBySideGap), inUnits(box_.sideBySideGap)},
                   box_.sideBySideGap > own_.sideBySideGap + 0.2},
                  {"gap to the table", {inUnits(own_.gapToFloor), inUnits(box_.gapToFloor)}}}},
                {fmt::format("Dropped from 3\u202fu, {} times", own_.drops),
                 columns,
                 {{"stays upright",
                   {fmt::format("{} of {}", own_.uprightDrops, own_.drops),
                    fmt::format("{} of {}", box_.uprightDrops, box_.drops)}},
                  {"comes to rest in", {showSeconds(own_.restSeconds), showSeconds(box_.restSeconds)}}}},
                {"One on another",
                 columns,
                 {{"upper one stands at", {stands(own_.stackHeight), stands(box_.stackHeight)}}}}};
    }
    std::vector<std::string> notes() const override {
        return figure_.credit.empty() ? std::vector<std::string>{}
                                      : std::vector<std::string>{"Credit: " + figure_.credit};
    }

    std::pair<glm::vec3, glm::vec3> frame() const override {
        const glm::vec3 low = figure_.model.low(), high = figure_.model.high();
        return {{low.x * 3 - 0.5f, -0.3f, low.z},
                {high.x * 3 + float(figureUnits), std::max(high.y * 1.5f, 1.6f), high.z}};
    }
    glm::vec3 figureFoot() const override {
        return {std::max(1.9f, 2.1f * figure_.model.high().x + 0.9f), 0, 0};
    }

private:
    float foot() const { return figure_.model.low().y; }
    glm::vec3 place(int body) const { return glm::vec3(physics().pose(body).matrix[3]); }
    bool isUpright(int body) const { return physics().pose(body).matrix[1].y > 0.98f; }
    bool stands(int body) const { return isUpright(body) && std::abs(place(body).y + foot()) < 0.05f; }
    void baseToBase() {
        physics().clear();
        const auto apart = float(touchingDistance(physics(), figure_, ColliderKind(shape_))) + 0.001f;
        physics().add(shape_, {-apart / 2, -foot(), 0});
        physics().add(shape_, {apart / 2, -foot(), 0});
        showing_ = Showing::BaseToBase;
    }
    void drop() {
        physics().clear();
        physics().add(shape_, {0, 3 - foot(), 0}, 0.05f, 1.1f);
        showing_ = Showing::Single;
    }
    void stack() {
        physics().clear();
        physics().add(shape_, {0, -foot(), 0});
        physics().add(shape_, {0, physics().shape(shape_).high().y - 2 * foot() + 0.25f, 0});
        showing_ = Showing::Stack;
    }
    void addCopy() {
        const int n = int(physics().count());
        physics().add(shape_, {-3.2f + 0.9f * float(n % 8), 1 - foot(), 1.4f + 0.5f * float(n / 8)});
        showing_ = Showing::Single;
    }

    Figure figure_;
    Measured own_, box_;
    int shape_ = 0, finish_ = 0;
    bool collidersShown_ = true;
    enum class Showing { Single, BaseToBase, Stack } showing_ = Showing::Single;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto figure = loadFigure(folder, report);
    if (!figure) return nullptr;
    return std::make_unique<TableArena>(std::move(*figure));
}

} // namespace zl::standins::table
