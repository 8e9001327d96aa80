// The island: a scan once or many times over, with what it takes of memory and time as it is really held and
// drawn.
#include "standins/island/island_arena.h"

#include "standins/island/herd.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::standins::island {

namespace {

constexpr double figureUnits = 182;
constexpr int mostCopies = 50;

std::string reckonedText(double bytes) {
    return bytes < 0 ? "not said" : showBytes(bytes);
}

class IslandArena : public world::Arena {
public:
    explicit IslandArena(Piece piece)
        : Arena("cm", figureUnits), piece_(std::move(piece)), herd_(piece_, items_) {
        hold();
    }

    std::vector<world::Drawn> drawn() const override { return herd_.drawn(); }
    std::vector<world::Choice> choices() const override {
        std::vector<std::string> copies, levels;
        for (int k = 1; k <= mostCopies; ++k)
            copies.push_back(k == 1 ? "1 copy" : fmt::format("{} copies", k));
        for (std::size_t k = 0; k < qualities.size(); ++k)
            levels.push_back(fmt::format("{}, {} px{}", qualities[k].name, qualities[k].edge,
                                         int(k) == usualQuality ? " (usual)" : ""));
        return {{"copies", "Copies", copies, copies_ - 1},
                {"sharing",
                 "How they are held",
                 {"one piece, shown again", "pieces of their own"},
                 shared_ ? 0 : 1},
                {"quality", "Picture quality", levels, quality_}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "copies") copies_ = std::clamp(option + 1, 1, mostCopies);
        if (id == "sharing") shared_ = option == 0;
        if (id == "quality") quality_ = std::clamp(option, 0, int(qualities.size()) - 1);
        hold();
    }
    bool isTimed() const override { return true; }
    void drew(double milliseconds) override {
        drewIn_ = drewIn_ < 0 ? milliseconds : 0.8 * drewIn_ + 0.2 * milliseconds;
    }
    std::vector<world::Table> tables() const override {
        world::Table memory{"Memory", {"held", "reckoned"}, {}}, frame{"One frame", {"here", "reckoned"}, {}};
        const Reckoned& said = piece_.reckoned;
        const double pictures = said.pictures[std::size_t(quality_)];
        const double one = said.mesh < 0 || pictures < 0 ? -1 : said.mesh + pictures;
        memory.rows = {
            {"mesh", {showBytes(herd_.meshBytes()), reckonedText(said.mesh)}},
            {"pictures", {showBytes(herd_.pictureBytes()), reckonedText(pictures)}},
            {showCount(herd_.held(), "copy", "copies"),
             {showBytes(herd_.bytes()), reckonedText(one < 0   ? -1
                                                     : shared_ ? one + (herd_.held() - 1) * copyBytes
                                                               : one * herd_.held())}}};
        memory.rows.push_back({"of the island's", {showBytes(mostMemory), ""}});
        if (herd_.held() < copies_)
            memory.rows.push_back(
                {fmt::format("{} more do not fit", copies_ - herd_.held()), {"", "full"}, true});
        const double drawn = double(piece_.triangles) * herd_.held();
        frame.rows = {{"triangles", {showNumber(drawn, 0), ""}},
                      {"time",
                       {drewIn_ < 0 ? "not yet" : showNumber(drewIn_, 1) + "\u202fms",
                        said.frame < 0 ? "not said" : showNumber(said.frame * herd_.held(), 1) + "\u202fms"},
                       said.frame * herd_.held() > mostFrame},
                      {"may take", {"", showNumber(mostFrame, 0) + "\u202fms"}}};
        world::Table upload{"Upload", {"size", "reckoned"}, {}};
        upload.rows = {{"piece", {showBytes(double(piece_.uploadBytes)), reckonedText(said.upload)}}};
        return {memory, frame, upload};
    }
    std::vector<std::string> notes() const override {
        std::vector<std::string> out;
        if (!piece_.note.empty()) out.push_back(piece_.note);
        out.push_back("The time here is this computer's; what was reckoned is the island builder's.");
        if (!piece_.credit.empty()) out.push_back("Credit: " + piece_.credit);
        return out;
    }

private:
    void hold() {
        herd_.hold(copies_, shared_, quality_);
        drewIn_ = -1;
        itemsChanged();
    }

    Piece piece_;
    Herd herd_;
    int copies_ = 1, quality_ = usualQuality;
    bool shared_ = true;
    double drewIn_ = -1;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto piece = loadPiece(folder, report);
    return piece ? std::make_unique<IslandArena>(std::move(*piece)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto piece = loadPiece(folder, report);
    if (!piece) return report;
    report.tests = world::sizesOf(piece->low, piece->high, figureUnits);
    report.lengths = {"width", "height", "length", "gapToFloor"};
    report.tests["triangles"] = piece->triangles;
    report.tests["uploadBytes"] = piece->uploadBytes;
    report.tests["uploadReckoned"] = piece->reckoned.upload;
    auto levels = nlohmann::ordered_json::array();
    for (int quality = 0; quality < int(qualities.size()); ++quality) {
        std::vector<world::Item> items;
        Herd herd(*piece, items);
        herd.hold(1, true, quality);
        nlohmann::ordered_json level{{"name", qualities[std::size_t(quality)].name},
                                     {"edge", qualities[std::size_t(quality)].edge},
                                     {"usual", quality == usualQuality},
                                     {"memory", herd.bytes()}};
        const double pictures = piece->reckoned.pictures[std::size_t(quality)];
        level["reckoned"] = pictures < 0 || piece->reckoned.mesh < 0 ? -1 : pictures + piece->reckoned.mesh;
        herd.hold(mostCopies, true, quality);
        level["memoryOf50"] = herd.bytes();
        level["fitAsOnePiece"] = herd.held();
        level["fitAsPiecesOfTheirOwn"] =
            herd.meshBytes() + herd.pictureBytes() > 0
                ? int(std::min(1e6, mostMemory / (herd.meshBytes() + herd.pictureBytes())))
                : 0;
        levels.push_back(std::move(level));
    }
    report.tests["qualities"] = std::move(levels);
    return report;
}

} // namespace zl::standins::island
