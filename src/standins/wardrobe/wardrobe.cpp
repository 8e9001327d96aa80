#include "standins/wardrobe/wardrobe.h"

#include "standins/world/files.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>

namespace zl::standins::wardrobe {

namespace {

using Kind = Message::Kind;

class Loader {
public:
    Loader(const std::filesystem::path& folder, TryReport& report) : files_(folder, report) {}

    std::optional<Outfit> load() {
        if (files_.refused()) return std::nullopt;
        const auto about = files_.description(".outfit.json", "outfit", {"name", "credit"});
        if (about.is_null()) return std::nullopt;
        out_.name = about["name"], out_.credit = about["credit"];
        const auto sizes = about.find("sizes");
        if (sizes == about.end() || !sizes->is_object()) {
            files_.say(Kind::Refused, "", "No sizes are named", "Build it again");
            return std::nullopt;
        }
        const bool slim = open(*sizes, "slim", out_.slim), broad = open(*sizes, "broad", out_.broad);
        if (!slim || !broad) return std::nullopt;
        judgePairs();
        judgeLimits();
        judgeSettings();
        if (files_.refused()) return std::nullopt;
        for (const OutfitObject& object : out_.slim.objects) {
            out_.pictures.emplace_back();
            if (object.pictureBytes.empty()) continue;
            const auto judged = world::judgedPicture(object.pictureBytes, limits::pictureEdge, false);
            if (judged.picture)
                out_.pictures.back() = judged.picture;
            else
                files_.say(Kind::Refused, slimName_, judged.text, judged.detail);
        }
        if (files_.refused()) return std::nullopt;
        return std::move(out_);
    }

private:
    bool open(const nlohmann::json& sizes, const char* size, OutfitFile& to) {
        if (!sizes.contains(size) || !sizes[size].is_string()) {
            files_.say(Kind::Refused, "", fmt::format("There is no {} size", size),
                       "The game blends between slim and broad and wants both");
            return false;
        }
        const std::string name = sizes[size].get<std::string>();
        const std::string stem = std::filesystem::path(name).stem().string();
        if (!stem.ends_with(std::string("_") + size)) {
            files_.say(Kind::Refused, name, fmt::format("Its name does not end in \"_{}\"", size),
                       "The game finds sizes by the ends of their names");
            return false;
        }
        if (std::string(size) == "slim") slimName_ = name;
        const auto bytes = files_.bytes(name);
        if (!bytes) return false;
        to = name.ends_with(".outfit") ? readTextOutfit(*bytes) : readGlbOutfit(*bytes);
        if (to.problem.empty()) return true;
        files_.say(Kind::Refused, name, "Cannot be read: " + to.problem, "Build it again");
        return false;
    }

    /// In the words of the game, which names the object by number.
    void refusePair(std::size_t number, const std::string& name, const std::string& what, std::size_t slim,
                    std::size_t broad) {
        files_.say(
            Kind::Refused, "",
            fmt::format("Object {} (\"{}\"): {} {} slim, {} broad", number + 1, name, what, slim, broad),
            "They cannot be blended; both sizes must be alike corner for corner");
    }

    void judgePairs() {
        const auto &slim = out_.slim.objects, &broad = out_.broad.objects;
        if (slim.size() != broad.size())
            files_.say(Kind::Refused, "", fmt::format("{} objects slim, {} broad", slim.size(), broad.size()),
                       "Both sizes must have the same objects in the same order");
        for (std::size_t i = 0; i < std::min(slim.size(), broad.size()); ++i) {
            const world::Shape &a = slim[i].shape, &b = broad[i].shape;
            if (a.positions.size() != b.positions.size())
                refusePair(i, slim[i].name, "corners", a.positions.size(), b.positions.size());
            else if (a.indices.size() != b.indices.size())
                refusePair(i, slim[i].name, "triangles", a.indices.size() / 3, b.indices.size() / 3);
            else if (const auto [x, y] = std::ranges::mismatch(a.indices, b.indices); x != a.indices.end())
                files_.say(Kind::Refused, "",
                           fmt::format("Object {} (\"{}\"): triangle {} joins other corners", i + 1,
                                       slim[i].name, (x - a.indices.begin()) / 3 + 1),
                           "It would tear when it is blended");
            if (slim[i].holds.size() != broad[i].holds.size())
                refusePair(i, slim[i].name, "corners on bones", slim[i].holds.size(), broad[i].holds.size());
        }
        const bool sameBones =
            std::ranges::equal(out_.slim.bones, out_.broad.bones, {}, &Bone::name, &Bone::name);
        if (!sameBones)
            files_.say(Kind::Refused, "", "The two sizes hang on other bones",
                       "Both need the same, in one order");
        if (!files_.refused())
            files_.say(Kind::Fine, "", fmt::format("Slim and broad are alike in {} objects", slim.size()),
                       "corners, triangles and bones");
    }

    void judgeLimits() {
        std::size_t triangles = 0;
        for (const OutfitObject& object : out_.slim.objects) {
            triangles += object.shape.indices.size() / 3;
            files_.refuseOver(slimName_,
                              fmt::format("\"{}\" wears {} materials", object.name, object.materials),
                              double(object.materials), 1);
            files_.refuseOver(
                slimName_, fmt::format("Corners of \"{}\" hang on {} bones", object.name, object.mostWeights),
                double(object.mostWeights), double(limits::weights));
        }
        files_.sayLimit(slimName_, showNumber(double(triangles), 0) + " triangles", double(triangles),
                        double(limits::triangles));
        files_.refuseOver(slimName_, fmt::format("{} objects", out_.slim.objects.size()),
                          double(out_.slim.objects.size()), double(limits::objects));
        files_.refuseOver(slimName_, fmt::format("{} bones", out_.slim.bones.size()),
                          double(out_.slim.bones.size()), double(limits::bones));
        if (out_.slim.objects.empty()) files_.say(Kind::Refused, slimName_, "There is nothing to wear", "");
    }

    void judgeSettings() {
        for (const OutfitObject& object : out_.slim.objects)
            for (const auto& [name, value] : object.settings) {
                if (name != "shine" && name != "glow")
                    files_.say(Kind::Odd, slimName_,
                               fmt::format("\"{}\" of \"{}\" means nothing here", name, object.name),
                               "The game knows shine and glow");
                else if (!(value >= 0 && value <= 1))
                    files_.say(
                        Kind::Refused, slimName_,
                        fmt::format("{} of \"{}\" is {}", name, object.name, showNumber(double(value))),
                        "It goes from 0 to 1");
            }
    }

    world::Files files_;
    Outfit out_;
    std::string slimName_;
};

} // namespace

std::optional<Outfit> loadOutfit(const std::filesystem::path& folder, TryReport& report) {
    auto outfit = Loader(folder, report).load();
    report.accepted = outfit.has_value();
    return outfit;
}

glm::vec3 Outfit::bonePlace(std::size_t bone, float blend) const {
    return glm::mix(slim.bones[bone].place, broad.bones[bone].place, blend);
}

world::Shape Outfit::object(std::size_t which, float blend, const std::vector<float>& turns) const {
    const OutfitObject &a = slim.objects[which], &b = broad.objects[which];
    std::vector<glm::mat4> bones(slim.bones.size(), glm::mat4(1.0f));
    for (std::size_t i = 0; i < bones.size(); ++i) {
        const glm::vec3 place = bonePlace(i, blend);
        const float turn = i < turns.size() ? turns[i] : 0;
        const glm::mat4 own = glm::translate(glm::mat4(1.0f), place) *
                              glm::rotate(glm::mat4(1.0f), turn, glm::vec3(1, 0, 0)) *
                              glm::translate(glm::mat4(1.0f), -place);
        const int above = slim.bones[i].above;
        bones[i] = (above >= 0 && std::size_t(above) < i ? bones[std::size_t(above)] : glm::mat4(1.0f)) * own;
    }
    world::Shape out = a.shape;
    out.normals.resize(out.positions.size(), glm::vec3(0, 1, 0));
    for (std::size_t v = 0; v < out.positions.size(); ++v) {
        const glm::vec3 place = glm::mix(a.shape.positions[v], b.shape.positions[v], blend);
        const glm::vec3 normal =
            v < b.shape.normals.size() ? glm::mix(out.normals[v], b.shape.normals[v], blend) : out.normals[v];
        glm::mat4 held(1.0f);
        if (v < a.holds.size()) {
            held = glm::mat4(0.0f);
            float all = 0;
            for (std::size_t k = 0; k < 4; ++k) {
                const float weight = v < b.holds.size()
                                         ? glm::mix(a.holds[v].weight[k], b.holds[v].weight[k], blend)
                                         : a.holds[v].weight[k];
                held += weight * bones[std::size_t(a.holds[v].bone[k])];
                all += weight;
            }
            held = all > 1e-6f ? held / all : glm::mat4(1.0f);
        }
        out.positions[v] = glm::vec3(held * glm::vec4(place, 1));
        out.normals[v] = glm::mat3(held) * normal;
    }
    return out;
}

} // namespace zl::standins::wardrobe
