// The track: a kart that goes round, seen from beside it or by its rider, with its six movements.
#include "standins/track/track_arena.h"

#include "standins/track/kart.h"
#include "standins/world/arena.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::track {

namespace {

constexpr double figureUnits = 14;
constexpr float radius = 90, speed = 70; ///< units, units a second
constexpr int manyKarts = 6;
constexpr float bySelfSeconds = 2.4f;

/// Pieces of a part that wear one material each.
struct Piece {
    std::size_t part, run;
};

class TrackArena : public world::Arena {
public:
    explicit TrackArena(Kart kart) : Arena("u", figureUnits), kart_(std::move(kart)) {
        for (std::size_t p = 0; p < kart_.parts.size(); ++p)
            for (std::size_t r = 0; r < kart_.parts[p].runs.size(); ++r) {
                pieces_.push_back({p, r});
                world::Item item{.name = kart_.parts[p].name};
                const Material& material = kart_.materials[std::size_t(kart_.parts[p].runs[r].material)];
                item.colour = material.colour, item.gloss = 0.1f;
                if (material.picture >= 0) item.picture = kart_.pictures[std::size_t(material.picture)];
                items_.push_back(std::move(item));
            }
        bend();
        for (std::size_t k = 0; k < pieces_.size(); ++k) items_[k].shape = bent_[k];
        for (const glm::vec3 colour : {glm::vec3(0.86f, 0.30f, 0.20f), glm::vec3(0.93f, 0.91f, 0.86f)}) {
            world::Item stone{.name = "kerb",
                              .shape = world::boxShape({-0.9f, 0, -3.2f}, {0.9f, 1.1f, 3.2f}),
                              .colour = colour};
            world::makeFlat(stone.shape);
            items_.push_back(std::move(stone));
        }
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (int k = 0; k < (many_ ? manyKarts : 1); ++k) {
            // Six start in pairs, one behind the other.
            const float aside = many_ ? (k % 2 ? 9.0f : -9.0f) : 0, behind = many_ ? float(k / 2) * 0.34f : 0;
            const glm::mat4 pose = stands(turned_ - behind, radius + aside);
            for (std::size_t i = 0; i < pieces_.size(); ++i) out.push_back({int(i), pose});
        }
        for (const float at : {radius - 26, radius + 26}) {
            const int count = int(glm::two_pi<float>() * at / 16);
            for (int i = 0; i < count; ++i)
                out.push_back({int(pieces_.size()) + i % 2,
                               stands(glm::two_pi<float>() * float(i) / float(count), at)});
        }
        return out;
    }
    const world::Shape* bent(int item) const override {
        return std::size_t(item) < bent_.size() ? &bent_[std::size_t(item)] : nullptr;
    }
    std::pair<glm::vec3, glm::vec3> frame() const override {
        const glm::vec3 at(stands(0, radius)[3]);
        return {at - glm::vec3(15, 0, 15), at + glm::vec3(15, 16, 15)};
    }
    glm::vec3 figureFoot() const override { return {-radius + 19, 0, 4}; }
    std::optional<world::Ride> ride() const override {
        if (!riding_) return std::nullopt;
        const glm::mat4 at = stands(turned_, radius);
        return world::Ride{glm::vec3(at * glm::vec4(0, 17, -15, 1)), glm::vec3(at * glm::vec4(0, 11, 20, 1))};
    }

    std::vector<world::Action> actions() const override {
        std::vector<world::Action> out;
        for (std::size_t k = 0; k < limits::slots.size(); ++k) {
            const std::string key = std::to_string(k + 1);
            const Clip& clip = kart_.clips[std::size_t(kart_.slots[k])];
            out.push_back({std::string("slot-") + limits::slots[k], limits::slots[k],
                           fmt::format("Plays \"{}\", {} s (key {})", clip.name,
                                       showMeasure(double(clip.seconds)), key),
                           key});
        }
        out.push_back({"drives", drives_ ? "Stop" : "Drive round", "Round the track (key D)", "D"});
        out.push_back(
            {"alone", alone_ ? "By hand" : "All by itself", "One movement after the other (key A)", "A"});
        return out;
    }
    void act(const std::string& id) override {
        for (std::size_t k = 0; k < limits::slots.size(); ++k)
            if (id == std::string("slot-") + limits::slots[k]) play(k), alone_ = false;
        if (id == "drives") drives_ = !drives_;
        if (id == "alone") alone_ = !alone_, since_ = 0;
    }
    std::vector<world::Choice> choices() const override {
        return {{"seen", "Seen", {"from beside the track", "by its rider"}, riding_ ? 1 : 0},
                {"karts", "Karts", {"one kart", "six karts"}, many_ ? 1 : 0}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "seen") riding_ = option == 1;
        if (id == "karts") many_ = option == 1;
    }
    bool advance(double seconds) override {
        since_ += float(seconds);
        if (alone_ && since_ > bySelfSeconds) play((playing_ + 1) % limits::slots.size());
        const float length = kart_.clips[std::size_t(kart_.slots[playing_])].seconds;
        moment_ += float(seconds);
        // What was asked for plays once; driving goes on round and round.
        if (moment_ > length) {
            if (playing_ != 0 && !alone_) playing_ = 0;
            moment_ = length > 0 ? std::fmod(moment_, length) : 0;
        }
        if (drives_) turned_ += float(seconds) * speed / radius;
        bend();
        return true;
    }
    std::vector<world::Table> tables() const override {
        world::Table bytes{"What takes the bytes", {}, {}}, online{"Online", {}, {}};
        auto chunks = kart_.chunks;
        std::ranges::stable_sort(chunks, std::ranges::greater{}, &ChunkSize::bytes);
        for (std::size_t k = 0; k < std::min<std::size_t>(chunks.size(), 7); ++k)
            bytes.rows.push_back({chunks[k].tag + (chunks[k].what.empty() ? "" : " " + chunks[k].what),
                                  {kib(chunks[k].bytes)}});
        bytes.rows.push_back({"the file, of 192\u202fKiB", {kib(kart_.bytes)}});
        const std::size_t all = manyKarts * kart_.bytes;
        online.rows = {{"six such karts", {kib(all)}, all > limits::onlineBytes},
                       {"may take", {kib(limits::onlineBytes)}},
                       {"plays", {limits::slots[playing_]}}};
        return {online, bytes};
    }
    std::vector<std::string> notes() const override {
        if (kart_.credit.empty()) return {};
        return {"Credit: " + kart_.credit};
    }

private:
    static std::string kib(std::size_t bytes) {
        return showNumber(std::round(double(bytes) / 102.4) / 10, 1) + "\u202fKiB";
    }
    /// On a round of that radius about the middle, driving to the left.
    static glm::mat4 stands(float turned, float at) {
        return glm::translate(glm::rotate(glm::mat4(1.0f), turned, glm::vec3(0, 1, 0)), glm::vec3(-at, 0, 0));
    }
    void play(std::size_t slot) { playing_ = slot, moment_ = 0, since_ = 0; }
    void bend() {
        bent_.clear();
        for (const Piece& piece : pieces_)
            bent_.push_back(posed(kart_, kart_.parts[piece.part], kart_.parts[piece.part].runs[piece.run],
                                  kart_.slots[playing_], moment_));
    }

    Kart kart_;
    std::vector<Piece> pieces_;
    std::vector<world::Shape> bent_;
    std::size_t playing_ = 0;
    float moment_ = 0, turned_ = 0, since_ = 0;
    bool drives_ = false, alone_ = false, riding_ = false, many_ = false;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto kart = loadKart(folder, report);
    return kart ? std::make_unique<TrackArena>(std::move(*kart)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto kart = loadKart(folder, report);
    if (!kart) return report;
    glm::vec3 low(1e30f), high(-1e30f);
    for (const Part& part : kart->parts)
        for (const Part::Run& run : part.runs) {
            const world::Shape shape = posed(*kart, part, run, -1, 0);
            low = glm::min(low, shape.low()), high = glm::max(high, shape.high());
        }
    report.tests = world::sizesOf(low, high, figureUnits);
    report.lengths = {"width", "height", "length", "gapToFloor"};
    report.tests["bytes"] = kart->bytes;
    report.tests["bytesOfSix"] = manyKarts * kart->bytes;
    report.tests["triangles"] = kart->triangles;
    auto slots = nlohmann::ordered_json::array();
    for (std::size_t k = 0; k < limits::slots.size(); ++k) {
        const Clip& clip = kart->clips[std::size_t(kart->slots[k])];
        float far = 0; // how far any corner goes from rest, to see that something moves
        for (const Part& part : kart->parts)
            for (const Part::Run& run : part.runs) {
                const world::Shape rest = posed(*kart, part, run, -1, 0);
                for (const float share : {0.25f, 0.5f, 0.75f}) {
                    const world::Shape now = posed(*kart, part, run, kart->slots[k], share * clip.seconds);
                    for (std::size_t v = 0; v < now.positions.size(); ++v)
                        far = std::max(far, glm::length(now.positions[v] - rest.positions[v]));
                }
            }
        slots.push_back({{"slot", limits::slots[k]},
                         {"clip", clip.name},
                         {"seconds", world::round4(double(clip.seconds))},
                         {"way", {clip.way.x, clip.way.y, clip.way.z}},
                         {"farthest", world::round4(double(far))}});
    }
    report.tests["slots"] = std::move(slots);
    auto chunks = nlohmann::ordered_json::array();
    for (const ChunkSize& chunk : kart->chunks)
        chunks.push_back({{"chunk", chunk.tag}, {"of", chunk.what}, {"bytes", chunk.bytes}});
    report.tests["chunks"] = std::move(chunks);
    return report;
}

} // namespace zl::standins::track
