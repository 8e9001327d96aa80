// The dressing room: every face of a thing takes another picture, by dropping it there. A scene of solids stands in
// its region instead.
#include "standins/dressing/dressing_arena.h"

#include "standins/dressing/thing.h"
#include "standins/region/region_arena.h"
#include "standins/world/arena.h"
#include "standins/world/files.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <fstream>
#include <sstream>

namespace zl::standins::dressing {

namespace {

constexpr double figureMetres = 1.85;
constexpr std::uintmax_t mostPictureBytes = 64u << 20;

class DressingArena : public world::Arena {
public:
    explicit DressingArena(Thing thing) : Arena("m", figureMetres), thing_(std::move(thing)) {
        for (std::size_t i = 0; i < thing_.shapes.size(); ++i)
            items_.push_back({thing_.faces[thing_.faceOf[i]].name, thing_.shapes[i]});
        undress();
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < items_.size(); ++i) out.push_back({int(i), glm::mat4(1.0f)});
        return out;
    }
    std::vector<world::Action> actions() const override {
        return {{"undress", "As delivered", "Every face wears its own picture again"}};
    }
    void act(const std::string& id) override {
        if (id == "undress") undress();
    }
    std::vector<world::Choice> choices() const override {
        std::vector<std::string> names;
        for (const Face& face : thing_.faces) names.push_back(face.name);
        return {{"face", "Face", names, int(chosen_)}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "face") chosen_ = std::min(std::size_t(std::max(0, option)), thing_.faces.size() - 1);
    }
    std::string takesPictureOn() const override { return "face"; }
    bool takePicture(const std::filesystem::path& file, int item, std::string& why) override {
        std::error_code error;
        const auto size = std::filesystem::file_size(file, error);
        if (error || size > mostPictureBytes) {
            why = error ? "The file cannot be read" : "The file is too large";
            return false;
        }
        std::ifstream in(file, std::ios::binary);
        std::ostringstream bytes;
        bytes << in.rdbuf();
        world::Judged judged = world::judgedPicture(bytes.str(), mostEdge, true);
        if (!judged.picture) {
            why = judged.text + ": " + judged.detail;
            return false;
        }
        const std::size_t face = item < 0 ? chosen_ : thing_.faceOf[std::size_t(item)];
        worn_[face] = file.filename().string();
        for (std::size_t i = 0; i < items_.size(); ++i)
            if (thing_.faceOf[i] == face) items_[i].picture = judged.picture;
        chosen_ = face;
        itemsChanged();
        return true;
    }
    std::vector<world::Table> tables() const override {
        world::Table faces{"Faces", {"triangles", "wears"}, {}};
        for (std::size_t f = 0; f < thing_.faces.size(); ++f)
            faces.rows.push_back({thing_.faces[f].name,
                                  {showNumber(double(thing_.faces[f].triangles), 0),
                                   worn_[f].empty() ? std::string("its colour") : worn_[f]}});
        return {faces};
    }
    std::vector<std::string> notes() const override {
        std::vector<std::string> out{"Drop a picture onto a face to see it there."};
        if (thing_.lendable) out.push_back("It may be lent.");
        if (!thing_.credit.empty()) out.push_back("Credit: " + thing_.credit);
        return out;
    }

private:
    void undress() {
        worn_.clear();
        for (const Face& face : thing_.faces) worn_.push_back(face.pictureFile);
        for (std::size_t i = 0; i < items_.size(); ++i) {
            const Face& face = thing_.faces[thing_.faceOf[i]];
            items_[i].picture = face.picture, items_[i].colour = face.colour;
        }
        itemsChanged();
    }

    Thing thing_;
    std::vector<std::string> worn_; ///< what each face wears
    std::size_t chosen_ = 0;
};

} // namespace

std::string_view nameFor(const std::filesystem::path& folder) {
    return region::holdsScene(folder) ? "region" : "dressing room";
}

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    if (region::holdsScene(folder)) return region::open(folder, report);
    auto thing = loadThing(folder, report);
    return thing ? std::make_unique<DressingArena>(std::move(*thing)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    if (region::holdsScene(folder)) return region::tryFolder(folder);
    TryReport report;
    const auto thing = loadThing(folder, report);
    if (!thing) return report;
    report.tests = world::sizesOf(thing->low, thing->high, figureMetres);
    report.lengths = {"width", "height", "length", "gapToFloor"};
    auto faces = nlohmann::ordered_json::array();
    for (const Face& face : thing->faces)
        faces.push_back({{"name", face.name},
                         {"triangles", face.triangles},
                         {"picture", face.pictureFile.empty() ? "none" : face.pictureFile},
                         {"takesAnotherPictureWhole", face.isInside()}});
    report.tests["faces"] = std::move(faces);
    report.tests["lendable"] = thing->lendable;
    return report;
}

} // namespace zl::standins::dressing
