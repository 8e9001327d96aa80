#include "standins/house/house_arena.h"

#include "standins/house/house_row.h"
#include "standins/world/arena.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>

namespace zl::standins::house {

namespace {

constexpr double figureMetres = doll::metres, secondsToPose = 0.7;

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
        for (world::Shape& limb : doll::limbs()) {
            limbs_.push_back(limb.indices.empty() ? -1 : int(items_.size()));
            if (limbs_.back() >= 0)
                items_.push_back({"the figure", std::move(limb), {}, glm::vec3(0.62f, 0.55f, 0.48f), 0.1f});
        }
        arrange();
        if (!row_.poses.empty()) choose("pose", 1);
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        const auto bones = standing();
        for (std::size_t b = 0; b < limbs_.size(); ++b)
            if (limbs_[b] >= 0) out.push_back({limbs_[b], bones[b]});
        for (std::size_t p = 0; p < itemOf_.size(); ++p) {
            const std::size_t item = itemOf_[p];
            const int bone = worn_ ? doll::boneNamed(row_.items[item].bone) : -1;
            out.push_back({int(hulls_.size() + p),
                           bone >= 0 ? bones[std::size_t(bone)] : physics().pose(int(item)).matrix});
        }
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < hulls_.size(); ++i)
            out.push_back({hulls_[i], physics().pose(int(i)).matrix});
        const auto bones = standing();
        for (std::size_t b = 0; b < limbs_.size(); ++b)
            if (limbs_[b] >= 0) out.push_back({limbs_[b], bones[b]});
        return out;
    }
    glm::vec3 figureFoot() const override { return {-2.1f, 0, 0}; }
    std::vector<world::Choice> choices() const override {
        if (row_.poses.empty()) return {};
        world::Choice choice{"pose", "Pose", {"at rest"}, posed_ + 1};
        for (const Pose& pose : row_.poses) choice.options.push_back(pose.title);
        return {choice};
    }
    void choose(const std::string& id, int option) override {
        if (id != "pose" || option < 0 || option > int(row_.poses.size())) return;
        from_ = turnsNow();
        posed_ = option - 1;
        passed_ = 0;
    }
    bool advance(double seconds) override {
        const bool moves = passed_ < secondsToPose;
        passed_ = std::min(secondsToPose, passed_ + seconds);
        return Arena::advance(seconds) || moves;
    }
    std::vector<world::Action> actions() const override {
        std::vector<world::Action> list;
        if (!row_.items.empty())
            list.push_back({"room", "Put into the room", "All side by side, from a hand above the floor"});
        if (std::ranges::any_of(row_.items, [](const Item& item) { return doll::boneNamed(item.bone) >= 0; }))
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
        for (const Pose& pose : row_.poses)
            poses.rows.push_back({pose.title, {std::to_string(pose.turns.size())}});
        std::vector<world::Table> tables;
        for (const world::Table& one : {table, poses})
            if (!one.rows.empty()) tables.push_back(one);
        return tables;
    }
    std::vector<std::string> notes() const override {
        return row_.credit.empty() ? std::vector<std::string>{} : std::vector{"Credit: " + row_.credit};
    }

private:
    /// On the way from how the figure stood to the pose that was chosen.
    Turns turnsNow() const {
        const Turns& to = posed_ < 0 ? rest_ : row_.poses[std::size_t(posed_)].turns;
        const float t = float(passed_ / secondsToPose), eased = t * t * (3 - 2 * t);
        constexpr glm::quat none(1, 0, 0, 0);
        const auto turnIn = [&](const Turns& turns, const std::string& bone) {
            const auto found = turns.find(bone);
            return found == turns.end() ? none : found->second;
        };
        Turns out;
        for (const Turns* turns : {&from_, &to})
            for (const auto& [bone, ignored] : *turns)
                out[bone] = glm::slerp(turnIn(from_, bone), turnIn(to, bone), eased);
        return out;
    }
    std::vector<glm::mat4> standing() const {
        auto bones = doll::posed(turnsNow());
        for (glm::mat4& bone : bones) bone = glm::translate(glm::mat4(1.0f), glm::vec3(-0.9f, 0, 0)) * bone;
        return bones;
    }

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
    std::vector<int> limbs_;          ///< places in items_, by bone; -1 for none
    bool worn_ = false;
    int posed_ = -1; ///< the pose that the figure takes; -1 for rest
    double passed_ = secondsToPose;
    Turns from_;
    const Turns rest_;
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
    for (const Pose& pose : row->poses) {
        const auto bones = doll::posed(pose.turns);
        const auto placeOf = [&](const char* bone) {
            const glm::vec3 at(bones[std::size_t(doll::boneNamed(bone))][3]);
            return nlohmann::ordered_json{at.x, at.y, at.z};
        };
        poses.push_back({{"title", pose.title},
                         {"bones", pose.turns.size()},
                         {"leftHandAt", placeOf("hand.left")},
                         {"rightHandAt", placeOf("hand.right")}});
    }
    report.tests = {{"items", items}, {"poses", poses}};
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::house
