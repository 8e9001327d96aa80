#include "standins/house/house_row.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::standins::house {

namespace {

using Kind = Message::Kind;

// The game's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostTriangles = 6000;
constexpr int mostEdge = 1024;
enum : std::uint32_t { Entry = 5 };
std::string textIn(const nlohmann::json& json, const char* key) {
    const auto found = json.is_object() ? json.find(key) : json.end();
    return json.is_object() && found != json.end() && found->is_string() ? found->get<std::string>() : "";
}

/// Every resource of the game by its key: what is loaded later takes the place of what was there.
class Table {
public:
    void add(const RowFile& file) {
        for (const Resource& resource : file.resources) {
            table_[resource.key] = {&resource, &file};
            table_[fmt::format("{:02x}@{}", resource.kind, resource.name)] = {&resource, &file};
        }
    }
    struct Found {
        const Resource* resource = nullptr;
        const RowFile* file = nullptr;
    };
    Found find(const Key& key) const {
        const auto found = table_.find(key);
        return found == table_.end() ? Found{} : found->second;
    }

private:
    std::map<Key, Found> table_;
};

class Loader {
public:
    Loader(const std::filesystem::path& folder, TryReport& report) : files_(folder, report) {}

    std::optional<Row> load() {
        if (files_.refused()) return std::nullopt;
        for (const char* below : {"neighbours", ""}) read(files_.folder() / below, *below == '\0');
        if (delivered_ == 0) {
            files_.say(Kind::Refused, "", "There is no package", "takes one file NAME.rowpackage");
            return std::nullopt;
        }
        for (const RowFile& file : rows_) table_.add(file);
        Row row;
        for (std::size_t r = 0; r < rows_.size(); ++r) {
            const bool own = r >= rows_.size() - delivered_;
            if (own) row.credit = rows_[r].credit;
            for (const Resource& resource : rows_[r].resources)
                if (resource.kind == Entry) addItem(row, rows_[r], resource, own);
        }
        if (row.items.empty() && row.poses.empty()) {
            files_.say(Kind::Refused, "", "Nothing in it is an item",
                       "an entry must name a geometry or a pose");
            return std::nullopt;
        }
        return row;
    }

private:
    void read(const std::filesystem::path& folder, bool delivered) {
        std::vector<std::filesystem::path> found;
        std::error_code error;
        for (const auto& entry : std::filesystem::directory_iterator(folder, error))
            if (entry.path().extension() == ".rowpackage") found.push_back(entry.path());
        std::ranges::sort(found);
        for (const auto& path : found) {
            RowFile file = readRowFile(path);
            if (!file.problem.empty()) {
                files_.say(delivered ? Kind::Refused : Kind::Odd, file.file,
                           "The package cannot be read: " + file.problem, "Build it again");
                continue;
            }
            rows_.push_back(std::move(file));
            delivered_ += delivered;
        }
    }

    void addItem(Row& row, const RowFile& file, const Resource& entry, bool delivered) {
        const auto json = nlohmann::json::parse(entry.bytes, nullptr, false);
        Item item;
        item.title = textIn(json, "title").empty() ? entry.name : textIn(json, "title");
        item.file = file.file, item.bone = textIn(json, "bone"), item.delivered = delivered;
        const auto refuse = [&](const std::string& text, const std::string& detail) {
            files_.say(delivered ? Kind::Refused : Kind::Odd, file.file, text, detail);
        };
        if (textIn(json, "kind") == "pose") return addPose(row, file, json, item.title, delivered);
        const Table::Found shape = table_.find(textIn(json, "geometry"));
        if (!shape.resource)
            return refuse(fmt::format("\"{}\" has no shape", item.title), "its geometry is not there");
        const Resource* own = ownOf(file, textIn(json, "geometry"));
        if (shape.file != &file && (!own || own->bytes != shape.resource->bytes)) {
            item.wears = shape.file->file;
            files_.say(Kind::Refused, file.file,
                       fmt::format("\"{}\" of {} shows the shape of {}", item.title, file.file, item.wears),
                       own ? "both use one number for their geometry; give the copy numbers of its own"
                           : "it still points at the other's geometry");
        }
        std::string problem;
        auto groups = groupsOf(shape.resource->bytes, problem);
        if (!problem.empty()) return refuse(fmt::format("\"{}\" cannot be shown", item.title), problem);
        for (Group& group : groups) addPart(item, file, group, delivered);
        if (item.parts.empty())
            return refuse(fmt::format("\"{}\" is empty", item.title), "it has no triangles");
        if (delivered)
            files_.sayLimit(file.file, fmt::format("{} triangles", showNumber(double(item.triangles), 0)),
                            double(item.triangles), mostTriangles);
        row.items.push_back(std::move(item));
    }

    void addPose(Row& row, const RowFile& file, const nlohmann::json& entry, const std::string& title,
                 bool delivered) {
        if (!delivered) return;
        const Table::Found pose = table_.find(textIn(entry, "pose"));
        const auto json =
            pose.resource ? nlohmann::json::parse(pose.resource->bytes, nullptr, false) : nlohmann::json();
        if (!json.is_object() || !json.contains("bones") || !json["bones"].is_object())
            return files_.say(Kind::Refused, file.file, fmt::format("The pose \"{}\" cannot be read", title),
                              pose.resource ? "it names no bones" : "it is not there");
        Pose played{title, {}};
        for (const auto& [bone, turn] : json["bones"].items()) {
            const auto isNumber = [](const nlohmann::json& value) {
                return value.is_number() && std::abs(value.get<double>()) <= 2;
            };
            if (doll::boneNamed(bone) < 0)
                files_.say(Kind::Refused, file.file, fmt::format("The pose \"{}\" turns \"{}\"", title, bone),
                           "the game's figures have no such bone");
            else if (!turn.is_array() || turn.size() != 4 || !std::ranges::all_of(turn, isNumber) ||
                     !(glm::length(quaternion(turn)) > 0.01f))
                files_.say(Kind::Refused, file.file,
                           fmt::format("The pose \"{}\" turns \"{}\" by nothing", title, bone),
                           "takes the four numbers of a turn");
            else
                played.turns[bone] = glm::normalize(quaternion(turn));
        }
        files_.say(
            Kind::Fine, file.file,
            fmt::format("\"{}\" turns {}", title, showCount(long(json["bones"].size()), "bone", "bones")),
            "plays on every figure");
        row.poses.push_back(std::move(played));
    }

    void addPart(Item& item, const RowFile& file, Group& group, bool delivered) {
        if (group.shape.indices.empty()) return;
        Part part;
        item.triangles += group.shape.indices.size() / 3;
        const glm::vec3 low = group.shape.low(), high = group.shape.high();
        item.low = item.parts.empty() ? low : glm::min(item.low, low);
        item.high = item.parts.empty() ? high : glm::max(item.high, high);
        const Table::Found material = table_.find(group.material);
        const auto say = [&](const std::string& text, const std::string& detail) {
            if (said_.insert({file.file, text}).second)
                files_.say(delivered ? Kind::Refused : Kind::Odd, file.file, text, detail);
        };
        if (!group.material.empty() && !material.resource)
            say(fmt::format("\"{}\" wears nothing", group.name), "its material is not there");
        if (material.resource && delivered && !ownOf(file, group.material))
            say(fmt::format("\"{}\" wears a material of {}", group.name, material.file->file),
                "it changes when the other does; the reference still points there");
        if (material.resource) wear(part, *material.resource, say);
        part.shape = std::move(group.shape);
        world::addMissingNormals(part.shape);
        item.parts.push_back(std::move(part));
    }

    template <class Say>
    void wear(Part& part, const Resource& material, const Say& say) {
        const auto json = nlohmann::json::parse(material.bytes, nullptr, false);
        if (!json.is_object())
            return say(fmt::format("the material \"{}\" is broken", material.name), "it is no JSON");
        if (json.contains("colour") && json["colour"].is_array() && json["colour"].size() >= 3)
            for (int k = 0; k < 3; ++k)
                if (json["colour"][std::size_t(k)].is_number())
                    part.colour[k] = std::clamp(json["colour"][std::size_t(k)].get<float>(), 0.0f, 1.0f);
        const std::string key = json.contains("pictures") ? textIn(json["pictures"], "colour") : "";
        if (key.empty()) return;
        const Table::Found picture = table_.find(key);
        if (!picture.resource)
            return say(fmt::format("\"{}\" has no picture", material.name),
                       fmt::format("{} is not there", key));
        auto judged = world::judgedPicture(picture.resource->bytes, mostEdge, false);
        if (!judged.picture)
            say(fmt::format("the picture \"{}\": {}", picture.resource->name, judged.text), judged.detail);
        part.picture = std::move(judged.picture);
    }

    /// x, y, z, w.
    static glm::quat quaternion(const nlohmann::json& four) {
        return {four[3].get<float>(), four[0].get<float>(), four[1].get<float>(), four[2].get<float>()};
    }

    static const Resource* ownOf(const RowFile& file, const Key& key) {
        for (const Resource& resource : file.resources)
            if (resource.key == key) return &resource;
        return nullptr;
    }

    world::Files files_;
    std::vector<RowFile> rows_;
    std::size_t delivered_ = 0;
    Table table_;
    std::set<std::pair<std::string, std::string>> said_;
};

} // namespace

std::optional<Row> loadRow(const std::filesystem::path& folder, TryReport& report) {
    return Loader(folder, report).load();
}

} // namespace zl::standins::house
