#include "standins/shed/asset.h"

#include "standins/shed/asset_mesh.h"
#include "standins/world/files.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include <algorithm>
#include <bit>
#include <cmath>
#include <map>

namespace zl::standins::shed {

namespace {

using Kind = Message::Kind;

// The world's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostTriangles = 60000, mostMaterials = 6;
constexpr int mostEdge = 2048;
constexpr float groundGap = 0.02f;
constexpr std::string_view tail = "@metal";
struct Wanted {
    std::string_view ending;
    bool alpha;
};
constexpr std::array<Wanted, 3> wanted{{{"-base", false}, {"-relief", true}, {"-props", true}}};

/// Whether a PNG's header says that its pixels have an alpha channel (kinds of colour 4 and 6).
bool hasAlpha(const std::string& png) {
    return png.size() > 25 && (png[25] == 4 || png[25] == 6);
}

class AssetLoader {
public:
    AssetLoader(const std::filesystem::path& folder, TryReport& report)
        : files_(folder, report), report_(report) {}

    std::optional<Asset> load() {
        if (files_.refused()) return std::nullopt;
        const auto about = description();
        if (!about) return std::nullopt;
        asset_.name = (*about)["name"].value_or(std::string());
        asset_.sort = (*about)["sort"].value_or(std::string());
        asset_.credit = (*about)["credit"].value_or(std::string());
        if (asset_.sort.empty())
            files_.say(Kind::Odd, about_, "It does not say what sort of thing it is",
                       "It stands under \"other\"");
        if (const auto preview = (*about)["preview"].value<std::string>())
            files_.picture(*preview, mostEdge, false);
        else
            files_.say(Kind::Odd, about_, "There is no preview", "Lists show an empty frame");
        readMaterials(*about);
        readMesh(*about);
        if (files_.refused()) return std::nullopt;
        report_.accepted = true;
        return std::move(asset_);
    }

private:
    void refuse(std::string file, std::string text, std::string detail) {
        files_.say(Kind::Refused, std::move(file), std::move(text), std::move(detail));
    }

    std::optional<toml::table> parsed(const std::string& name) {
        const auto text = files_.bytes(name);
        if (!text) return std::nullopt;
        try {
            return toml::parse(*text);
        } catch (const toml::parse_error& error) {
            refuse(name, fmt::format("Line {} cannot be read", error.source().begin.line),
                   std::string(error.description()));
            return std::nullopt;
        }
    }

    std::optional<toml::table> description() {
        std::error_code error;
        std::vector<std::string> found;
        for (const auto& entry : std::filesystem::directory_iterator(files_.folder(), error))
            if (entry.path().filename().string().ends_with(".asset.toml"))
                found.push_back(entry.path().filename().string());
        if (found.size() != 1) {
            refuse("", found.empty() ? "There is no .asset.toml" : "There are several .asset.toml",
                   "A thing is a folder with one of them");
            return std::nullopt;
        }
        about_ = found[0];
        auto table = parsed(about_);
        if (table && ((*table)["format"].value_or(std::string()) != "asset-folder" ||
                      (*table)["version"].value_or(0) != 1)) {
            refuse(about_, "It is no description of an asset folder, version 1", "Build it again");
            return std::nullopt;
        }
        return table;
    }

    void readMaterials(const toml::table& about) {
        const auto* list = about["material"].as_array();
        const std::size_t count = list ? list->size() : 0;
        files_.sayLimit(about_, showCount(long(count), "material", "materials"), double(count),
                        double(mostMaterials));
        for (std::size_t m = 0; m < count; ++m) {
            const auto* table = list->get(m)->as_table();
            AssetMaterial material;
            material.name = table ? (*table)["name"].value_or(std::string()) : "";
            if (!material.name.ends_with(tail))
                refuse(about_, fmt::format("\"{}\" does not end in {}", material.name, tail),
                       "The world takes the kind of surface from it");
            if (std::ranges::find(asset_.materials, material.name, &AssetMaterial::name) !=
                asset_.materials.end())
                refuse(about_, fmt::format("\"{}\" is there twice", material.name),
                       "Pictures are found by the material's name");
            std::vector<std::string> names;
            if (const auto* pictures = table ? (*table)["pictures"].as_array() : nullptr)
                for (const toml::node& name : *pictures) names.push_back(name.value_or(std::string()));
            for (std::size_t k = 0; k < wanted.size(); ++k)
                material.pictures[k] = pictureFor(material.name, names, wanted[k]);
            asset_.materials.push_back(std::move(material));
        }
    }

    std::optional<world::Picture> pictureFor(const std::string& material,
                                             const std::vector<std::string>& names, const Wanted& what) {
        const auto found = std::ranges::find_if(names, [&](const std::string& name) {
            const std::string stem = name.substr(0, name.find_last_of('.'));
            return stem.ends_with(what.ending);
        });
        if (found == names.end()) {
            refuse(about_, fmt::format("\"{}\" has no {} picture", material, what.ending.substr(1)),
                   "Each material needs base, relief and props");
            return std::nullopt;
        }
        const std::string ending = found->substr(std::min(found->size(), found->find_last_of('.')));
        if (ending != ".png" && ending != ".tga") {
            refuse(*found, "It is neither PNG nor TGA", "The world reads these two");
            return std::nullopt;
        }
        const auto bytes = files_.bytes(*found);
        if (!bytes) return std::nullopt;
        if (ending == ".png" && hasAlpha(*bytes) != what.alpha)
            refuse(*found, what.alpha ? "It has no alpha channel" : "It has an alpha channel",
                   what.alpha ? "One of its values is kept there" : "The base is never see-through");
        auto picture = files_.picture(*found, mostEdge, true);
        readCompanion(*found, picture);
        return picture;
    }

    void readCompanion(const std::string& picture, const std::optional<world::Picture>& pixels) {
        const std::string name = picture + ".picture.toml";
        const auto table = parsed(name);
        if (!table) return;
        if ((*table)["picture"].value_or(std::string()) != picture)
            refuse(name, "It is about another picture", "Build it again");
        if (pixels && ((*table)["width"].value_or(0) != pixels->width ||
                       (*table)["height"].value_or(0) != pixels->height))
            refuse(name,
                   fmt::format("The picture is {} by {} px, and it says otherwise", pixels->width,
                               pixels->height),
                   "Build it again");
        std::string assumedHere;
        if (const auto* assumed = (*table)["assumed"].as_array())
            for (const toml::node& what : *assumed)
                assumedHere +=
                    fmt::format("{}{}", assumedHere.empty() ? "" : ", ", what.value_or(std::string()));
        if (!assumedHere.empty())
            files_.say(Kind::Odd, picture, "Everywhere: " + assumedHere,
                       "Harmless: the material has no picture of it");
    }

    std::optional<AssetMesh> meshIn(const std::string& name) {
        const auto bytes = files_.bytes(name);
        if (!bytes) return std::nullopt;
        AssetMesh mesh = readAssetMesh(name, *bytes);
        if (mesh.problem.empty()) return mesh;
        refuse(name, "The file cannot be read: " + mesh.problem, "Build it again");
        return std::nullopt;
    }

    void readMesh(const toml::table& about) {
        const std::string name = about["mesh"].value_or(std::string());
        auto mesh = meshIn(name);
        if (!mesh) return;
        std::vector<CoarserCopy> coarser = levelsAmongNodes(about, name, *mesh);
        asset_.triangles = mesh->triangles, asset_.low = mesh->low, asset_.high = mesh->high;
        for (MeshSurface& surface : mesh->surfaces) addItem(name, std::move(surface));
        if (asset_.items.empty()) return refuse(name, "It shows nothing", "A thing must be there");
        files_.sayLimit(name, showNumber(double(asset_.triangles), 0) + " triangles",
                        double(asset_.triangles), double(mostTriangles));
        if (std::abs(asset_.low.y) > groundGap)
            refuse(name,
                   fmt::format("It stands {}\u202fm {} the ground",
                               showMeasure(double(std::abs(asset_.low.y))),
                               asset_.low.y > 0 ? "above" : "below"),
                   "takes at most 0.02 m; stand it on the floor");
        if (const auto* files = about["levels"].as_array())
            for (const toml::node& entry : *files) {
                const std::string file = entry.value_or(std::string());
                if (auto copy = meshIn(file)) coarser.push_back({file, std::move(*copy)});
            }
        judge(coarser);
    }

    struct CoarserCopy {
        std::string where; ///< its file, and its level where all stand in one
        AssetMesh mesh;
    };

    /// Takes the nodes of coarser copies out of a mesh that holds all levels.
    std::vector<CoarserCopy> levelsAmongNodes(const toml::table& about, const std::string& file,
                                              AssetMesh& mesh) {
        std::vector<CoarserCopy> out;
        const auto* lists = about["level-nodes"].as_array();
        if (!lists) return out;
        std::map<std::string, std::size_t> levelOf;
        for (std::size_t k = 0; k < lists->size(); ++k) {
            out.push_back({fmt::format("{}, level {}", file, k + 1), {}});
            if (const auto* names = lists->get(k)->as_array())
                for (const toml::node& name : *names) levelOf[name.value_or(std::string())] = k;
        }
        AssetMesh whole;
        for (MeshSurface& surface : mesh.surfaces) {
            const auto level = levelOf.find(surface.node);
            (level == levelOf.end() ? whole : out[level->second].mesh).add(std::move(surface));
        }
        mesh = std::move(whole);
        return out;
    }

    /// Each coarser copy has to be coarser than the one before, and to stand where the whole stands.
    void judge(const std::vector<CoarserCopy>& coarser) {
        if (coarser.empty())
            files_.say(Kind::Odd, about_, "There are no coarser copies", "It is drawn whole from afar, too");
        std::size_t before = asset_.triangles;
        const float size = glm::length(asset_.high - asset_.low);
        for (const auto& [where, mesh] : coarser) {
            files_.say(Kind::Fine, where, showNumber(double(mesh.triangles), 0) + " triangles",
                       "For what is seen from farther away");
            if (mesh.triangles == 0 || mesh.triangles >= before)
                refuse(where, "It is no coarser than the one before",
                       fmt::format("{} triangles there", showNumber(double(before), 0)));
            if (glm::length(mesh.low - asset_.low) > 0.25f * size ||
                glm::length(mesh.high - asset_.high) > 0.25f * size)
                refuse(where, "It stands elsewhere than the whole",
                       "Things would jump when they change over");
            before = mesh.triangles;
            asset_.levels.push_back(mesh.triangles);
        }
    }

    void addItem(const std::string& file, MeshSurface surface) {
        const std::string& worn = surface.material;
        const auto material = std::ranges::find(asset_.materials, worn, &AssetMaterial::name);
        if (material == asset_.materials.end()) {
            if (unknown_.insert(worn).second)
                refuse(file,
                       worn.empty() ? std::string("Something wears no material")
                                    : fmt::format("\"{}\" is not in the description", worn),
                       "Each material has its pictures there");
            return;
        }
        world::Item item{surface.node, std::move(surface.shape), material->pictures[0], glm::vec3(0.8f)};
        asset_.items.push_back(std::move(item));
        asset_.materialOf.push_back(std::size_t(material - asset_.materials.begin()));
    }

    world::Files files_;
    TryReport& report_;
    std::string about_;
    Asset asset_;
    std::set<std::string> unknown_;
};

} // namespace

std::optional<Asset> loadAsset(const std::filesystem::path& folder, TryReport& report) {
    return AssetLoader(folder, report).load();
}

} // namespace zl::standins::shed
