#include "standins/slip/slip_arena.h"

#include "standins/slip/floating.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <utility>

namespace zl::standins::slip {

namespace {

constexpr double figureBlocks = 7;
constexpr double downSlip = 2.2, settling = 5; ///< seconds
constexpr double shove = 24;                   ///< degrees that it is rolled by
constexpr double gravity = 9.81 / 0.25;        ///< blocks a second, a second

class SlipArena : public world::Arena {
public:
    explicit SlipArena(Hull hull)
        : Arena("blocks", figureBlocks), hull_(std::move(hull)), lies_(floatingOf(hull_)) {
        for (const bool strays : {false, true})
            for (std::size_t paint = 0; paint < std::max<std::size_t>(1, hull_.paints.size()); ++paint) {
                world::Shape shape = shapeOf(hull_, paint, strays);
                if (shape.indices.empty()) continue;
                const glm::vec3 to(-float(hull_.size.x) / 2, 0, -float(hull_.size.z) / 2);
                for (glm::vec3& p : shape.positions) p += to;
                (strays ? strays_ : own_).push_back(int(items_.size()));
                const glm::vec3 colour = hull_.paints.empty() ? glm::vec3(0.7f) : hull_.paints[paint];
                items_.push_back({"blocks", std::move(shape), {}, colour, 0.05f});
            }
        constexpr std::size_t mostSaid = 12;
        std::vector<char> said(hull_.pieces.size(), 0);
        for (std::size_t i = 0; i < hull_.cells.size() && looseAt_.size() < mostSaid; ++i)
            if (const int piece = hull_.cells[i].piece;
                piece > 0 && !std::exchange(said[std::size_t(piece)], 1))
                looseAt_.emplace_back(hull_.middleOf(i));
        const glm::vec3 half(float(hull_.size.x) / 2 + 4, 0, float(hull_.size.z) / 2 + 6);
        const auto add = [&](const char* name, const glm::vec3& low, const glm::vec3& high,
                             const glm::vec3& colour) {
            world::Item item{name, world::boxShape(low, high), {}, colour, 0.2f};
            world::makeFlat(item.shape);
            items_.push_back(std::move(item));
            return int(items_.size()) - 1;
        };
        beam_ = add("beam", {-half.x, -1.2f, -0.5f}, {half.x, -0.2f, 0.5f}, {0.46f, 0.36f, 0.27f});
        const float wide = std::max(24.0f, 1.8f * half.x), far = 2 * half.z + 24;
        away_ = half.z + far / 2;
        rise_ = std::max(2.0f, float(lies_.draught) + 1.5f);
        water_ = add("water", {-wide, -0.4f, half.z}, {wide, 0, half.z + far}, {0.38f, 0.55f, 0.62f});
        quay_ =
            add("quay", {-wide, -rise_ - 1.5f, -half.z - 6}, {wide, -1.25f, half.z}, {0.60f, 0.58f, 0.54f});
    }

    bool hasGround() const override { return true; }
    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        const glm::mat4 pose = poseNow();
        for (const int item : own_) out.push_back({item, pose});
        const float fallen = strayFall();
        if (fallen < 40)
            for (const int item : strays_)
                out.push_back({item, glm::translate(glm::mat4(1), {0, -fallen, 0}) * strayPose()});
        const float half = float(hull_.size.z) / 2;
        for (float z = -half; z <= half + 6; z += 5)
            out.push_back({beam_, glm::translate(glm::mat4(1), {0, 0, z})});
        out.push_back({quay_});
        out.push_back({water_, glm::translate(glm::mat4(1), {0, -rise_, 0})});
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        std::vector<world::Drawn> out;
        for (const auto* items : {&own_, &strays_})
            for (const int item : *items) {
                out.push_back({item});
                if (doing_ != Doing::Stands)
                    out.push_back({item, glm::translate(glm::mat4(1), {0, -rise_, away_})});
            }
        return out;
    }
    std::vector<world::Action> actions() const override {
        return {
            {"launch", "Launch", "Down the slip and into the water: it floats as deep as its weight says"},
            {"roll", "Roll it", "Over by 24° on the water, and let go"},
            {"back", "Back on the slip", "As it was delivered"}};
    }
    void act(const std::string& id) override {
        doing_ = id == "launch" ? Doing::Launch : id == "roll" ? Doing::Roll : Doing::Stands;
        clock_ = 0;
    }
    bool advance(double seconds) override {
        Arena::advance(seconds);
        clock_ += seconds;
        return doing_ != Doing::Stands && clock_ < downSlip + settling + 3;
    }
    std::vector<world::Mark> marks() const override {
        std::vector<world::Mark> out;
        const float half = float(hull_.size.z) / 2;
        if (doing_ == Doing::Stands) {
            out.push_back({{0, 0, -half}, {0, 0, half}, fmt::format("{} blocks long", hull_.size.z)});
            for (const glm::vec3& at : looseAt_)
                out.push_back({at + glm::vec3(0, 5, 0), at, "holds to nothing", true, true});
        } else if (clock_ > downSlip) {
            const glm::vec3 at(float(hull_.size.x) / 2 + 2, -rise_, away_);
            out.push_back({at, at,
                           lies_.floats ? showNumber(lies_.draught) + " blocks under water" : "it goes under",
                           false, !lies_.floats});
        }
        return out;
    }
    std::vector<world::Table> tables() const override {
        const auto number = [](double v) { return showNumber(v, 2); };
        world::Table out{"On the water", {}, {}};
        out.rows.push_back({"weight", {number(lies_.tonnes) + " t"}});
        out.rows.push_back(
            {"draught", {lies_.floats ? number(lies_.draught) + " blocks" : "goes under"}, !lies_.floats});
        if (lies_.floats) {
            out.rows.push_back({"freeboard", {number(lies_.freeboard) + " blocks"}, lies_.freeboard < 1});
            out.rows.push_back(
                {"rights itself", {lies_.righting > 0 ? "yes" : "no, it turns over"}, lies_.righting <= 0});
            const auto leans = [](double degrees, const char* one, const char* other) {
                return std::abs(degrees) < 0.05
                           ? std::string("level")
                           : showNumber(std::abs(degrees), 1) + "° " + (degrees > 0 ? one : other);
            };
            out.rows.push_back({"lies fore and aft", {leans(lies_.trim, "by the bow", "by the stern")}});
            out.rows.push_back({"lies across",
                                {leans(lies_.heel, "to its left", "to its right")},
                                std::abs(lies_.heel) > 2});
        }
        return {out};
    }
    std::vector<std::string> notes() const override { return {"Named " + hull_.name}; }
    glm::vec3 figureFoot() const override {
        return {float(hull_.size.x) / 2 + 8, -1.25f, -float(hull_.size.z) / 4};
    }
    double seenFrom() const override { return 0.75; }

private:
    enum class Doing { Stands, Launch, Roll };

    /// How far down the slip, 0 to 1, gathering speed.
    float slid() const {
        if (doing_ == Doing::Stands) return 0;
        if (doing_ == Doing::Roll) return 1;
        const double share = std::min(clock_ / downSlip, 1.0);
        return float(share * share);
    }
    /// What is left of a sway, so long after it began: it swings `a second` times and dies away.
    static double sway(double seconds, double aSecond) {
        return seconds < 0 ? 0
                           : std::exp(-0.7 * seconds) * std::cos(glm::two_pi<double>() * aSecond * seconds);
    }
    glm::mat4 poseNow() const {
        const float down = slid();
        if (down == 0) return glm::mat4(1);
        const double since = doing_ == Doing::Launch ? clock_ - downSlip : clock_;
        double sunk = lies_.draught, heel = lies_.heel, trim = lies_.trim;
        if (!lies_.floats)
            sunk += std::max(0.0, since) * 1.5;
        else if (doing_ == Doing::Launch)
            sunk += 0.6 * sway(since, 0.5) * (since > 0), trim += 3 * sway(since, 0.35) * (since > 0);
        const double deep = lies_.righting > 0
                                ? std::sqrt(gravity * lies_.righting) /
                                      (glm::two_pi<double>() * std::max(1.0, 0.35 * hull_.size.x))
                                : 0;
        if (doing_ == Doing::Roll)
            heel += lies_.righting > 0 ? shove * sway(since, deep)
                                       : shove + std::min(since / 2, 1.0) * (180 - shove);
        else if (lies_.righting <= 0 && lies_.floats && since > 0.8)
            heel += std::min((since - 0.8) / 2, 1.0) * 180;
        const float entered = doing_ == Doing::Launch ? std::clamp((down - 0.5f) * 2, 0.0f, 1.0f) : 1;
        const glm::vec3 at{0, entered * (-rise_ - float(sunk)), down * away_};
        const glm::vec3 middle(glm::dvec3(lies_.weight));
        glm::mat4 out = glm::translate(glm::mat4(1), at + middle);
        out = glm::rotate(out, entered * float(glm::radians(-heel)), {0, 0, 1});
        out = glm::rotate(out, entered * float(glm::radians(trim)), {1, 0, 0});
        return glm::translate(out, -middle);
    }
    /// What holds to nothing stays where it was, and falls when the hull goes.
    glm::mat4 strayPose() const { return glm::mat4(1); }
    float strayFall() const {
        if (doing_ == Doing::Stands) return 0;
        return float(0.5 * gravity * std::min(clock_, 1.6) * std::min(clock_, 1.6));
    }

    Hull hull_;
    Floating lies_;
    std::vector<int> own_, strays_;
    std::vector<glm::vec3> looseAt_; ///< the first of each piece that holds to nothing
    int beam_ = -1, water_ = -1, quay_ = -1;
    float away_ = 0, rise_ = 2;
    Doing doing_ = Doing::Stands;
    double clock_ = 0;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto hull = readHull(folder, report);
    return hull ? std::make_unique<SlipArena>(std::move(*hull)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto hull = readHull(folder, report);
    if (!hull) return report;
    const Floating lies = floatingOf(*hull);
    report.tests["size"] = {hull->size.x, hull->size.y, hull->size.z};
    report.tests["blocks"] = hull->count();
    report.tests["pieces"] = hull->pieces.size();
    report.tests["tonnes"] = world::round4(lies.tonnes);
    report.tests["floats"] = lies.floats;
    report.tests["draught"] = world::round4(lies.draught);
    report.tests["freeboard"] = world::round4(lies.freeboard);
    report.tests["righting"] = world::round4(lies.righting);
    report.tests["heel"] = world::round4(lies.heel);
    report.tests["trim"] = world::round4(lies.trim);
    report.lengths = {"draught", "freeboard", "righting"};
    return report;
}

} // namespace zl::standins::slip
