#include "standins/region/scene_text.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/utf8.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <algorithm>
#include <set>
#include <sstream>

namespace fs = std::filesystem;

namespace zl::standins::region {

namespace {

using Kind = Message::Kind;
constexpr int deepest = 64;

class Loader {
public:
    Loader(world::Files& files, TryReport& report) : files_(files), report_(report) {}

    std::optional<DeliveredScene> load() {
        std::vector<std::string> found;
        std::error_code none;
        for (const auto& entry : fs::directory_iterator(files_.folder(), none))
            if (const std::string name = entry.path().filename().string(); name.ends_with(".scene.xml"))
                found.push_back(name);
        if (found.size() != 1) {
            files_.say(Kind::Refused, "", fmt::format("{} scenes are here", found.size()), "One is taken");
            return std::nullopt;
        }
        file_ = found[0];
        const auto bytes = files_.bytes(file_);
        if (!bytes) return std::nullopt;
        pugi::xml_document document;
        const auto parsed = document.load_buffer(bytes->data(), bytes->size());
        const pugi::xml_node root = document.child("scene");
        if (!parsed || !root) {
            files_.say(Kind::Refused, file_, "It is no scene",
                       parsed ? "It has no <scene>" : parsed.description());
            return std::nullopt;
        }
        if (std::string_view(root.attribute("version").value()) != "1")
            files_.say(Kind::Refused, file_, "It is of another version", "Version 1 is read");
        if (std::string_view(root.attribute("up").value()) != "Z" ||
            std::string_view(root.attribute("front").value()) != "+X")
            files_.say(Kind::Refused, file_, "It stands in other axes", "Up is Z, and ahead is +X");
        out_.name = asUtf8(root.attribute("name").value());
        readInto(root, 0, 0);
        judge(std::string_view(root.attribute("light").value()) == "in-pictures");
        if (out_.solids.empty()) files_.say(Kind::Refused, file_, "It has no solids", "");
        if (files_.refused()) return std::nullopt;
        report_.accepted = true;
        return std::move(out_);
    }

private:
    void readInto(pugi::xml_node in, int group, int depth) {
        if (depth > deepest) return files_.say(Kind::Refused, file_, "Its groups are nested too deep", "");
        for (pugi::xml_node node : in.children()) {
            const std::string_view name = node.name();
            if (name == "group") {
                const int number = node.attribute("number").as_int();
                if (number < 1 || out_.groups.contains(number))
                    return files_.say(Kind::Refused, file_,
                                      fmt::format("Group {} is none, or there twice", number), "");
                out_.groups[number] = {asUtf8(node.attribute("name").value()), group,
                                       node.attribute("lead").as_int()};
                readInto(node, number, depth + 1);
            } else if (name == "solid")
                addSolid(node, group);
        }
    }

    void addSolid(pugi::xml_node node, int group) {
        if (out_.solids.size() >= std::size_t(mostPlaces)) return;
        std::ostringstream text;
        text.imbue(std::locale::classic());
        node.print(text, "", pugi::format_raw);
        try {
            BuiltSolid solid = readSolid(text.str());
            solid.group = group;
            if (!numbers_.insert(solid.number).second)
                files_.say(Kind::Refused, file_, fmt::format("Two solids are number {}", solid.number), "");
            for (const auto& [face, picture] : solid.pictures) takePicture(picture);
            out_.places += solid.isShaped ? placesOfShaped : 1;
            out_.solids.push_back(std::move(solid));
        } catch (const Error& error) {
            files_.say(Kind::Refused, file_,
                       fmt::format("Solid {} is not taken", node.attribute("number").value()), error.what());
        }
    }

    void takePicture(const std::string& name) {
        if (out_.pictures.contains(name) || !asked_.insert(name).second) return;
        const auto bytes = files_.bytes(name);
        if (!bytes) return;
        world::Judged judged = world::judgedPicture(*bytes, mostPictureEdge, false);
        if (!judged.picture) return files_.say(Kind::Refused, name, judged.text, judged.detail);
        largest_ = std::max({largest_, judged.picture->width, judged.picture->height});
        out_.pictures[name] = std::move(*judged.picture);
    }

    int outermost(int group) const {
        for (std::size_t steps = 0; steps <= out_.groups.size(); ++steps) {
            const auto found = out_.groups.find(group);
            if (found == out_.groups.end() || found->second.within == 0) return group;
            group = found->second.within;
        }
        return group;
    }

    void judge(bool lit) {
        std::map<int, std::size_t> counts;
        for (const BuiltSolid& solid : out_.solids)
            if (solid.group != 0) ++counts[outermost(solid.group)];
        for (const auto& [group, count] : counts)
            files_.refuseOver(
                file_, fmt::format("Group {} \"{}\" has {} solids", group, out_.groups[group].name, count),
                double(count), double(mostInGroup));
        files_.sayLimit(file_, showCount(out_.places, "place in the region", "places in the region"),
                        double(out_.places), double(mostPlaces));
        if (!out_.pictures.empty())
            files_.sayLimit("",
                            fmt::format("{}, the largest of {} pixels a side",
                                        showCount(long(out_.pictures.size()), "picture", "pictures"),
                                        largest_),
                            largest_, mostPictureEdge);
        if (!lit)
            files_.say(Kind::Odd, file_, "Its light is not in its pictures",
                       "It stands there in its plain colours: there are no lights");
    }

    world::Files& files_;
    TryReport& report_;
    std::string file_;
    DeliveredScene out_;
    std::set<int> numbers_;
    std::set<std::string> asked_; ///< pictures that were asked for
    int largest_ = 0;             ///< pixels along an edge
};

} // namespace

std::optional<DeliveredScene> loadScene(world::Files& files, TryReport& report) {
    return Loader(files, report).load();
}

} // namespace zl::standins::region
