#include "core/formats/scene_file.h"

#include "core/base/error.h"
#include "core/base/plain_number.h"
#include "core/base/utf8.h"
#include "core/formats/xml_text.h"
#include "core/model/axes.h"
#include "core/solids/scene_fields.h"

#include <fmt/format.h>

namespace zl::formats {

namespace {

using namespace solids;

constexpr int sceneVersion = 1;
constexpr int deepest = 64; ///< groups within groups, so that no file makes the reader run out of stack

/// Places and turns in other axes: a solid's own go along, so its across, up and along stay what they are.
Scene inAxes(Scene scene, const glm::dmat3& turn) {
    if (turn == glm::dmat3(1)) return scene;
    const glm::dquat by = glm::quat_cast(turn);
    const auto move = [&](auto& part) {
        part.at = turn * part.at;
        part.turn = degreesOf(by * turned(part.turn) * glm::conjugate(by));
    };
    for (auto& [number, solid] : scene.solids) move(solid);
    for (auto& [number, light] : scene.lights) move(light);
    return scene;
}

template <class T>
concept Row = requires(T value) {
    value.length(), value[0];
}
&&!std::is_same_v<T, std::string>;

std::string numberText(auto value) {
    char digits[32];
    return {digits, std::to_chars(digits, digits + sizeof digits, value).ptr};
}

template <class T>
std::string textOf(const T& value) {
    if constexpr (Named<T>)
        return std::string(nameOf(value));
    else if constexpr (std::is_same_v<T, std::string>)
        return xmlText(value);
    else if constexpr (Row<T>) {
        std::string out;
        for (int k = 0; k < T::length(); ++k) out += (k ? " " : "") + numberText(value[k]);
        return out;
    } else
        return numberText(value);
}

/// Writes attributes, those that are as usual left out.
template <class T, class Each>
void attributes(pugi::xml_node node, const T& value, const T& usual, Each each) {
    std::map<std::string_view, std::string> usually;
    each(usual, [&](std::string_view name, const auto& field) { usually[name] = textOf(field); });
    each(value, [&](std::string_view name, const auto& field) {
        if (const std::string text = textOf(field); text != usually[name])
            node.append_attribute(std::string(name).c_str()) = text.c_str();
    });
}

class Reader {
public:
    explicit Reader(std::string where) : where_(std::move(where)) {}

    SceneFile read(std::string_view bytes) {
        pugi::xml_document document;
        const auto parsed = document.load_buffer(bytes.data(), bytes.size());
        if (!parsed) fail(fmt::format("is not XML ({}, at byte {})", parsed.description(), parsed.offset));
        const pugi::xml_node root = document.child("scene");
        if (!root) fail("has no <scene>");
        int version = 0;
        Taken taken(*this, root);
        taken("version", version);
        if (version != sceneVersion)
            fail(fmt::format("is of version {}, and this program knows {}", root.attribute("version").value(),
                             sceneVersion));
        SceneFile out;
        taken("name", out.name);
        taken("sides", out.scene.sides);
        out.lit = std::string_view(root.attribute("light").value()) == "in-pictures";
        const std::string_view up = root.attribute("up").value(), front = root.attribute("front").value();
        if (up != "Y" && up != "Z") fail("does not say which axis is up, Y or Z");
        const glm::dvec3 ahead = axisNamed(front);
        if (ahead == glm::dvec3(0) || std::abs(up == "Y" ? ahead.y : ahead.z) > 0.5)
            fail("does not say which axis is in front");
        readInto(out.scene, root, 0, 0);
        try {
            demandScene(out.scene);
        } catch (const Error& error) {
            fail(error.where().empty() ? error.what() : error.where() + ": " + error.what());
        }
        out.scene = inAxes(std::move(out.scene),
                           glm::transpose(glm::dmat3(worldToAxes(up == "Y" ? Up::Y : Up::Z, front))));
        return out;
    }

private:
    [[noreturn]] void fail(const std::string& why) const { throw Error(why, where_); }

    /// Takes fields from attributes; those that are not there stay as they are.
    struct Taken {
        const Reader& reader;
        pugi::xml_node node;
        Taken(const Reader& of, pugi::xml_node from) : reader(of), node(from) {}

        template <class T>
        void operator()(std::string_view name, T& value) const {
            const pugi::xml_attribute attribute = node.attribute(std::string(name).c_str());
            if (attribute && !read(attribute.value(), value))
                reader.fail(fmt::format("\"{}\" of <{}> at byte {} is \"{}\"", name, node.name(),
                                        node.offset_debug(), attribute.value()));
        }
        template <class T>
        static bool read(std::string_view text, T& value) {
            if constexpr (Named<T>)
                return readName(text, value);
            else if constexpr (std::is_same_v<T, std::string>)
                return value = xmlText(asUtf8(text)), true;
            else if constexpr (Row<T>) {
                for (int k = 0; k < T::length(); ++k) {
                    const auto one = plainNumber<typename T::value_type>(text, &text);
                    if (!one) return false;
                    value[k] = *one;
                }
                return text.find_first_not_of(" \t\r\n") == text.npos;
            } else {
                const auto one = onlyNumber<T>(text);
                if (one) value = *one;
                return one.has_value();
            }
        }
    };

    Number number(pugi::xml_node node) const {
        Number out = 0;
        Taken(*this, node)("number", out);
        if (out <= 0) fail(fmt::format("a <{}> at byte {} has no number", node.name(), node.offset_debug()));
        return out;
    }
    template <class T>
    T& add(std::map<Number, T>& parts, pugi::xml_node node) const {
        const auto [place, isNew] = parts.try_emplace(number(node));
        if (!isNew) fail(fmt::format("has two <{}> of number {}", node.name(), place->first));
        return place->second;
    }

    void readInto(Scene& scene, pugi::xml_node in, Number group, int depth) const {
        if (depth > deepest) fail("has groups within groups too deep");
        for (const pugi::xml_node node : in.children()) {
            const std::string_view name = node.name();
            const Taken taken(*this, node);
            if (name == "group") {
                Group& made = add(scene.groups, node);
                eachOfGroup(made, taken);
                made.within = group;
                readInto(scene, node, number(node), depth + 1);
            } else if (name == "solid") {
                if (scene.solids.size() >= mostSolids) fail("has more solids than can be worked with");
                Solid& made = add(scene.solids, node);
                eachOfSolid(made, taken);
                made.group = group;
                eachOfShape(made.shape, taken);
                readLooks(made, node);
            } else if (name == "light" && group == 0) {
                Light& made = add(scene.lights, node);
                eachOfLight(made, taken);
            } else if (!name.empty())
                fail(fmt::format("has a <{}> at byte {}, which is not known there", name,
                                 node.offset_debug()));
        }
    }

    void readLooks(Solid& solid, pugi::xml_node in) const {
        for (const pugi::xml_node node : in.children()) {
            const std::string_view name = node.name();
            Look look;
            eachOfLook(look, Taken(*this, node));
            int face = -1;
            if (name == "look")
                solid.look = look;
            else if (name == "face") {
                Taken(*this, node)("face", face);
                if (!solid.faces.emplace(face, look).second)
                    fail(fmt::format("says twice what face {} looks like", face));
            } else if (!name.empty())
                fail(fmt::format("has a <{}> in a solid, which is not known there", name));
        }
    }

    std::string where_;
};

class Writer {
public:
    explicit Writer(const Scene& scene)
        : scene_(scene), within_(scene.groupsWithin()), solids_(scene.solidsIn()) {}

    void groups(pugi::xml_node into, Number in) {
        if (const auto found = solids_.find(in); found != solids_.end())
            for (const Number number : found->second) solid(into, number);
        if (const auto found = within_.find(in); found != within_.end())
            for (const Number number : found->second) {
                pugi::xml_node node = into.append_child("group");
                node.append_attribute("number") = number;
                Group group = scene_.groups.at(number);
                group.within = 0; // the tree says so
                attributes(node, group, Group(), [](auto& of, auto f) { eachOfGroup(of, f); });
                groups(node, number);
            }
    }

private:
    void solid(pugi::xml_node into, Number number) {
        pugi::xml_node node = into.append_child("solid");
        node.append_attribute("number") = number;
        Solid solid = scene_.solids.at(number);
        solid.group = 0;
        // What everybody looks for is said also where it is as usual.
        Solid usual;
        usual.shape.kind = solid.shape.kind == Kind::Box ? Kind::Ball : Kind::Box;
        usual.shape.size = {-1, -1, -1}, usual.at = {furthest, furthest, furthest};
        attributes(node, solid, usual, [](auto& of, auto f) { eachOfSolid(of, f); });
        attributes(node, solid.shape, usual.shape, [](auto& of, auto f) { eachOfShape(of, f); });
        const auto looks = [](auto& of, auto f) { eachOfLook(of, f); };
        attributes(node.append_child("look"), solid.look, Look(), looks);
        for (const auto& [face, look] : solid.faces) {
            pugi::xml_node own = node.append_child("face");
            own.append_attribute("face") = face;
            attributes(own, look, Look(), looks);
        }
    }

    const Scene& scene_;
    std::map<Number, std::vector<Number>> within_, solids_;
};

} // namespace

std::string writeScene(const SceneFile& file, Up up, const std::string& front) {
    const std::string ahead = front.empty() ? std::string(usualFront(up)) : front;
    const Scene scene = inAxes(file.scene, glm::dmat3(worldToAxes(up, ahead)));
    pugi::xml_document document;
    pugi::xml_node declaration = document.append_child(pugi::node_declaration);
    declaration.append_attribute("version") = "1.0";
    declaration.append_attribute("encoding") = "UTF-8";
    pugi::xml_node root = document.append_child("scene");
    root.append_attribute("version") = sceneVersion;
    root.append_attribute("name") = xmlText(file.name).c_str();
    root.append_attribute("up") = up == Up::Y ? "Y" : "Z";
    root.append_attribute("front") = ahead.c_str();
    root.append_attribute("sides") = scene.sides;
    if (file.lit) root.append_attribute("light") = "in-pictures";
    Writer(scene).groups(root, 0);
    for (const auto& [number, light] : scene.lights) {
        pugi::xml_node node = root.append_child("light");
        node.append_attribute("number") = number;
        Light usual;
        usual.at = {furthest, furthest, furthest}, usual.size = {-1, -1}, usual.strength = -1;
        usual.kind = light.kind == LightKind::Sun ? LightKind::Lamp : LightKind::Sun;
        attributes(node, light, usual, [](auto& of, auto f) { eachOfLight(of, f); });
    }
    return printedXml(document, "  ");
}

SceneFile readScene(std::string_view bytes, const std::string& where) {
    return Reader(where).read(bytes);
}

} // namespace zl::formats
