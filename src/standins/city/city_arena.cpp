#include "standins/city/city_arena.h"

#include "standins/city/support.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::standins::city {

namespace {

constexpr double figureMetres = 1.8;
constexpr double pace = 0.45;         ///< seconds a step
constexpr float sight = 70;           ///< metres within which the others' things are shown
constexpr std::size_t mostSpots = 24; ///< to choose from

/// How far a turn is about up, in degrees against the clock seen from above.
double turnOf(const glm::dquat& q) {
    const glm::dvec3 front = q * glm::dvec3(0, 1, 0);
    return glm::degrees(std::atan2(-front.x, front.y));
}

class CityArena : public world::Arena {
public:
    explicit CityArena(CityLoaded city) : Arena("m", figureMetres), city_(std::move(city)) {
        world::Item car{"car",
                        world::boxShape({-0.85f, 0.25f, -1.9f}, {0.85f, 1.35f, 1.9f}),
                        {},
                        {0.62f, 0.3f, 0.24f},
                        0.4f};
        world::makeFlat(car.shape);
        car_ = int(items_.size());
        items_.push_back(std::move(car));
        world::Item foot{"step",
                         world::boxShape({-0.06f, 0, -0.14f}, {0.06f, 0.012f, 0.14f}),
                         {},
                         {0.2f, 0.25f, 0.32f},
                         0};
        world::makeFlat(foot.shape);
        foot_ = int(items_.size());
        items_.push_back(std::move(foot));
        // What was defined last comes first.
        for (std::size_t o = city_.objects.size(); o-- > 0 && spots_.size() < mostSpots;) {
            const std::size_t before = spots_.size();
            for (const Place& place : city_.places)
                if (place.object == o && spots_.size() < mostSpots) spots_.push_back({o, &place});
            if (spots_.size() == before) spots_.push_back({o, nullptr});
        }
        lookAt(0);
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out = still_;
        if (doing_ == "walk")
            for (std::size_t i = 0; i < std::min(steps_.size(), stepsTaken()); ++i)
                out.push_back({foot_, glm::rotate(glm::translate(glm::mat4(1.0f), steps_[i].at),
                                                  steps_[i].turn, {0, 1, 0})});
        if (doing_ == "drive")
            out.push_back({car_, glm::translate(glm::mat4(1.0f), {0, 0, driveFrom_ - driven()})});
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        return std::vector<world::Drawn>(still_.begin(), still_.begin() + std::ptrdiff_t(own_));
    }
    bool hasGround() const override { return true; }
    double seenFrom() const override { return seenFrom_; }
    glm::vec3 figureFoot() const override { return {beside_ + 0.8f, 0, 0.4f}; }
    bool advance(double seconds) override {
        clock_ += seconds;
        for (; doing_ == "walk" && heard_ < std::min(steps_.size(), stepsTaken()); ++heard_)
            if (const Kind* kind = kindNamed(steps_[heard_].kind)) hear(std::string(kind->sound));
        if (doing_ == "drive" && driven() >= way_ && !stoppedBy_.empty() && heard_ == 0) {
            hear("dull thud");
            if (const Kind* kind = kindNamed(stoppedOn_)) hear(std::string(kind->sound));
            heard_ = 1;
        }
        return (doing_ == "walk" && clock_ < double(steps_.size()) * pace) ||
               (doing_ == "drive" && driven() < way_);
    }
    std::vector<world::Choice> choices() const override {
        if (city_.objects.size() < 2) return {};
        world::Choice out{"spot", "What is looked at", {}, int(spot_)};
        for (const Spot& spot : spots_)
            out.options.push_back(fmt::format("{} · {}", city_.objects[spot.object].name,
                                              spot.place ? spot.place->district : "nowhere"));
        return {out};
    }
    void choose(const std::string&, int option) override {
        if (option >= 0 && std::size_t(option) < spots_.size()) lookAt(std::size_t(option));
    }
    std::vector<world::Action> actions() const override {
        return {{"walk", "Walk around it", "A step at a time; what each sounds like is written beside it"},
                {"drive", "Drive at it", "A car comes from the front, until something stops it"},
                {"rest", "Stand still", "Nothing moves"}};
    }
    void act(const std::string& id) override { doing_ = id, clock_ = 0, heard_ = 0; }
    bool isHeard() const override { return true; }
    std::vector<world::Mark> marks() const override {
        std::vector<world::Mark> out;
        if (doing_ == "walk") {
            const std::size_t last = std::min(steps_.size(), stepsTaken());
            std::string said;
            for (std::size_t i = 0; i < last; ++i) {
                if (steps_[i].kind == said) continue;
                said = steps_[i].kind;
                const Kind* kind = kindNamed(said);
                const glm::vec3 at = steps_[i].at + glm::vec3(0, 0.35f, 0);
                out.push_back({at, at, kind ? fmt::format("{}: {}", said, kind->sound) : said});
            }
        }
        if (doing_ == "drive" && driven() >= way_) {
            const glm::vec3 at(0, 1.7f, driveFrom_ - way_);
            out.push_back({at, at, stoppedBy_.empty() ? "it drives through" : "stopped; " + stoppedBy_, false,
                           stoppedBy_.empty()});
        }
        if (const Place* place = spots_[spot_].place; place && doing_ != "walk") {
            const glm::vec3 at(0, top_ + 0.3f, 0);
            out.push_back({at, at, fmt::format("{} · stands on {}", place->district, support_.name)});
        }
        return out;
    }
    std::vector<world::Table> tables() const override {
        world::Table where{"Where it stands", {}, {}};
        for (const Place& place : city_.places) {
            if (place.object != spots_[spot_].object) continue;
            const Support support = supportOf(city_, place);
            where.rows.push_back(
                {fmt::format("{}, {}, {}", showNumber(place.at.x, 2), showNumber(place.at.y, 2),
                             showNumber(place.at.z, 2)),
                 {fmt::format("turned {}°, in {}", showNumber(turnOf(place.turn), 1), place.district)}});
            const bool odd = std::abs(support.gap) > 0.03;
            where.rows.push_back({"stands on " + support.name,
                                  {odd ? fmt::format("{} m {} it", showMeasure(std::abs(support.gap)),
                                                     support.gap > 0 ? "above" : "within")
                                       : support.kind},
                                  odd});
        }
        if (where.rows.empty()) where.rows.push_back({"nowhere", {"nobody will ever see it"}, true});
        world::Table made{"What it is made of", {"faces", "sounds like"}, {}};
        if (const Body* body = city_.objects[spots_[spot_].object].body) {
            std::map<std::string, std::size_t> faces;
            for (const std::string& kind : body->kinds) ++faces[kind];
            for (const auto& [kind, count] : faces) {
                const Kind* known = kindNamed(kind);
                made.rows.push_back(
                    {kind, {std::to_string(count), known ? std::string(known->sound) : "nothing"}, !known});
            }
        } else {
            made.rows.push_back({"no body", {"", "people walk through"}, true});
        }
        world::Table city{"The city",
                          {},
                          {{"objects", {std::to_string(city_.objects.size())}},
                           {"places", {std::to_string(city_.places.size())}},
                           {"collision files",
                            {fmt::format("{} of 5", city_.contacts.size())},
                            city_.contacts.size() > 5}}};
        return {where, made, city};
    }
    std::vector<std::string> notes() const override {
        std::vector<std::string> out;
        if (city_.isDelivery)
            out.emplace_back("Alone: once it is put into the city, open the city's own folder");
        if (!city_.credit.empty()) out.push_back("Credit: " + city_.credit);
        return out;
    }

private:
    struct Spot {
        std::size_t object = 0;
        const Place* place = nullptr; ///< null where it stands nowhere
    };
    struct Footstep {
        glm::vec3 at{0};
        float turn = 0;
        std::string kind;
    };

    void lookAt(std::size_t spot) {
        spot_ = spot;
        still_.clear(), steps_.clear(), doing_.clear(), stoppedBy_.clear();
        own_ = heard_ = 0, top_ = beside_ = 0, clock_ = 0;
        support_ = {}, middle_ = glm::vec3(0);
        if (const Place* place = spots_[spot].place) {
            support_ = supportOf(city_, *place);
            const glm::mat4 pose = poseOf(*place);
            middle_ = {pose[3].x, float(support_.height), pose[3].z};
        }
        addThings();
        addStreets();
        planWalk();
        planDrive();
        findClearSight();
        itemsChanged();
    }

    glm::mat4 here(const glm::mat4& pose) const { return glm::translate(glm::mat4(1.0f), -middle_) * pose; }

    /// Items of an object, made once; their numbers.
    const std::vector<int>& itemsOf(std::size_t object) {
        const auto [entry, fresh] = made_.try_emplace(object);
        if (!fresh) return entry->second;
        const Object& of = city_.objects[object];
        for (const MeshFile::Part& part : of.mesh.parts) {
            world::Item item{of.name, part.shape, {}, part.colour, 0.1f};
            if (const auto picture = of.pictures.find(part.picture); picture != of.pictures.end())
                item.picture = picture->second;
            entry->second.push_back(int(items_.size()));
            items_.push_back(std::move(item));
        }
        return entry->second;
    }

    void addThings() {
        const auto add = [&](const Place& place) {
            const glm::mat4 pose = here(poseOf(place));
            if (glm::length(glm::vec3(pose[3])) > sight) return;
            for (const int item : itemsOf(place.object)) still_.push_back({item, pose});
        };
        const Spot& spot = spots_[spot_];
        if (spot.place)
            add(*spot.place);
        else // shown all the same
            for (const int item : itemsOf(spot.object)) still_.push_back({item});
        own_ = still_.size();
        for (const Place& place : city_.places)
            if (spot.place && &place != spot.place) add(place);
        for (std::size_t i = 0; i < own_; ++i)
            for (const glm::vec3& p : items_[std::size_t(still_[i].item)].shape.positions) {
                const glm::vec4 at = still_[i].pose * glm::vec4(p, 1);
                top_ = std::max(top_, at.y), beside_ = std::max(beside_, at.x);
            }
    }

    /// A cross of streets between four blocks, where there is no city around.
    void addStreets() {
        if (!city_.isDelivery) return;
        const auto box = [&](const glm::vec3& low, const glm::vec3& high, const glm::vec3& colour) {
            world::Item item{"house", world::boxShape(low, high), {}, colour, 0.03f};
            world::makeFlat(item.shape);
            still_.push_back({int(items_.size())});
            items_.push_back(std::move(item));
        };
        box({-60, -0.3f, -60}, {60, -0.01f, 60}, {0.58f, 0.57f, 0.54f});
        for (const float x : {-1.0f, 1.0f})
            for (const float z : {-1.0f, 1.0f}) {
                const float tall = 7 + 2 * x - z;
                box({std::min(9 * x, 21 * x), 0, std::min(-14 + 11 * z, -14 + 23 * z) - 12},
                    {std::max(9 * x, 21 * x), tall, std::max(-14 + 11 * z, -14 + 23 * z) - 12},
                    {0.72f + 0.05f * x, 0.70f, 0.66f + 0.04f * z});
            }
    }

    /// The first direction, round from where others are looked at, in which nothing stands before it.
    void findClearSight() {
        constexpr int ways = 16;
        constexpr float rise = 0.35f;
        const float far = 6 * std::max({top_, beside_, 1.0f});
        for (int k = 0; k < ways; ++k) {
            const double turn = Arena::seenFrom() + (k + 1) / 2 * (k % 2 ? -1 : 1) * 6.2831853 / ways;
            const glm::vec3 way = far * glm::normalize(glm::vec3(std::sin(turn), rise, std::cos(turn)));
            const bool clear = std::none_of(
                still_.begin() + std::ptrdiff_t(own_), still_.end(), [&](const world::Drawn& other) {
                    const glm::mat4 back = glm::inverse(other.pose);
                    return std::ranges::any_of(std::array{0.3f, 0.8f}, [&](float high) {
                        const auto met = world::firstMet(items_[std::size_t(other.item)].shape,
                                                         glm::vec3(back * glm::vec4(0, high * top_, 0, 1)),
                                                         glm::vec3(back * glm::vec4(way, 0)));
                        return met && met->distance < 1;
                    });
                });
            if (!clear) continue;
            seenFrom_ = turn;
            return;
        }
        seenFrom_ = Arena::seenFrom();
    }

    /// A ring of steps about it, and over it where it can be stepped on.
    void planWalk() {
        float reach = 1.2f;
        for (std::size_t i = 0; i < own_; ++i)
            for (const glm::vec3& p : items_[std::size_t(still_[i].item)].shape.positions) {
                const glm::vec4 at = still_[i].pose * glm::vec4(p, 1);
                if (at.y < 1) reach = std::max(reach, std::hypot(at.x, at.z) + 0.5f);
            }
        reach = std::min(reach, 8.0f);
        const int count = std::clamp(int(reach * 9), 12, 48);
        for (int i = 0; i < count; ++i) {
            const float a = 6.2831853f * float(i) / float(count), r = reach - (i % 6 == 5 ? 0.6f * reach : 0);
            const glm::vec3 at(r * std::sin(a), 0, r * std::cos(a));
            const Step step = stepAt(city_, at + middle_ + glm::vec3(0, 0.6f, 0), sight);
            steps_.push_back(
                {{at.x, float(step.height) - middle_.y + 0.005f, at.z}, a + 1.5707963f, step.kind});
        }
    }

    /// How far a car comes from the front, at bonnet height, before its middle line meets a body.
    void planDrive() {
        driveFrom_ = 16;
        way_ = 2 * driveFrom_;
        for (std::size_t i = 0; i < city_.places.size(); ++i) {
            const Place& place = city_.places[i];
            const Object& object = city_.objects[place.object];
            if (!object.body) continue;
            const glm::mat4 pose = here(poseOf(place)), back = glm::inverse(pose);
            for (const float x : {-0.8f, -0.4f, 0.0f, 0.4f, 0.8f})
                for (const float y : {0.4f, 0.9f}) {
                    const glm::vec3 start(back * glm::vec4(x, y, driveFrom_, 1)),
                        way(back * glm::vec4(0, 0, -1, 0));
                    const auto met = world::firstMet(object.body->shape, start, way);
                    if (!met || met->distance - 1.9f >= way_) continue;
                    way_ = std::max(0.0f, met->distance - 1.9f);
                    stoppedOn_ = object.body->kinds[met->face];
                    const Kind* kind = kindNamed(stoppedOn_);
                    stoppedBy_ =
                        kind && !kind->throws.empty() ? std::string(kind->throws) + " fly" : "a bump";
                }
        }
    }
    std::size_t stepsTaken() const { return std::size_t(clock_ / pace) + 1; }
    float driven() const { return std::min(way_, float(clock_) * 9); }

    CityLoaded city_;
    std::vector<Spot> spots_;
    std::size_t spot_ = 0;
    Support support_;
    glm::vec3 middle_{0};
    std::map<std::size_t, std::vector<int>> made_;
    std::vector<world::Drawn> still_;
    std::size_t own_ = 0; ///< how many of them are what is looked at
    float top_ = 0, beside_ = 0;
    double seenFrom_ = 0;
    std::vector<Footstep> steps_;
    int car_ = -1, foot_ = -1;
    float driveFrom_ = 0, way_ = 0;
    std::string stoppedBy_, stoppedOn_, doing_;
    double clock_ = 0;
    std::size_t heard_ = 0; ///< how many steps, or the bump
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto city = loadCity(folder, report);
    return city && report.accepted ? std::make_unique<CityArena>(std::move(*city)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto city = loadCity(folder, report);
    if (!city || !report.accepted) return report;
    const Object& object = city->objects[city->newest];
    report.tests = world::sizesOf(object.mesh.low, object.mesh.high, figureMetres);
    report.tests["name"] = object.name;
    report.tests["number"] = object.number;
    auto& places = report.tests["placements"] = nlohmann::ordered_json::array();
    for (const Place& place : city->places) {
        if (place.object != city->newest) continue;
        const Support support = supportOf(*city, place);
        const auto& q = place.turn;
        places.push_back(
            {{"at", {world::round4(place.at.x), world::round4(place.at.y), world::round4(place.at.z)}},
             {"turn", world::round4(turnOf(q))},
             {"quaternion", {q.x, q.y, q.z, q.w}},
             {"district", place.district},
             {"standsOn", support.name},
             {"on", support.kind},
             {"gap", world::round4(support.gap)}});
    }
    auto& kinds = report.tests["surfaces"] = nlohmann::ordered_json::object();
    if (object.body)
        for (const std::string& kind : object.body->kinds) kinds[kind] = kinds.value(kind, 0) + 1;
    report.tests["city"] = {{"objects", city->objects.size()},
                            {"places", city->places.size()},
                            {"collisionFiles", city->contacts.size()}};
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::city
