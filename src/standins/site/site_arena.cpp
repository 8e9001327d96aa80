#include "standins/site/site_arena.h"

#include "standins/site/pack.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::standins::site {

namespace {

using Kind = Message::Kind;

constexpr double figureUnits = 6;
constexpr double uploadSeconds = 0.35,
                 checkSeconds = 0.9; ///< an object; uploads one by one, checks side by side

/// What the check said, as messages; true when every object passed.
bool sayVerdicts(const Pack& pack, TryReport& report) {
    std::size_t passed = 0;
    for (const PackObject& object : pack.objects) {
        if (!object.refusal.empty())
            report.messages.push_back({Kind::Refused, object.file,
                                       fmt::format("\"{}\" is refused", object.item.name), object.refusal});
        else if (object.pictureMissing)
            report.messages.push_back(
                {Kind::Refused, object.file, fmt::format("\"{}\" waits for its picture", object.item.name),
                 fmt::format("{} is missing; put it into pictures/", object.pictureName)});
        else
            ++passed;
    }
    report.messages.push_back({passed == pack.objects.size() ? Kind::Fine : Kind::Odd, "pack.json",
                               fmt::format("{} of {} objects passed the check", passed, pack.objects.size()),
                               "one file an object, one material, one picture"});
    return passed == pack.objects.size();
}

class SiteArena : public world::Arena {
public:
    /// `loaded` is what loading the pack said, before anything was checked.
    SiteArena(Pack pack, TryReport loaded)
        : Arena("u", figureUnits), pack_(std::move(pack)), loaded_(std::move(loaded)) {
        arrange();
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out; // what passed stands on the meadow; the rest is not there yet
        for (std::size_t b = 0; b < physics().count(); ++b)
            if (statusOf(objectOf_[b]) == Status::Passed || dropped_)
                out.push_back({physics().shapeOf(int(b)), physics().pose(int(b)).matrix});
        return out;
    }
    std::vector<world::Drawn> expected() const override { return Arena::drawn(); }
    bool advance(double seconds) override {
        Arena::advance(seconds);
        clock_ += seconds;
        return isChecking();
    }
    bool isChecking() const override { return clock_ < lastSecond(); }
    std::optional<TryReport> verdictNow() const override {
        TryReport report = loaded_;
        report.accepted = sayVerdicts(pack_, report);
        return report;
    }
    std::vector<world::Action> actions() const override {
        return {{"upload", "Upload again", "From the first object on"},
                {"drop", "Drop", "All from half a figure's height"},
                {"link", "Look for pictures", "Links those that were missing and lie there now"}};
    }
    void act(const std::string& id) override {
        if (id == "upload") clock_ = 0, dropped_ = false, arrange();
        if (id == "drop") dropped_ = true, arrange(float(figureUnits) / 2);
        if (id == "link") {
            TryReport report;
            linked_ = int(pack_.linkPictures(report));
            clock_ = std::min(clock_, lastSecond());
            arrange();
        }
    }
    std::vector<world::Table> tables() const override {
        world::Table queue{"Upload queue", {}, {}}, sizes{"Sizes", {"height", "of a figure"}, {}};
        for (std::size_t i = 0; i < pack_.objects.size(); ++i) {
            const PackObject& object = pack_.objects[i];
            const Status status = statusOf(i);
            constexpr const char* words[] = {"queued", "uploading", "waiting for the check",
                                             "passed", "refused",   "waits for its picture"};
            queue.rows.push_back({object.item.name,
                                  {words[int(status)]},
                                  status == Status::Refused || status == Status::NoPicture});
            const float tall = object.item.shape.size().y;
            sizes.rows.push_back(
                {object.item.name, {showMeasure(tall) + "\u202fu", showMeasure(tall / figureUnits)}});
        }
        std::vector<world::Table> out{queue, sizes};
        if (const auto missing = pack_.missingPictures(); !missing.empty()) {
            world::Table table{"Missing pictures", {}, {}};
            for (const std::string& name : missing) table.rows.push_back({name, {"not found"}, true});
            out.insert(out.begin() + 1, table);
        }
        return out;
    }
    std::vector<std::string> notes() const override {
        std::vector<std::string> out;
        if (linked_ >= 0) out.push_back(showCount(linked_, "picture was linked", "pictures were linked"));
        if (!pack_.credit.empty()) out.push_back("Credit: " + pack_.credit);
        return out;
    }

private:
    enum class Status { Queued, Uploading, Checking, Passed, Refused, NoPicture };

    double lastSecond() const { return double(pack_.objects.size()) * uploadSeconds + checkSeconds + 0.1; }
    Status statusOf(std::size_t object) const {
        const double start = double(object) * uploadSeconds;
        if (clock_ < start) return Status::Queued;
        if (clock_ < start + uploadSeconds) return Status::Uploading;
        if (clock_ < start + uploadSeconds + checkSeconds) return Status::Checking;
        if (!pack_.objects[object].refusal.empty()) return Status::Refused;
        return pack_.objects[object].pictureMissing ? Status::NoPicture : Status::Passed;
    }
    /// In rows, each object with room around it.
    void arrange(float above = 0) {
        if (items_.empty())
            for (const PackObject& object : pack_.objects) {
                world::Item item = object.item;
                if (item.shape.positions.empty()) item.shape = world::boxShape({0, 0, 0}, {0.1f, 0.1f, 0.1f});
                addItem(std::move(item));
            }
        for (std::size_t i = 0; i < items_.size(); ++i) items_[i].picture = pack_.objects[i].item.picture;
        itemsChanged();
        physics().clear();
        objectOf_.clear();
        float x = 0, z = 0, deep = 0;
        constexpr float gap = 0.8f, wide = 22;
        for (std::size_t i = 0; i < pack_.objects.size(); ++i) {
            if (!pack_.objects[i].refusal.empty()) continue;
            const world::Shape& shape = items_[i].shape;
            const glm::vec3 low = shape.low(), size = shape.size();
            if (x > 0 && x + size.x > wide) x = 0, z -= deep + gap, deep = 0;
            physics().add(int(i), {x - low.x, above, z - low.z - size.z}, above > 0 ? 0.04f : 0, float(i));
            objectOf_.push_back(i);
            x += size.x + gap;
            deep = std::max(deep, size.z);
        }
    }

    Pack pack_;
    TryReport loaded_;
    std::vector<std::size_t> objectOf_; ///< of each body
    double clock_ = 0;
    bool dropped_ = false;
    int linked_ = -1;
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto pack = loadPack(folder, report);
    if (!pack) return nullptr;
    auto arena = std::make_unique<SiteArena>(std::move(*pack), report);
    report = *arena->verdictNow();
    return arena;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto pack = loadPack(folder, report);
    if (!pack) return report;
    report.accepted = sayVerdicts(*pack, report);
    auto objects = nlohmann::ordered_json::array();
    for (const PackObject& object : pack->objects) {
        const world::Shape& shape = object.item.shape;
        const bool empty = shape.positions.empty();
        nlohmann::ordered_json told{{"name", object.item.name},
                                    {"passed", object.refusal.empty() && !object.pictureMissing},
                                    {"triangles", object.triangles}};
        told.update(world::sizesOf(empty ? glm::vec3(0) : shape.low(), empty ? glm::vec3(0) : shape.high(),
                                   figureUnits));
        objects.push_back(std::move(told));
    }
    report.tests = {
        {"objects", objects}, {"refused", pack->refused()}, {"missingPictures", pack->missingPictures()}};
    report.lengths = {"width", "height", "length", "gapToFloor"};
    return report;
}

} // namespace zl::standins::site
