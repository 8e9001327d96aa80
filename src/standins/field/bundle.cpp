#include "standins/field/bundle.h"

#include "standins/world/glb_tree.h"
#include "standins/world/packed_files.h"

#include "core/base/letters.h"
#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <fstream>
#include <set>

namespace fs = std::filesystem;

namespace zl::standins::field {

namespace {

using Kind = Message::Kind;
using Json = nlohmann::json;

// The game's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::string_view engine = "4.1";
constexpr std::size_t mostTriangles = 8000, mostBodyTriangles = 600, mostBytes = 64u << 20;
constexpr double wholeWithin = 0.02, mostFile = 8e6;
constexpr int mostEdge = 512;

class Reader {
public:
    Reader(const fs::path& folder, TryReport& report) : files_(folder, report) {}

    std::optional<Thing> read() {
        if (files_.refused() || !unpack()) return std::nullopt;
        const Json about = description();
        if (about.is_null()) return std::nullopt;
        Thing thing;
        thing.name = about["name"], thing.credit = about["credit"];
        if (about["engine"] != engine)
            return refuse(fmt::format("It was made for {}", about["engine"].get<std::string>()),
                          fmt::format("the field runs {} and loads nothing of another version", engine));
        const auto model = zip_.entries.find(about["model"].get<std::string>());
        if (model == zip_.entries.end())
            return refuse(fmt::format("{} is not in it", about["model"].get<std::string>()),
                          "build it again");
        std::set<std::string> bodies;
        if (about.contains("bodies") && about["bodies"].is_array())
            for (const Json& body : about["bodies"])
                if (body.is_string()) bodies.insert(body);
        if (!readModel(model->second, about["holder"], bodies, thing)) return std::nullopt;
        judge(thing);
        return thing;
    }

private:
    std::nullopt_t refuse(const std::string& text, const std::string& detail) {
        files_.say(Kind::Refused, file_, text, detail);
        return std::nullopt;
    }

    bool unpack() {
        std::error_code error;
        for (const auto& entry : fs::directory_iterator(files_.folder(), error)) {
            const std::string name = entry.path().filename().string();
            if (!name.ends_with(".bundle.zip")) continue;
            if (!file_.empty()) {
                refuse("There are two bundles", "put one into a folder");
                return false;
            }
            file_ = name;
        }
        if (file_.empty()) {
            refuse("There is no bundle", "a file that ends in .bundle.zip");
            return false;
        }
        const auto bytes = files_.bytes(file_);
        if (!bytes) return false;
        files_.sayBytes(file_, showBytes(double(bytes->size())), double(bytes->size()), mostFile);
        zip_ = world::readZip(*bytes, mostBytes);
        if (!zip_.problem.empty()) refuse("The bundle cannot be opened: " + zip_.problem, "build it again");
        return zip_.problem.empty();
    }

    Json description() {
        const auto found = zip_.entries.find("bundle.json");
        const Json about = found == zip_.entries.end() ? Json() : Json::parse(found->second, nullptr, false);
        const auto fault = [&](const std::string& why) {
            refuse(why, "build it again");
            return Json();
        };
        if (!about.is_object()) return fault("It has no bundle.json");
        if (about.value("format", Json()) != "block-bundle" || about.value("version", Json()) != 1)
            return fault("bundle.json is of another kind");
        for (const char* key : {"name", "engine", "model", "holder", "credit"})
            if (!about.contains(key) || !about[key].is_string())
                return fault(fmt::format("bundle.json has no \"{}\"", key));
        return about;
    }

    /// The marks of a node as the file has them, whatever they are.
    static std::map<int, std::string> marksOf(const Json& node) {
        std::map<int, std::string> out;
        if (!node.contains("extras") || !node["extras"].is_object()) return out;
        const Json marks = node["extras"].value("marks", Json());
        if (!marks.is_object()) return out;
        for (const auto& [key, value] : marks.items())
            if (value.is_string() && !key.empty() && key.size() < 4 &&
                key.find_first_not_of("0123456789") == std::string::npos)
                out[std::stoi(key)] = value;
        return out;
    }

    bool readModel(const std::string& bytes, const std::string& holder, const std::set<std::string>& bodies,
                   Thing& thing) {
        const world::GlbTree tree = world::readGlbTree(bytes);
        if (!tree.problem.empty()) {
            refuse("The model cannot be read: " + tree.problem, "build it again");
            return false;
        }
        std::vector<std::size_t> tops;
        for (std::size_t n = 0; n < tree.nodes.size(); ++n)
            if (tree.nodes[n].above < 0) tops.push_back(n);
        if (tops.size() != 1 || tree.nodes[tops[0]].name != holder || !tree.nodes[tops[0]].surfaces.empty()) {
            refuse("Nothing holds it",
                   fmt::format("one empty node \"{}\" around everything is wanted", holder));
            return false;
        }
        if (holder != thing.name + ".holder")
            files_.say(Kind::Refused, file_, fmt::format("The holder is called \"{}\"", holder),
                       fmt::format("it must be {}.holder", thing.name));
        if (tree.nodes[tops[0]].local != glm::mat4(1.0f))
            files_.say(Kind::Refused, file_, "The holder does not stand at rest",
                       "at the origin, neither turned nor scaled");
        readMarks(bytes, holder, thing);
        thing.low = glm::vec3(1e30f), thing.high = glm::vec3(-1e30f);
        for (const world::GlbNode& node : tree.nodes) {
            const bool isBody = bodies.contains(node.name);
            (isBody ? bodyTriangles_ : triangles_) += node.triangles;
            for (const world::GlbSurface& surface : node.surfaces) {
                if (isBody) {
                    thing.bodies.push_back(surface.shape);
                    continue;
                }
                for (const glm::vec3& p : surface.shape.positions)
                    thing.low = glm::min(thing.low, p), thing.high = glm::max(thing.high, p);
                world::Item item{node.name, surface.shape};
                if (surface.material >= 0) look(tree.materials[std::size_t(surface.material)], item);
                world::addMissingNormals(item.shape);
                item.shape.uvs.resize(item.shape.positions.size(), glm::vec2(0));
                thing.parts.push_back(std::move(item));
            }
        }
        if (triangles_ == 0) refuse("There is nothing to see", "it holds no triangles");
        return triangles_ > 0;
    }

    void look(const world::GlbData::Look& of, world::Item& item) {
        item.colour = of.colour;
        if (!of.hasPicture || of.pictureBytes.empty()) return;
        world::Judged judged = world::judgedPicture(of.pictureBytes, mostEdge, false);
        if (judged.picture)
            item.picture = std::move(judged.picture);
        else if (refusedPictures_.insert(judged.text).second)
            files_.say(Kind::Refused, file_, judged.text, judged.detail);
    }

    void readMarks(const std::string& bytes, const std::string& holder, Thing& thing) {
        const world::GlbData data(bytes); // it was read already, so it can be
        for (const Json& node : data.list("nodes")) {
            const auto marks = marksOf(node);
            if (node.value("name", "") == holder)
                thing.marks = marks;
            else if (!marks.empty())
                files_.say(Kind::Odd, file_, fmt::format("\"{}\" has marks", node.value("name", "")),
                           "the game reads those of the holder, and says nothing of others");
        }
        for (const auto& [place, name] : thing.marks) {
            const auto known = std::ranges::find(abilities, place, &Ability::place);
            if (known == std::end(abilities))
                files_.say(Kind::Odd, file_, fmt::format("\"{}\" stands in place {}", name, place),
                           "the game reads nothing there, and says nothing of it");
            else if (name != known->mark)
                files_.say(Kind::Odd, file_, fmt::format("\"{}\" stands in place {}", name, place),
                           fmt::format("the game looks for \"{}\" there, to the letter", known->mark));
        }
    }

    void judge(Thing& thing) {
        files_.sayLimit(file_, showNumber(double(triangles_), 0) + " triangles", double(triangles_),
                        mostTriangles);
        const glm::vec3 size = thing.high - thing.low;
        double off = 0;
        for (int k = 0; k < 3; ++k) {
            thing.blocks[std::size_t(k)] = std::max(1, int(std::lround(size[k])));
            off = std::max(off, std::abs(double(size[k]) - thing.blocks[std::size_t(k)]) /
                                    thing.blocks[std::size_t(k)]);
        }
        const bool whole = off <= wholeWithin + 1e-6;
        files_.say(
            whole ? Kind::Fine : Kind::Refused, file_,
            fmt::format("{} × {} × {} blocks", showMeasure(size.x), showMeasure(size.y), showMeasure(size.z)),
            whole ? "it fills whole blocks"
                  : fmt::format("{} % off whole ones; takes 2 %", showNumber(100 * off, 1)));
        if (thing.bodies.empty())
            files_.say(Kind::Odd, file_, "It has no body",
                       "arrows pass through, and nobody can take hold of it");
        else
            files_.sayLimit(file_, showCount(long(bodyTriangles_), "face of its body", "faces of its body"),
                            double(bodyTriangles_), mostBodyTriangles);
    }

    world::Files files_;
    std::string file_;
    world::PackedFiles zip_;
    std::size_t triangles_ = 0, bodyTriangles_ = 0;
    std::set<std::string> refusedPictures_;
};

} // namespace

std::string Thing::whyNot(const Ability& ability) const {
    if (can(ability))
        return ability.place == 2 && bodies.empty() ? "it has no body to take hold of" : std::string();
    const auto there = marks.find(ability.place);
    if (there != marks.end())
        return fmt::format("place {} says \"{}\" and not \"{}\"", ability.place, there->second, ability.mark);
    for (const auto& [place, name] : marks)
        if (lowerCase(name) == lowerCase(ability.mark))
            return fmt::format("\"{}\" stands in place {} and not in place {}", name, place, ability.place);
    return fmt::format("place {} is empty", ability.place);
}

std::optional<Thing> loadThing(const fs::path& folder, TryReport& report) {
    auto thing = Reader(folder, report).read();
    report.accepted = thing.has_value() && std::ranges::none_of(report.messages, [](const Message& m) {
                          return m.kind == Kind::Refused;
                      });
    return thing;
}

} // namespace zl::standins::field
