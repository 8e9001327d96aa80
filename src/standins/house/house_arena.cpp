#include "standins/house/house_arena.h"

#include "standins/house/house_row.h"
#include "standins/world/arena.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <array>

namespace zl::standins::house {

namespace {

constexpr double figureMetres = 1.78;

/// Where the game's own figure has the joints that things hang on, standing with its arms a little aside.
struct Joint {
    std::string_view name;
    glm::vec3 place;
};
constexpr std::array<Joint, 9> joints{{{"hips", {0, 0.95f, 0}},
                                       {"chest", {0, 1.24f, 0}},
                                       {"neck", {0, 1.47f, 0}},
                                       {"head", {0, 1.54f, 0}},
                                       {"forearm.left", {0.34f, 1.15f, 0}},
                                       {"forearm.right", {-0.34f, 1.15f, 0}},
                                       {"hand.left", {0.41f, 0.9f, 0}},
                                       {"hand.right", {-0.41f, 0.9f, 0}},
                                       {"foot.right", {-0.1f, 0.08f, 0}}}};

const Joint* jointOf(const std::string& bone) {
    const auto found = std::ranges::find(joints, bone, &Joint::name);
    return found == joints.end() ? nullptr : &*found;
}

class HouseArena : public world::Arena {
public:
    explicit HouseArena(Row row) : Arena("m", figureMetres), row_(std::move(row)) {
        for (const Item& item : row_.items) {
            world::Shape whole;
            for (const Part& part : item.parts) {
                const auto first = std::uint32_t(whole.positions.size());
                whole.positions.insert(whole.positions.end(), part.shape.positions.begin(),
                                       part.shape.positions.end());
                for (const std::uint32_t i : part.shape.indices) whole.indices.push_back(first + i);
            }
            world::addMissingNormals(whole);
            hulls_.push_back(addItem({item.title, std::move(whole), {}, glm::vec3(0.8f), 0.1f}));
        }
        for (std::size_t i = 0; i < row_.items.size(); ++i)
            for (const Part& part : row_.items[i].parts) {
                items_.push_back({row_.items[i].title, part.shape, part.picture, part.colour, 0.15f});
                itemOf_.push_back(i);
            }
        arrange();
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (std::size_t p = 0; p < itemOf_.size(); ++p) {
            const std::size_t item = itemOf_[p];
            const Joint* joint = worn_ ? jointOf(row_.items[item].bone) : nullptr;
            out.push_back(
                {int(hulls_.size() + p), joint ? glm::translate(glm::mat4(1.0f), figureFoot() + joint->place)
                                               : physics().pose(int(item)).matrix});
        }
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < hulls_.size(); ++i)
            out.push_back({hulls_[i], physics().pose(int(i)).matrix});
        return out;
    }
    glm::vec3 figureFoot() const override { return {-0.9f, 0, 0}; }
    std::vector<world::Action> actions() const override {
        std::vector<world::Action> list{
            {"room", "Put into the room", "All side by side, from a hand above the floor"}};
        if (std::ranges::any_of(row_.items, [](const Item& item) { return jointOf(item.bone); }))
            list.push_back({"wear", worn_ ? "Take off" : "Put on", "On the figure, where their entries say"});
        return list;
    }
    void act(const std::string& id) override {
        if (id == "room") worn_ = false, arrange(0.12f);
        if (id == "wear") worn_ = !worn_, arrange();
    }
    std::vector<world::Table> tables() const override {
        world::Table table{"In the row", {"height", "shape"}, {}};
        for (const Item& item : row_.items)
            table.rows.push_back({std::filesystem::path(item.file).stem().string(),
                                  {showMeasure(item.high.y - item.low.y) + "\u202fm",
                                   item.wears.empty() ? "its own" : "of " + item.wears},
                                  !item.wears.empty()});
        world::Table poses{"Poses", {"bones"}, {}};
        for (const Pose& pose : row_.poses) poses.rows.push_back({pose.title, {std::to_string(pose.bones)}});
        std::vector<world::Table> tables;
        for (const world::Table& one : {table, poses})
            if (!one.rows.empty()) tables.push_back(one);
        return tables;
    }
    std::vector<std::string> notes() const override {
        return row_.credit.empty() ? std::vector<std::string>{} : std::vector{"Credit: " + row_.credit};
    }

private:
    void arrange(float above = 0) {
        physics().clear();
        float x = 0;
        for (std::size_t i = 0; i < row_.items.size(); ++i) {
            const Item& item = row_.items[i];
            physics().add(hulls_[i], {x - item.low.x, above - item.low.y, -(item.low.z + item.high.z) / 2});
            x += item.high.x - item.low.x + 0.25f;
        }
    }

    Row row_;
    std::vector<int> hulls_;
    std::vector<std::size_t> itemOf_; ///< of each part, behind the hulls in items_
    bool worn_ = false;
};

bool accepted(const TryReport& report) {
    return std::ranges::none_of(
        report.messages, [](const Message& message) { return message.kind == Message::Kind::Refused; });
}

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto row = loadRow(folder, report);
    report.accepted = row && accepted(report);
    return row ? std::make_unique<HouseArena>(std::move(*row)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto row = loadRow(folder, report);
    report.accepted = row && accepted(report);
    if (!row) return report;
    auto items = nlohmann::ordered_json::array();
    for (const Item& item : row->items) {
        nlohmann::ordered_json told{{"title", item.title},
                                    {"file", item.file},
                                    {"delivered", item.delivered},
                                    {"triangles", item.triangles},
                                    {"ownShape", item.wears.empty()}};
        told.update(world::sizesOf(item.low, item.high, figureMetres));
        items.push_back(std::move(told));
    }
    auto poses = nlohmann::ordered_json::array();
    for (const Pose& pose : row->poses) poses.push_back({{"title", pose.title}, {"bones", pose.bones}});
    report.tests = {{"items", items}, {"poses", poses}};
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::house
