#include "standins/mirror/mirror_arena.h"

#include "standins/mirror/figure.h"
#include "standins/world/arena.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::mirror {

namespace {

constexpr double figureMetres = 1.6;
constexpr float step = 1.0f / 60;
constexpr std::array vowels{"aa", "ih", "ou", "ee", "oh"};

/// How loud a made-up voice is at a moment: syllables of uneven length with pauses between, from 0 to 1.
float loudness(double seconds) {
    const double syllable = std::sin(seconds * 15.1) * 0.5 + std::sin(seconds * 9.3 + 1) * 0.35,
                 breath = std::sin(seconds * 1.7) + 0.35;
    return float(std::clamp(syllable + 0.35, 0.0, 1.0) * std::clamp(2 * breath, 0.0, 1.0));
}

/// Lids come down for an instant every few seconds, never quite regularly.
float lids(double seconds) {
    const double round = std::fmod(seconds + 0.4 * std::sin(seconds * 0.31), 3.4);
    return round < 0.16 ? float(std::sin(round / 0.16 * glm::pi<double>())) : 0;
}

/// Where the eyes look so that they meet a place, in degrees to the figure's left and up.
glm::vec2 lookTo(const Figure& figure, const std::vector<glm::mat4>& world, const glm::vec3& at) {
    const int head = figure.bone("head");
    if (head < 0 || !figure.look) return glm::vec2(0);
    const glm::vec3 way = at - glm::vec3(world[std::size_t(head)] * glm::vec4(figure.look->eyes, 1));
    if (glm::length(way) < 1e-6f) return glm::vec2(0);
    return {glm::degrees(std::atan2(way.x, way.z)),
            glm::degrees(std::atan2(way.y, std::hypot(way.x, way.z)))};
}

/// Turns eye bones towards where it looks.
void turnEyes(const Figure& figure, const std::vector<glm::mat4>& rest, Doing& doing) {
    if (!figure.look || !figure.look->byBones) return;
    for (const bool left : {true, false}) {
        const int eye = figure.bone(left ? "leftEye" : "rightEye");
        if (eye < 0) continue;
        const Look& look = *figure.look;
        const bool outward = (doing.look.x > 0) == left;
        const float yaw = std::copysign((outward ? look.outward : look.inward).given(std::abs(doing.look.x)),
                                        doing.look.x),
                    pitch = doing.look.y >= 0 ? look.up.given(doing.look.y) : -look.down.given(-doing.look.y);
        glm::mat3 axes(rest[std::size_t(eye)]);
        for (int k = 0; k < 3; ++k) axes[k] = glm::normalize(axes[k]);
        const glm::quat own = glm::normalize(glm::quat_cast(axes)),
                        turn = glm::angleAxis(glm::radians(yaw), glm::vec3(0, 1, 0)) *
                               glm::angleAxis(glm::radians(-pitch), glm::vec3(1, 0, 0));
        doing.turns[eye] = figure.nodes[std::size_t(eye)].turn * glm::inverse(own) * turn * own;
    }
}

class MirrorArena : public world::Arena {
public:
    explicit MirrorArena(Figure figure)
        : Arena("m", figureMetres), figure_(std::move(figure)), swing_(figure_) {
        rest_ = standing(figure_, {});
        for (const Part& part : figure_.parts) {
            world::Item item{.name = figure_.nodes[std::size_t(part.node)].name};
            if (part.material >= 0) {
                const Material& material = figure_.materials[std::size_t(part.material)];
                item.colour = material.colour, item.picture = material.picture;
            }
            item.gloss = 0.08f;
            items_.push_back(std::move(item));
        }
        bend();
        for (std::size_t k = 0; k < items_.size(); ++k) items_[k].shape = bent_[k];
        pointer_ = eyesAt() + glm::vec3(0, 0, 2);
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (std::size_t k = 0; k < items_.size(); ++k) out.push_back({int(k), glm::mat4(1)});
        return out;
    }
    const world::Shape* bent(int item) const override {
        return std::size_t(item) < bent_.size() ? &bent_[std::size_t(item)] : nullptr;
    }
    double seenFrom() const override { return 0.15; }

    std::vector<world::Action> actions() const override {
        return {{"blinks", blinks_ ? "Stop blinking" : "Blink", "Lids by themselves (key B)", "B"},
                {"talks", talks_ ? "Be silent" : "Talk", "To a made-up voice (key T)", "T"},
                {"sways", sways_ ? "Stand still" : "Sway",
                 "From side to side, so that what hangs swings (key S)", "S"},
                {"rest", "Plain face", "All faces back to nothing (key N)", "N"}};
    }
    void act(const std::string& id) override {
        if (id == "blinks") blinks_ = !blinks_;
        if (id == "talks") talks_ = !talks_;
        if (id == "sways") sways_ = !sways_;
        if (id == "rest") made_.clear();
    }
    std::vector<world::Choice> choices() const override {
        return {{"seen", "Seen", {"whole", "face close by"}, close_ ? 1 : 0}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "seen") close_ = option == 1;
    }
    std::optional<world::Ride> ride() const override {
        if (!close_) return std::nullopt;
        const glm::vec3 eyes = eyesAt();
        return world::Ride{eyes + glm::vec3(0.12f, 0.02f, 0.75f), eyes - glm::vec3(0, 0.02f, 0)};
    }
    std::vector<world::Slider> sliders() const override {
        std::vector<world::Slider> out;
        for (const Face& face : figure_.faces) {
            const auto found = made_.find(face.name);
            out.push_back({face.name, face.name, found == made_.end() ? 0.0 : double(found->second)});
        }
        return out;
    }
    void slide(const std::string& id, double value) override {
        made_[id] = float(std::clamp(value, 0.0, 1.0));
    }
    /// It looks where the pointer's ray crosses a pane half a metre before its eyes.
    void pointAt(const glm::vec3& from, const glm::vec3& direction) override {
        const glm::vec3 eyes = eyesAt();
        const float before = eyes.z + 0.5f;
        if (std::abs(direction.z) < 1e-4f || (before - from.z) / direction.z <= 0) return;
        pointer_ = from + direction * ((before - from.z) / direction.z);
    }
    bool advance(double seconds) override {
        seconds_ += seconds, left_ += float(std::min(seconds, 0.25));
        for (; left_ >= step; left_ -= step) tick();
        bend();
        return true;
    }
    std::vector<world::Table> tables() const override {
        world::Table who{"In its file", {}, {}}, faces{"Faces", {}, {}};
        who.rows = {{"called", {figure_.name}},
                    {"made by", {figure_.authors.empty() ? "nobody" : figure_.authors.front()}},
                    {"bones with a role", {showNumber(double(figure_.bones.size()), 0)}},
                    {"chains' bones that swing", {showNumber(double(figure_.swinging.size()), 0)}},
                    {"looks aside", {fmt::format("{}°", showNumber(double(doing_.look.x), 0))}},
                    {"looks up", {fmt::format("{}°", showNumber(double(doing_.look.y), 0))}}};
        for (const auto& [name, much] : seen_)
            if (much > 0.005f)
                faces.rows.push_back({name, {fmt::format("{}%", showNumber(double(100 * much), 0))}});
        if (faces.rows.empty()) faces.rows.push_back({"none", {"plain"}});
        return {who, faces};
    }
    std::vector<std::string> notes() const override {
        return {figure_.wearer == "everyone"                       ? "Everyone may wear it."
                : figure_.wearer == "onlySeparatelyLicensedPerson" ? "Whoever was given leave may wear it."
                                                                   : "Its author alone may wear it."};
    }

private:
    glm::vec3 eyesAt() const {
        const int head = figure_.bone("head");
        return glm::vec3(rest_[std::size_t(std::max(head, 0))] *
                         glm::vec4(figure_.look ? figure_.look->eyes : glm::vec3(0), 1));
    }
    void tick() {
        const double now = seconds_ - double(left_);
        doing_.faces = made_;
        if (blinks_) doing_.faces["blink"] = std::max(doing_.faces["blink"], lids(now));
        if (talks_) {
            const float loud = loudness(now);
            const auto which = std::size_t(now * 5.3) % vowels.size();
            const bool known =
                std::ranges::find(figure_.faces, vowels[which], &Face::name) != figure_.faces.end();
            doing_.faces[known ? vowels[which] : "aa"] = loud;
        }
        const float sway = sways_ ? 0.22f * float(std::sin(now * 4.2)) : 0;
        const int spine = figure_.bone("spine"), head = figure_.bone("head");
        for (const auto& [bone, turn] : {std::pair{spine, glm::angleAxis(sway, glm::vec3(0, 0, 1))},
                                         std::pair{head, glm::angleAxis(-0.6f * sway, glm::vec3(0, 0, 1))}})
            if (bone >= 0) doing_.turns[bone] = figure_.nodes[std::size_t(bone)].turn * turn;
        const glm::vec2 wanted = lookTo(figure_, rest_, pointer_);
        doing_.look += (wanted - doing_.look) * std::min(1.0f, 12 * step);
        turnEyes(figure_, rest_, doing_);
        if (swing_.any()) swing_.step(figure_, doing_, step);
    }
    void bend() {
        seen_ = seenFaces(figure_, doing_);
        const auto world = standing(figure_, doing_);
        bent_.clear();
        for (const Part& part : figure_.parts) bent_.push_back(posed(figure_, part, seen_, world));
    }

    Figure figure_;
    Swing swing_;
    Doing doing_;
    std::map<std::string, float> made_, seen_;
    std::vector<glm::mat4> rest_;
    std::vector<world::Shape> bent_;
    glm::vec3 pointer_{0};
    double seconds_ = 1;
    float left_ = 0;
    bool blinks_ = true, talks_ = false, sways_ = false, close_ = false;
};

/// How far any corner goes from rest, in metres.
float farthest(const Figure& figure, const Doing& doing) {
    const auto rest = standing(figure, {}), now = standing(figure, doing);
    const auto seen = seenFaces(figure, doing);
    float far = 0;
    for (const Part& part : figure.parts) {
        const auto a = posed(figure, part, {}, rest), b = posed(figure, part, seen, now);
        for (std::size_t v = 0; v < a.positions.size(); ++v)
            far = std::max(far, glm::length(a.positions[v] - b.positions[v]));
    }
    return far;
}

/// How far the tip of anything that swings goes while the figure sways for four seconds.
float swung(const Figure& figure) {
    Swing swing(figure);
    if (!swing.any()) return 0;
    Doing doing;
    const int spine = figure.bone("spine");
    float far = 0;
    for (int k = 0; k < 240; ++k) {
        Doing stiff;
        const glm::quat turn = glm::angleAxis(0.3f * std::sin(float(k) * step * 4.2f), glm::vec3(0, 0, 1));
        if (spine >= 0)
            doing.turns[spine] = stiff.turns[spine] = figure.nodes[std::size_t(spine)].turn * turn;
        swing.step(figure, doing, step);
        const auto loose = standing(figure, doing), held = standing(figure, stiff);
        for (const Swinging& bone : figure.swinging)
            far = std::max(far, glm::length(glm::vec3(loose[std::size_t(bone.next)][3] -
                                                      held[std::size_t(bone.next)][3])));
    }
    return far;
}

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto figure = loadFigure(folder, report);
    return figure ? std::make_unique<MirrorArena>(std::move(*figure)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto figure = loadFigure(folder, report);
    if (!figure) return report;
    const auto rest = standing(*figure, {});
    glm::vec3 low(1e30f), high(-1e30f);
    for (const Part& part : figure->parts) {
        const world::Shape shape = posed(*figure, part, {}, rest);
        if (shape.positions.empty()) continue;
        low = glm::min(low, shape.low()), high = glm::max(high, shape.high());
    }
    report.tests = world::sizesOf(low, high, figureMetres);
    report.lengths = {"width", "height", "length", "gapToFloor"};
    report.tests["bytes"] = figure->bytes;
    report.tests["triangles"] = figure->triangles;
    report.tests["materials"] = figure->materials.size();
    report.tests["bones"] = figure->bones.size();
    auto faces = nlohmann::ordered_json::array();
    for (const Face& face : figure->faces) {
        Doing doing;
        doing.faces[face.name] = 1;
        faces.push_back({{"face", face.name}, {"farthest", world::round4(double(farthest(*figure, doing)))}});
    }
    report.tests["faces"] = std::move(faces);
    Doing aside;
    aside.look = {60, 20};
    turnEyes(*figure, rest, aside);
    report.tests["eyesMove"] = world::round4(double(farthest(*figure, aside)));
    report.tests["swings"] = world::round4(double(swung(*figure)));
    return report;
}

} // namespace zl::standins::mirror
