#include "standins/region/region_visit.h"

#include "standins/region/region_arena.h"
#include "standins/world/arena.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/upload/connection.h"

#include <fmt/format.h>

#include <set>

namespace zl::standins::region {

namespace {

using json = nlohmann::json;

constexpr std::size_t mostBuilds = 50; ///< that are looked at

class Visitor {
public:
    Visitor(upload::Connection& connection, const Progress& progress)
        : connection_(connection), progress_(progress) {}

    std::vector<DeliveredScene> seeAll(const std::string& place) {
        const json region = jsonAt("/regions/" + place);
        std::vector<std::string> names = region.at("builds");
        if (names.size() > mostBuilds) names.resize(mostBuilds);
        std::vector<DeliveredScene> out;
        for (std::size_t k = 0; k < names.size(); ++k) {
            progress_.report(double(k) / double(names.size()), names[k]);
            out.push_back(see(place, names[k]));
        }
        return out;
    }

private:
    std::string textAt(const std::string& path) {
        const upload::Answer answer =
            connection_.ask("GET", path, {}, upload::Connection::json, progress_.silent());
        if (!answer.isFine()) throw Refused(answer.why());
        return answer.body;
    }
    json jsonAt(const std::string& path) { return json::parse(textAt(path)); }

    DeliveredScene see(const std::string& place, const std::string& name) {
        const json whole = jsonAt("/regions/" + place + "/builds/" + name + "/whole");
        DeliveredScene out;
        out.name = name;
        for (const json& group : whole.at("groups"))
            out.groups[group.at("number")] = {group.at("name"), group.at("within"), group.at("lead")};
        for (const json& text : whole.at("solids")) {
            progress_.checkCancel();
            BuiltSolid solid = readSolid(text.get<std::string>());
            for (const auto& [face, picture] : solid.pictures) takePicture(picture, out);
            out.places += solid.isShaped ? placesOfShaped : 1;
            out.solids.push_back(std::move(solid));
        }
        return out;
    }

    void takePicture(const std::string& hash, DeliveredScene& scene) {
        if (!RegionStore::isHash(hash) || scene.pictures.contains(hash)) return;
        world::Judged judged = world::judgedPicture(textAt("/pictures/" + hash), mostPictureEdge, false);
        if (judged.picture) scene.pictures[hash] = std::move(*judged.picture);
    }

    upload::Connection& connection_;
    const Progress& progress_;
};

} // namespace

std::vector<DeliveredScene> visited(Visit visit, const Progress& progress) {
    upload::Connection connection({visit.url, visit.user, {}, {}}, std::move(visit.password),
                                  [](const std::string&) {});
    connection.logIn(progress);
    try {
        return Visitor(connection, progress).seeAll(visit.place);
    } catch (const json::exception&) {
        throw Error("answered what is no region", visit.url);
    }
}

std::unique_ptr<world::Arena> visit(Visit visit, TryReport& report, const Progress& progress) {
    const std::string place = visit.place;
    auto scenes = visited(std::move(visit), progress);
    if (scenes.empty())
        throw Refused("nothing stands in the " + place + " region yet: upload a scene from Deliver");
    report.accepted = true;
    for (const DeliveredScene& scene : scenes)
        report.messages.push_back(
            {Message::Kind::Fine, scene.name,
             fmt::format("{} in {}", showCount(long(scene.solids.size()), "solid", "solids"),
                         showCount(long(scene.groups.size()), "group", "groups")),
             "as it was uploaded"});
    return arenaOf(std::move(scenes), "It stands in the " + place + " region, as its server gives it.");
}

} // namespace zl::standins::region
