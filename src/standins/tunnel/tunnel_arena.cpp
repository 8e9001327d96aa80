#include "standins/tunnel/tunnel_arena.h"

#include "standins/tunnel/compiler.h"
#include "standins/world/colour_blocks.h"
#include "standins/world/files.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <fstream>
#include <map>

namespace zl::standins::tunnel {

namespace {

using Kind = Message::Kind;

constexpr double figureUnits = 88;
constexpr double pace = 0.4;                                                 ///< seconds a step
constexpr float crate = 50, ballRadius = 7, stairRise = 16, stairTread = 28; ///< engine units

/// Compiles and says what the compiler said; nothing when it stopped.
std::optional<Prop> load(const std::filesystem::path& folder, TryReport& report) {
    world::Files files(folder, report);
    if (files.refused()) return std::nullopt;
    Compiled compiled = compile(folder);
    for (const Complaint& one : compiled.complaints)
        report.messages.push_back({one.isError ? Kind::Refused : Kind::Odd,
                                   one.line > 0 ? fmt::format("{}:{}", one.file, one.line) : one.file,
                                   fmt::format("{}: {}", one.isError ? "error" : "warning", one.text),
                                   one.isError ? "the compiler stopped" : "the level starts all the same"});
    report.accepted = compiled.isFine();
    if (!report.accepted) return std::nullopt;
    std::size_t triangles = 0;
    for (const Prop::Part& part : compiled.prop.parts) triangles += part.shape.indices.size() / 3;
    report.messages.push_back({Kind::Fine, compiled.prop.name + ".prop.txt",
                               fmt::format("compiled: {} faces, {}", showNumber(double(triangles), 0),
                                           showCount(long(compiled.prop.pieces.size()), "piece", "pieces")),
                               "0 errors"});
    return std::move(compiled.prop);
}

std::pair<glm::vec3, glm::vec3> boundsOf(const Prop& prop) {
    glm::vec3 low(1e30f), high(-1e30f);
    for (const Prop::Part& part : prop.parts)
        for (const glm::vec3& p : part.shape.positions) low = glm::min(low, p), high = glm::max(high, p);
    return {low, high};
}

glm::mat4 poseOf(const Prop::Placed& placed) {
    return glm::rotate(glm::translate(glm::mat4(1.0f), placed.at), placed.turn, {0, 1, 0});
}

/// Where balls thrown level at a raster over the prop go: those aimed at what is seen, and what they hit.
struct Thrown {
    std::size_t aimed = 0, hit = 0, early = 0; ///< early: stopped by the body well before what is seen
    std::map<std::string, std::size_t> kinds;
};
Thrown throwAll(const Prop& prop, int across) {
    Thrown out;
    const auto [low, high] = boundsOf(prop);
    const glm::vec3 size = high - low;
    const float near = std::max(0.02f * glm::length(size), 2.0f);
    for (int side = 0; side < 4; ++side) {
        const float angle = float(side) * 1.5707963f;
        const glm::vec3 way(std::sin(angle), 0, std::cos(angle)), right(way.z, 0, -way.x);
        for (int i = 0; i < across; ++i)
            for (int j = 0; j < across; ++j) {
                const float u = ((float(i) + 0.5f) / float(across) - 0.5f) * std::abs(glm::dot(right, size)),
                            v = ((float(j) + 0.5f) / float(across) - 0.5f) * size.y;
                const glm::vec3 from =
                    (low + high) / 2.0f + u * right + glm::vec3(0, v, 0) - (glm::length(size) + 1) * way;
                float seen = 1e30f, stopped = 1e30f;
                std::string kind;
                for (const Prop::Part& part : prop.parts)
                    if (const auto met = world::firstMet(part.shape, from, way))
                        seen = std::min(seen, met->distance);
                for (const Prop::Piece& piece : prop.pieces)
                    if (const auto met = world::firstMet(piece.shape, from, way);
                        met && met->distance < stopped)
                        stopped = met->distance, kind = piece.surface;
                if (stopped < 1e29f && stopped < seen - near) ++out.early;
                if (seen > 1e29f) continue;
                ++out.aimed;
                if (stopped < 1e29f) ++out.hit, ++out.kinds[kind];
            }
    }
    return out;
}

class TunnelArena : public world::Arena {
public:
    TunnelArena(Prop prop, const std::filesystem::path& folder)
        : Arena("u", figureUnits), prop_(std::move(prop)) {
        std::tie(low_, high_) = boundsOf(prop_);
        for (const Prop::Part& part : prop_.parts) {
            if (part.shape.indices.empty()) continue;
            world::Item item{prop_.name, part.shape, {}, part.colour, 0.15f};
            if (!part.picture.empty()) {
                std::ifstream in(folder / part.picture, std::ios::binary);
                item.picture =
                    world::readDdsFile(std::string((std::istreambuf_iterator<char>(in)), {}), 1 << 14)
                        .picture;
            }
            parts_.push_back(int(items_.size()));
            items_.push_back(std::move(item));
        }
        for (const Prop::Placed& placed : prop_.places)
            for (const int part : parts_) still_.push_back({part, poseOf(placed)});
        own_ = still_.size();
        addMap();
        ball_ = int(items_.size());
        items_.push_back({"ball", ballShape(), {}, {0.86f, 0.5f, 0.16f}, 0.4f});
        step_ = int(items_.size());
        world::Item foot{"step", world::boxShape({-3, 0, -7}, {3, 0.6f, 7}), {}, {0.2f, 0.25f, 0.32f}, 0};
        world::makeFlat(foot.shape);
        items_.push_back(std::move(foot));
        ballOf_ = physics().addShape(ballShape(), {0, 0, 0});
        physics().keepWithin(glm::vec2(reach() + 600), false);
        for (const Prop::Placed& placed : prop_.places)
            for (const Prop::Piece& piece : prop_.pieces) physics().addFixed(piece.shape, poseOf(placed));
        planWalk();
    }

    bool hasGround() const override { return true; }
    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out = still_;
        for (std::size_t b = 0; b < physics().count(); ++b)
            out.push_back({ball_, physics().pose(int(b)).matrix});
        if (doing_ == "walk")
            for (std::size_t i = 0; i < std::min(steps_.size(), stepsTaken()); ++i)
                out.push_back({step_, glm::translate(glm::mat4(1.0f), steps_[i].at)});
        return out;
    }
    std::vector<world::Drawn> expected() const override {
        return {still_.begin(), still_.begin() + std::ptrdiff_t(own_ + crates_)};
    }
    bool advance(double seconds) override {
        Arena::advance(seconds);
        clock_ += seconds;
        for (; doing_ == "walk" && heard_ < std::min(steps_.size(), stepsTaken()); ++heard_)
            if (const Surface* surface = surfaceNamed(steps_[heard_].surface)) hear(std::string(surface->sound));
        return (doing_ == "walk" && clock_ < double(steps_.size()) * pace) ||
               (doing_ == "balls" && clock_ < 2.5);
    }
    std::vector<world::Action> actions() const override {
        return {{"balls", "Throw balls",
                 "Five, from the front: they bounce off its body, and fly through what has none"},
                {"walk", "Walk past the crates", "Each surface sounds otherwise; the words say how"},
                {"body", showsBody_ ? "Hide its body" : "Show its body",
                 "The pieces that the engine knows it by"},
                {"rest", "Clear away", "Balls and steps"}};
    }
    void act(const std::string& id) override {
        if (id == "body") {
            showsBody_ = !showsBody_;
            return;
        }
        doing_ = id, clock_ = 0, heard_ = 0;
        physics().clear();
        if (id != "balls") return;
        const glm::vec3 from(0, 0, high_.z + 320);
        for (int i = 0; i < 5; ++i) {
            const float x = (float(i) / 4 - 0.5f) * 0.8f * (high_.x - low_.x),
                        y = std::max(ballRadius + 1,
                                     low_.y + (0.25f + 0.15f * float(i % 3)) * (high_.y - low_.y));
            const int body = physics().add(ballOf_, from + glm::vec3(x, y, float(i) * 25));
            physics().launch(body, {0, 60, -520});
        }
    }
    bool isHeard() const override { return true; }
    bool showsColliders() const override { return showsBody_; }
    std::vector<world::Mark> marks() const override {
        std::vector<world::Mark> out;
        if (doing_ != "walk") {
            for (const auto& [at, surface] : walked_) out.push_back({at, at, surface});
            return out;
        }
        std::string said;
        const std::size_t last = std::min(steps_.size(), stepsTaken());
        for (std::size_t i = 0; i < last; ++i) {
            if (steps_[i].surface == said) continue;
            said = steps_[i].surface;
            const Surface* surface = surfaceNamed(said);
            const glm::vec3 at = steps_[i].at + glm::vec3(0, 22, 0);
            out.push_back({at, at, fmt::format("{}: {}", said, surface ? surface->sound : "nothing")});
        }
        return out;
    }
    std::vector<world::Table> tables() const override {
        world::Table body{"Its body", {"surface", "corners"}, {}};
        for (std::size_t p = 0; p < prop_.pieces.size(); ++p)
            body.rows.push_back(
                {fmt::format("piece {}", p + 1),
                 {prop_.pieces[p].surface, std::to_string(prop_.pieces[p].shape.positions.size())}});
        if (body.rows.empty()) body.rows.push_back({"none", {"", ""}, true});
        const Thrown thrown = throwAll(prop_, 24);
        const auto share = [](std::size_t part, std::size_t of) {
            return of == 0 ? std::string("none") : showNumber(100 * double(part) / double(of), 1) + " %";
        };
        world::Table balls{
            "Thrown at it",
            {},
            {{"hit what is seen", {share(thrown.hit, thrown.aimed)}},
             {"fly through", {share(thrown.aimed - thrown.hit, thrown.aimed)}, thrown.hit < thrown.aimed},
             {"stop before it", {share(thrown.early, std::size_t(4) * 24 * 24)}}}};
        return {balls, body};
    }
    std::vector<std::string> notes() const override {
        return prop_.credit.empty() ? std::vector<std::string>{}
                                    : std::vector<std::string>{"Credit: " + prop_.credit};
    }
    glm::vec3 figureFoot() const override { return {high_.x + 50, 0, 0}; }

private:
    struct Footstep {
        glm::vec3 at{0};
        std::string surface;
    };
    std::size_t stepsTaken() const { return std::size_t(clock_ / pace) + 1; }
    float reach() const { return std::max({std::abs(low_.x), high_.x, std::abs(low_.z), high_.z}); }

    static world::Shape ballShape() {
        world::Shape out;
        constexpr int around = 16, up = 10;
        for (int j = 0; j <= up; ++j)
            for (int i = 0; i < around; ++i) {
                const float a = 6.2831853f * float(i) / around, b = 3.1415927f * float(j) / up;
                const glm::vec3 n(std::sin(b) * std::sin(a), std::cos(b), std::sin(b) * std::cos(a));
                out.positions.push_back(ballRadius * n), out.normals.push_back(n), out.uvs.emplace_back(0, 0);
            }
        for (std::uint32_t j = 0; j < up; ++j)
            for (std::uint32_t i = 0; i < around; ++i) {
                const std::uint32_t a = j * around + i, b = j * around + (i + 1) % around, c = a + around,
                                    d = b + around;
                out.indices.insert(out.indices.end(), {a, c, b, b, c, d});
            }
        return out;
    }

    void addBox(const char* name, const glm::vec3& low, const glm::vec3& high, const glm::vec3& colour) {
        world::Item item{name, world::boxShape(low, high), {}, colour, 0.05f};
        world::makeFlat(item.shape);
        still_.push_back({int(items_.size())});
        items_.push_back(std::move(item));
    }

    /// A floor, a crate of every surface in a row to its right, and stairs behind.
    void addMap() {
        const float right = high_.x + 110;
        float z = 2.5f * (crate + 16);
        for (const std::string_view name : surfaceNames()) {
            const Surface& surface = *surfaceNamed(name);
            addBox("crate", {right, 0, z - crate}, {right + crate, crate, z}, surface.colour);
            physics().addFixed(world::boxShape({right, 0, z - crate}, {right + crate, crate, z}),
                               glm::mat4(1.0f));
            crates_ += 1;
            walked_.emplace_back(glm::vec3(right + crate / 2, crate, z - crate / 2), name);
            z -= crate + 16;
        }
        const float far = reach() + 400;
        addBox("floor", {-far, -4, -far}, {far, -0.3f, far}, {0.52f, 0.52f, 0.50f});
        for (int i = 0; i < 6; ++i) {
            const glm::vec3 low(low_.x - 140, 0, -float(i) * stairTread - stairTread),
                high(low_.x - 60, stairRise * float(i + 1), -float(i) * stairTread);
            addBox("stair", low, high, {0.60f, 0.58f, 0.54f});
            physics().addFixed(world::boxShape(low, high), glm::mat4(1.0f));
        }
    }

    /// Over the floor, then up and along the crates.
    void planWalk() {
        for (int i = 0; i < 4; ++i)
            steps_.push_back({glm::vec3(high_.x + 90, 0, walked_[0].first.z + 90 - float(i) * 26), "stone"});
        for (const auto& [at, surface] : walked_)
            for (const float along : {14.0f, -14.0f})
                steps_.push_back({at + glm::vec3(0, 0.3f, along), surface});
    }

    Prop prop_;
    glm::vec3 low_{0}, high_{0};
    std::vector<int> parts_;
    std::vector<world::Drawn> still_;
    std::size_t own_ = 0, crates_ = 0;
    std::vector<std::pair<glm::vec3, std::string>> walked_;
    std::vector<Footstep> steps_;
    int ball_ = -1, step_ = -1, ballOf_ = -1;
    bool showsBody_ = false;
    std::string doing_;
    double clock_ = 0;
    std::size_t heard_ = 0; ///< how many steps
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto prop = load(folder, report);
    return prop ? std::make_unique<TunnelArena>(std::move(*prop), folder) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto prop = load(folder, report);
    if (!prop) return report;
    const auto [low, high] = boundsOf(*prop);
    report.tests = world::sizesOf(low, high, figureUnits);
    report.tests["pieces"] = prop->pieces.size();
    std::size_t corners = 0;
    auto kinds = nlohmann::ordered_json::object();
    for (const Prop::Piece& piece : prop->pieces) {
        corners = std::max(corners, piece.shape.positions.size());
        kinds[piece.surface] = kinds.value(piece.surface, 0) + 1;
    }
    report.tests["corners"] = corners;
    report.tests["surfaces"] = kinds;
    const Thrown thrown = throwAll(*prop, 32);
    report.tests["balls"] = {{"aimed", thrown.aimed}, {"hit", thrown.hit}, {"early", thrown.early}};
    auto& places = report.tests["places"] = nlohmann::ordered_json::array();
    for (const Prop::Placed& placed : prop->places)
        places.push_back(
            {{"at", {world::round4(placed.at.x), world::round4(placed.at.y), world::round4(placed.at.z)}},
             {"turn", world::round4(glm::degrees(double(placed.turn)))}});
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::tunnel
