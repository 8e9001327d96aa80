// The display shed: a thing turns beside a grown figure under one of four lights, and what its pictures hold
// is told.
#include "standins/shed/shed_arena.h"

#include "standins/shed/asset.h"
#include "standins/shed/shed_shading.h"
#include "standins/world/arena.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>

namespace zl::standins::shed {

namespace {

constexpr double figureMetres = 1.75;
constexpr float turnsEachSecond = 0.1f;

/// Least and most of one channel, in words.
std::string rangeOf(const std::optional<world::Picture>& picture, std::size_t channel) {
    if (!picture || picture->rgba.empty()) return "none";
    unsigned char least = 255, most = 0;
    for (std::size_t p = channel; p < picture->rgba.size(); p += 4)
        least = std::min(least, picture->rgba[p]), most = std::max(most, picture->rgba[p]);
    const auto share = [](unsigned char byte) { return showNumber(std::round(byte / 2.55) / 100); };
    return least == most ? share(least) : fmt::format("{}–{}", share(least), share(most));
}

class ShedArena : public world::Arena {
public:
    explicit ShedArena(Asset asset) : Arena("m", figureMetres), asset_(std::move(asset)), shading_(asset_) {
        items_ = asset_.items;
    }

    const world::Shading* shading() const override { return &shading_; }
    std::vector<world::Choice> choices() const override {
        return {{"light", "Light", {"sun", "cloud", "lamp", "all sides"}, int(shading_.light)},
                {"look",
                 "What is shown",
                 {"as lit", "without parallax", "where relief lies"},
                 int(shading_.view)}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "light") shading_.light = ShedShading::Light(std::clamp(option, 0, 3));
        if (id == "look") shading_.view = ShedShading::View(std::clamp(option, 0, 2));
    }

    std::vector<world::Drawn> drawn() const override {
        const glm::vec3 middle((asset_.low.x + asset_.high.x) / 2, 0, (asset_.low.z + asset_.high.z) / 2);
        glm::mat4 pose = glm::translate(glm::mat4(1.0f), middle);
        pose = glm::rotate(pose, turned_ * glm::two_pi<float>(), glm::vec3(0, 1, 0));
        pose = glm::translate(pose, -middle);
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < items_.size(); ++i) out.push_back({int(i), pose});
        return out;
    }
    std::vector<world::Action> actions() const override {
        return {{"turn", turns_ ? "Stop" : "Turn it round", "Once in ten seconds"},
                {"back", "Front ahead", ""}};
    }
    void act(const std::string& id) override {
        turns_ = id == "turn" && !turns_;
        if (id == "back") turned_ = 0;
    }
    bool advance(double seconds) override {
        Arena::advance(seconds);
        if (turns_) turned_ += float(seconds) * turnsEachSecond;
        return turns_;
    }
    std::vector<world::Mark> marks() const override {
        if (turned_ != 0) return {};
        const glm::vec3 nose(0, 0.02f, asset_.high.z);
        return {{nose, nose + glm::vec3(0, 0, 0.7f), "front", true}};
    }
    std::vector<world::Table> tables() const override {
        std::vector<world::Table> out;
        for (const AssetMaterial& material : asset_.materials) {
            world::Table table{material.name, {}, {}};
            const auto size = [](const std::optional<world::Picture>& p) {
                return p ? fmt::format("{} × {}", p->width, p->height) : std::string("none");
            };
            table.rows = {{"base", {size(material.pictures[0])}},
                          {"relief", {size(material.pictures[1])}},
                          {"height", {rangeOf(material.pictures[1], 3)}},
                          {"roughness", {rangeOf(material.pictures[2], 0)}},
                          {"occlusion", {rangeOf(material.pictures[2], 1)}},
                          {"glow", {rangeOf(material.pictures[2], 2)}},
                          {"metal", {rangeOf(material.pictures[2], 3)}}};
            out.push_back(std::move(table));
        }
        return out;
    }
    std::vector<std::string> notes() const override {
        return asset_.credit.empty() ? std::vector<std::string>{} : std::vector{"Credit: " + asset_.credit};
    }

private:
    Asset asset_;
    ShedShading shading_;
    bool turns_ = false;
    float turned_ = 0; ///< rounds
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto asset = loadAsset(folder, report);
    return asset ? std::make_unique<ShedArena>(std::move(*asset)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto asset = loadAsset(folder, report);
    if (!asset) return report;
    report.tests = world::sizesOf(asset->low, asset->high, figureMetres);
    report.tests["triangles"] = asset->triangles;
    auto materials = nlohmann::ordered_json::array();
    for (const AssetMaterial& material : asset->materials)
        materials.push_back({{"name", material.name},
                             {"height", rangeOf(material.pictures[1], 3)},
                             {"roughness", rangeOf(material.pictures[2], 0)},
                             {"occlusion", rangeOf(material.pictures[2], 1)},
                             {"glow", rangeOf(material.pictures[2], 2)},
                             {"metal", rangeOf(material.pictures[2], 3)}});
    report.tests["materials"] = std::move(materials);
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::shed
