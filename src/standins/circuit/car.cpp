#include "standins/circuit/car.h"

#include "standins/circuit/car_settings.h"
#include "standins/world/files.h"
#include "standins/world/glb_tree.h"

#include "core/base/letters.h"
#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>
#include <set>

namespace zl::standins::circuit {

namespace {

using Kind = Message::Kind;

// The game's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostTriangles = 240000, mostInBody = 120000;
constexpr float mostFromHub = 0.001f, groundGap = 0.02f, leastLength = 1.5f, mostLength = 7;
constexpr int mostEdge = 4096;
constexpr std::array endings{"front.left", "front.right", "rear.left", "rear.right"};

class CarLoader {
public:
    CarLoader(const std::filesystem::path& folder, TryReport& report) : files_(folder, report) {}

    std::optional<Car> load() {
        if (files_.refused()) return std::nullopt;
        const auto about = files_.description(".car.json", "race-car", {"model", "credit"});
        if (about.is_null()) return std::nullopt;
        model_ = about["model"], car_.credit = about["credit"];
        car_.name = model_.substr(0, model_.find_last_of('.'));
        const auto bytes = files_.bytes(model_);
        if (!bytes) return std::nullopt;
        file_ = world::readGlbTree(*bytes);
        if (!file_.problem.empty()) {
            refuse(model_, "The file cannot be read: " + file_.problem, "Build it again");
            return std::nullopt;
        }
        judgeNames();
        judgeScale();
        judgeFolder();
        judgeTriangles();
        judgeSettings(about);
        if (files_.refused()) return std::nullopt;
        placeWheels();
        takeParts();
        judgeSize();
        if (about.contains("preview") && about["preview"].is_string())
            car_.preview = files_.picture(about["preview"], mostEdge, false);
        else
            files_.say(Kind::Odd, "", "There is no preview", "The garage shows an empty frame");
        if (files_.refused()) return std::nullopt;
        return std::move(car_);
    }

private:
    void refuse(std::string file, std::string text, std::string detail) {
        files_.say(Kind::Refused, std::move(file), std::move(text), std::move(detail));
    }
    int nodeCalled(const std::string& name) const {
        const auto found = std::ranges::find(file_.nodes, name, &world::GlbNode::name);
        return found == file_.nodes.end() ? -1 : int(found - file_.nodes.begin());
    }

    void judgeNames() {
        std::vector<std::string> wanted{"body"};
        for (const char* kind : {"hub.", "wheel.", "brake."})
            for (const char* ending : endings) wanted.push_back(kind + std::string(ending));
        for (const std::string& name : wanted) {
            if (nodeCalled(name) >= 0) continue;
            const auto alike = std::ranges::find_if(
                file_.nodes, [&](const world::GlbNode& node) { return lowerCase(node.name) == name; });
            refuse(model_, fmt::format("There is no node \"{}\"", name),
                   alike == file_.nodes.end() ? "The game steers and rolls by it"
                                              : fmt::format("\"{}\" is spelt otherwise", alike->name));
        }
        if (!files_.refused())
            files_.say(Kind::Fine, model_, fmt::format("All {} nodes are there", wanted.size()),
                       "spelt as the game reads them");
    }

    void judgeScale() {
        for (const world::GlbNode& node : file_.nodes)
            for (int c = 0; c < 3; ++c) {
                const float scale = glm::length(glm::vec3(node.local[c]));
                if (std::abs(scale - 1) <= 1e-4f) continue;
                refuse(model_, fmt::format("\"{}\" has a scale of {}", node.name, showNumber(double(scale))),
                       "It must be exactly 1, or the car comes out as a toy");
                return;
            }
        files_.say(Kind::Fine, model_, "Every scale is 1", "");
    }

    /// The folder of pictures must be spelt so; on some disks another spelling is found all the same, and
    /// not on the player's.
    void judgeFolder() {
        std::error_code error;
        for (const auto& entry : std::filesystem::directory_iterator(files_.folder(), error)) {
            const std::string name = entry.path().filename().string();
            if (entry.is_directory(error) && name != "skins" && lowerCase(name) == "skins")
                refuse(name, fmt::format("The folder is called \"{}\"", name), "It must be \"skins\"");
        }
        for (const auto& material : file_.materials)
            if (material.hasPicture && material.pictureFile.empty())
                refuse(model_, fmt::format("The picture of \"{}\" lies inside the file", material.name),
                       "Pictures lie in \"skins\"");
            else if (!material.pictureFile.empty() && !material.pictureFile.starts_with("skins/"))
                refuse(model_, fmt::format("\"{}\" is looked for elsewhere", material.pictureFile),
                       "Pictures lie in \"skins\"");
    }

    bool isBelow(int node, int top) const {
        for (; node >= 0; node = file_.nodes[std::size_t(node)].above)
            if (node == top) return true;
        return false;
    }
    /// The ending of the nearest node at or above that is called so; -1 for none.
    int endingOf(int node, const std::string& kind) const {
        for (; node >= 0; node = file_.nodes[std::size_t(node)].above)
            for (std::size_t w = 0; w < endings.size(); ++w)
                if (file_.nodes[std::size_t(node)].name == kind + endings[w]) return int(w);
        return -1;
    }

    void judgeTriangles() {
        std::size_t all = 0, inBody = 0;
        const int body = nodeCalled("body");
        for (std::size_t n = 0; n < file_.nodes.size(); ++n) {
            all += file_.nodes[n].triangles;
            if (body >= 0 && isBelow(int(n), body) && endingOf(int(n), "wheel.") < 0 &&
                endingOf(int(n), "brake.") < 0)
                inBody += file_.nodes[n].triangles;
        }
        files_.sayLimit(model_, showNumber(double(inBody), 0) + " triangles in the body", double(inBody),
                        double(mostInBody));
        files_.sayLimit(model_, showNumber(double(all), 0) + " triangles in all", double(all),
                        double(mostTriangles));
    }

    void judgeSettings(const nlohmann::json& about) {
        std::map<std::string, std::map<std::string, float>> settings;
        std::string problem;
        if (about.contains("materials") && about["materials"].is_string()) {
            const std::string name = about["materials"];
            if (const auto text = files_.bytes(name)) settings = readCarSettings(*text, problem);
            if (!problem.empty()) refuse(name, "It cannot be read: " + problem, "Build it again");
        }
        std::set<int> worn;
        for (const world::GlbNode& node : file_.nodes)
            for (const world::GlbSurface& surface : node.surfaces) worn.insert(surface.material);
        shine_.assign(file_.materials.size(), 0);
        for (const int material : worn) {
            const std::string name = material < 0 ? "" : file_.materials[std::size_t(material)].name;
            const auto found = settings.find(name);
            const bool says = material >= 0 && found != settings.end() && found->second.contains("shine");
            const float shine = says ? found->second.at("shine") : 0;
            if (!says)
                refuse(model_,
                       material < 0 ? std::string("Something wears no material")
                                    : fmt::format("\"{}\" does not say its shine", name),
                       "The settings beside the model say it for each");
            else if (!(shine >= 0 && shine <= 1))
                refuse(model_, fmt::format("shine of \"{}\" is {}", name, showNumber(double(shine))),
                       "It goes from 0 to 1");
            else
                shine_[std::size_t(material)] = shine;
        }
    }

    void placeWheels() {
        for (std::size_t w = 0; w < endings.size(); ++w) {
            Wheel& wheel = car_.wheels[w];
            wheel.name = endings[w], wheel.front = w < 2;
            wheel.hub = glm::vec3(file_.nodes[std::size_t(nodeCalled("hub." + wheel.name))].place[3]);
            glm::vec3 low(1e30f), high(-1e30f);
            for (std::size_t n = 0; n < file_.nodes.size(); ++n) {
                if (endingOf(int(n), "wheel.") != int(w) || endingOf(int(n), "brake.") >= 0) continue;
                for (const world::GlbSurface& surface : file_.nodes[n].surfaces)
                    low = glm::min(low, surface.shape.low()), high = glm::max(high, surface.shape.high());
            }
            if (low.x > high.x) {
                refuse(model_, fmt::format("\"wheel.{}\" shows nothing", wheel.name),
                       "A wheel must be there");
                continue;
            }
            wheel.radius = (high.y - low.y) / 2;
            wheel.fromHub = glm::distance((low + high) / 2.0f, wheel.hub);
            if (wheel.fromHub > mostFromHub)
                refuse(model_,
                       fmt::format("\"wheel.{}\" is {}\u202fm off its hub", wheel.name,
                                   showMeasure(double(wheel.fromHub))),
                       "It would wobble; takes up to 0.001 m");
            if (!(wheel.radius > 0))
                refuse(model_, fmt::format("\"wheel.{}\" is flat", wheel.name), "It cannot roll");
            if (std::abs(low.y) > groundGap)
                refuse(model_,
                       fmt::format("\"wheel.{}\" stands {}\u202fm {} the ground", wheel.name,
                                   showMeasure(double(std::abs(low.y))), low.y > 0 ? "above" : "below"),
                       "takes at most 0.02 m");
        }
        if (!files_.refused())
            files_.say(Kind::Fine, model_, "Four wheels turn about their hubs", "within 0.001 m");
    }

    void takeParts() {
        for (std::size_t n = 0; n < file_.nodes.size(); ++n) {
            const int brake = endingOf(int(n), "brake."), wheel = endingOf(int(n), "wheel."),
                      hub = endingOf(int(n), "hub.");
            for (world::GlbSurface& surface : file_.nodes[n].surfaces) {
                CarPart part;
                part.wheel = brake >= 0 ? brake : wheel >= 0 ? wheel : hub;
                part.moves = brake >= 0   ? CarPart::Moves::Steers
                             : wheel >= 0 ? CarPart::Moves::Rolls
                             : hub >= 0   ? CarPart::Moves::Steers
                                          : CarPart::Moves::Body;
                const auto& material = file_.materials[std::size_t(surface.material)];
                part.item = {file_.nodes[n].name,
                             std::move(surface.shape),
                             {},
                             material.colour,
                             0.05f + 0.6f * shine_[std::size_t(surface.material)]};
                if (!material.pictureFile.empty())
                    part.item.picture = files_.picture(material.pictureFile, mostEdge, false, true);
                if (!part.item.shape.positions.empty()) {
                    car_.low = glm::min(car_.low, part.item.shape.low());
                    car_.high = glm::max(car_.high, part.item.shape.high());
                }
                car_.parts.push_back(std::move(part));
            }
        }
    }

    void judgeSize() {
        const float length = car_.high.z - car_.low.z;
        const bool fits = length >= leastLength && length <= mostLength;
        files_.say(fits ? Kind::Fine : Kind::Refused, model_,
                   fmt::format("{}\u202fm long", showMeasure(double(length))), "takes 1.5 to 7 m");
        if (car_.wheelbase() <= 0)
            refuse(model_, "Its front hubs are not before its rear ones", "It drives to +Z");
    }

    world::Files files_;
    world::GlbTree file_;
    Car car_;
    std::string model_;
    std::vector<float> shine_; ///< by material
};

} // namespace

std::optional<Car> loadCar(const std::filesystem::path& folder, TryReport& report) {
    auto car = CarLoader(folder, report).load();
    report.accepted = car.has_value();
    return car;
}

float tightestRound(const Car& car) {
    return car.wheelbase() / std::tan(glm::radians(25.0f)) + car.track() / 2;
}

float steeredOn(const Car& car, std::size_t wheel, float radius) {
    const Wheel& of = car.wheels[wheel];
    return of.front ? std::atan2(of.hub.z - car.rearAxle(), radius - of.hub.x) : 0;
}

float wayRound(const Car& car, std::size_t wheel, float radius) {
    const glm::vec3& hub = car.wheels[wheel].hub;
    return glm::two_pi<float>() * std::hypot(radius - hub.x, hub.z - car.rearAxle());
}

} // namespace zl::standins::circuit
