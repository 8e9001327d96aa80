// PLY, text and binary of both byte orders. Source: Greg Turk, "The PLY Polygon File Format" (1994).
// Elements other than vertex, face and tristrips are passed over and named in `dropped`.
#include "core/formats/format.h"
#include "core/formats/text.h"

#include "core/base/error.h"
#include "core/geometry/polygon.h"

#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <cstring>
#include <map>
#include <utility>

namespace zl::formats {

namespace {

enum class Type { I8, U8, I16, U16, I32, U32, F32, F64 };

std::size_t sizeOf(Type type) {
    constexpr std::size_t sizes[] = {1, 1, 2, 2, 4, 4, 4, 8};
    return sizes[static_cast<int>(type)];
}

struct Property {
    std::string name;
    Type type = Type::F32;
    bool isList = false;
    Type countType = Type::U8;
};

struct Element {
    std::string name;
    std::size_t count = 0;
    std::vector<Property> properties;
};

struct Header {
    enum class Coding { Text, Little, Big } coding = Coding::Text;
    std::vector<Element> elements;
    std::size_t bodyStart = 0;
};

Type typeNamed(std::string_view name, const std::string& where) {
    static const std::map<std::string_view, Type> names{
        {"char", Type::I8},   {"int8", Type::I8},     {"uchar", Type::U8},   {"uint8", Type::U8},
        {"short", Type::I16}, {"int16", Type::I16},   {"ushort", Type::U16}, {"uint16", Type::U16},
        {"int", Type::I32},   {"int32", Type::I32},   {"uint", Type::U32},   {"uint32", Type::U32},
        {"float", Type::F32}, {"float32", Type::F32}, {"double", Type::F64}, {"float64", Type::F64}};
    const auto found = names.find(name);
    if (found == names.end()) throw Error(fmt::format("names an unknown number type \"{}\"", name), where);
    return found->second;
}

Header readHeader(std::string_view text, const std::string& where) {
    Header header;
    Scanner scan(text);
    if (scan.word() != "ply")
        throw Error("does not begin like a PLY file", where, "Check the file's ending.");
    bool ended = false;
    while (!scan.atEnd() && !ended) {
        scan.skipSpace();
        const std::string_view word = scan.word();
        scan.skipBlanks();
        if (word == "format") {
            const std::string_view coding = scan.word();
            if (coding == "binary_little_endian")
                header.coding = Header::Coding::Little;
            else if (coding == "binary_big_endian")
                header.coding = Header::Coding::Big;
            else if (coding != "ascii")
                throw Error(fmt::format("is coded as \"{}\", which is not known", coding), where);
        } else if (word == "element") {
            Element element;
            element.name = scan.word();
            scan.skipBlanks();
            if (!scan.number(element.count)) throw Error("has an element without a count", where);
            header.elements.push_back(std::move(element));
        } else if (word == "property") {
            if (header.elements.empty()) throw Error("has a property before any element", where);
            Property property;
            std::string_view type = scan.word();
            scan.skipBlanks();
            if (type == "list") {
                property.isList = true;
                property.countType = typeNamed(scan.word(), where);
                scan.skipBlanks();
                type = scan.word();
                scan.skipBlanks();
            }
            property.type = typeNamed(type, where);
            property.name = scan.word();
            header.elements.back().properties.push_back(std::move(property));
        } else if (word == "end_header") {
            ended = true;
        }
        scan.skipLine();
    }
    if (!ended)
        throw Error("has a header without an end", where, "The file was cut off; export or copy it again.");
    header.bodyStart = static_cast<std::size_t>(scan.position() - text.data());
    return header;
}

/// Numbers one after another, from text or from bytes.
class Body {
public:
    Body(std::string_view bytes, Header::Coding coding, std::string where)
        : bytes_(bytes), scan_(bytes), coding_(coding), where_(std::move(where)) {}

    double next(Type type) {
        if (coding_ == Header::Coding::Text) {
            scan_.skipSpace();
            double value = 0;
            if (!scan_.number(value)) cutOff();
            return value;
        }
        const std::size_t size = sizeOf(type);
        if (bytes_.size() < size) cutOff();
        char raw[8];
        std::memcpy(raw, bytes_.data(), size);
        bytes_.remove_prefix(size);
        if (coding_ == Header::Coding::Big) std::reverse(raw, raw + size);
        switch (type) {
        case Type::I8:
            return std::bit_cast<std::int8_t>(raw[0]);
        case Type::U8:
            return std::bit_cast<std::uint8_t>(raw[0]);
        case Type::I16:
            return as<std::int16_t>(raw);
        case Type::U16:
            return as<std::uint16_t>(raw);
        case Type::I32:
            return as<std::int32_t>(raw);
        case Type::U32:
            return as<std::uint32_t>(raw);
        case Type::F32:
            return as<float>(raw);
        case Type::F64:
            return as<double>(raw);
        }
        return 0;
    }
    /// What is left can hold at most this many of something that takes at least `least` bytes each.
    std::size_t roomFor(std::size_t least) const {
        return (coding_ == Header::Coding::Text ? bytes_.size() / 2 + 1
                                                : bytes_.size() / std::max<std::size_t>(1, least));
    }
    [[noreturn]] void cutOff() const {
        throw Error("ends before the numbers its header promises", where_,
                    "The file was cut off; export or copy it again.");
    }

private:
    template <class T>
    static T as(const char* raw) {
        T value;
        std::memcpy(&value, raw, sizeof value);
        return value;
    }
    std::string_view bytes_;
    Scanner scan_;
    Header::Coding coding_;
    std::string where_;
};

enum class Slot { X, Y, Z, NX, NY, NZ, R, G, B, A, U, V, Other };

Slot slotOf(const std::string& name) {
    static const std::map<std::string_view, Slot> names{
        {"x", Slot::X},           {"y", Slot::Y},           {"z", Slot::Z},
        {"nx", Slot::NX},         {"ny", Slot::NY},         {"nz", Slot::NZ},
        {"red", Slot::R},         {"green", Slot::G},       {"blue", Slot::B},
        {"alpha", Slot::A},       {"r", Slot::R},           {"g", Slot::G},
        {"b", Slot::B},           {"u", Slot::U},           {"v", Slot::V},
        {"s", Slot::U},           {"t", Slot::V},           {"texture_u", Slot::U},
        {"texture_v", Slot::V},   {"diffuse_red", Slot::R}, {"diffuse_green", Slot::G},
        {"diffuse_blue", Slot::B}};
    const auto found = names.find(name);
    return found == names.end() ? Slot::Other : found->second;
}

std::size_t leastBytes(const Element& element) {
    std::size_t bytes = 0;
    for (const Property& p : element.properties) bytes += sizeOf(p.isList ? p.countType : p.type);
    return bytes;
}

void readVertices(const Element& element, Body& body, Mesh& mesh, Model& model, const Progress& progress) {
    if (element.count > body.roomFor(leastBytes(element))) body.cutOff();
    std::vector<Slot> slots;
    std::vector<float> scale;
    bool has[13] = {};
    for (const Property& p : element.properties) {
        slots.push_back(slotOf(p.name));
        has[static_cast<int>(slots.back())] = true;
        const bool colour = slots.back() >= Slot::R && slots.back() <= Slot::A;
        scale.push_back(colour && p.type == Type::U8    ? 1 / 255.0f
                        : colour && p.type == Type::U16 ? 1 / 65535.0f
                                                        : 1.0f);
        if (slots.back() == Slot::Other)
            model.dropped.push_back(fmt::format("vertex property \"{}\"", p.name));
    }
    const auto hasSlot = [&](Slot slot) { return has[static_cast<int>(slot)]; };
    mesh.positions.resize(element.count);
    if (hasSlot(Slot::NX)) mesh.normals.resize(element.count);
    if (hasSlot(Slot::R)) mesh.colours.resize(element.count);
    if (hasSlot(Slot::U)) mesh.uvSets.emplace_back(element.count);
    float value[13];
    for (std::size_t i = 0; i < element.count; ++i) {
        if ((i & 0xffff) == 0) progress.report(0.5 * double(i) / double(element.count), "reading corners");
        value[static_cast<int>(Slot::A)] = 1;
        for (std::size_t k = 0; k < slots.size(); ++k) {
            const Property& p = element.properties[k];
            if (p.isList) {
                const double count = body.next(p.countType);
                for (double n = 0; n < count; ++n) body.next(p.type);
            } else {
                value[static_cast<int>(slots[k])] = static_cast<float>(body.next(p.type)) * scale[k];
            }
        }
        mesh.positions[i] = {value[0], value[1], value[2]};
        if (!mesh.normals.empty()) mesh.normals[i] = {value[3], value[4], value[5]};
        if (!mesh.colours.empty()) mesh.colours[i] = {value[6], value[7], value[8], value[9]};
        if (!mesh.uvSets.empty()) mesh.uvSets[0][i] = {value[10], 1 - value[11]};
    }
}

void readFaces(const Element& element, Body& body, Mesh& mesh, Model& model, const Progress& progress) {
    if (element.count > body.roomFor(leastBytes(element))) body.cutOff();
    const bool strips = element.name == "tristrips";
    std::vector<std::uint32_t> polygon, cutUp;
    std::vector<glm::vec3> outline;
    std::size_t bad = 0;
    for (const Property& p : element.properties)
        if (p.name != "vertex_indices" && p.name != "vertex_index")
            model.dropped.push_back(fmt::format("face property \"{}\"", p.name));
    const auto addPolygon = [&] {
        if (polygon.size() < 3 ||
            std::ranges::any_of(polygon, [&](std::uint32_t v) { return v >= mesh.positions.size(); })) {
            ++bad;
        } else if (polygon.size() == 3) {
            mesh.indices.insert(mesh.indices.end(), polygon.begin(), polygon.end());
        } else {
            outline.clear(), cutUp.clear();
            for (const std::uint32_t v : polygon) outline.push_back(mesh.positions[v]);
            geometry::triangulate(outline, cutUp);
            for (const std::uint32_t k : cutUp) mesh.indices.push_back(polygon[k]);
        }
    };
    const auto addStrip = [&] {
        bool turn = false;
        for (std::size_t k = 0; k + 2 < polygon.size(); ++k, turn = !turn) {
            const std::uint32_t a = polygon[k], b = polygon[k + 1], c = polygon[k + 2];
            if (std::max({a, b, c}) >= mesh.positions.size()) { // ~0 begins a new strip
                turn = true;
                continue;
            }
            mesh.indices.insert(mesh.indices.end(), {a, turn ? c : b, turn ? b : c});
        }
    };
    for (std::size_t i = 0; i < element.count; ++i) {
        if ((i & 0xffff) == 0)
            progress.report(0.5 + 0.5 * double(i) / double(element.count), "reading faces");
        for (const Property& p : element.properties) {
            if (!p.isList) {
                body.next(p.type);
                continue;
            }
            const double count = body.next(p.countType);
            if (count < 0 || count > double(body.roomFor(sizeOf(p.type)))) body.cutOff();
            polygon.clear();
            for (double n = 0; n < count; ++n) {
                const double index = body.next(p.type);
                polygon.push_back(index >= 0 && index < 4294967295.0 ? static_cast<std::uint32_t>(index)
                                                                     : ~0u);
            }
            if (p.name != "vertex_indices" && p.name != "vertex_index") continue;
            strips ? addStrip() : addPolygon();
        }
    }
    if (bad > 0)
        model.warnings.push_back(fmt::format("left out {}: no such corners in the file",
                                             showCount(static_cast<long long>(bad), "face", "faces")));
}

} // namespace

Model readPly(files::SourceFile& source, const Progress& progress) {
    const FileBytes file = source.bytes();
    std::string storage;
    const std::string_view text = textOf(file, storage);
    const Header header = readHeader(text, source.where());
    Body body(text.substr(header.bodyStart), header.coding, source.where());
    Model model;
    auto mesh = std::make_shared<Mesh>();
    mesh->name = source.stem();
    bool hasCorners = false;
    for (const Element& element : header.elements) {
        if (element.name == "vertex" && !std::exchange(hasCorners, true)) { // a second list is nobody's
            readVertices(element, body, *mesh, model, progress);
        } else if (element.name == "face" || element.name == "tristrips") {
            readFaces(element, body, *mesh, model, progress);
        } else {
            if (element.count > 0) model.dropped.push_back(fmt::format("element \"{}\"", element.name));
            if (element.properties.empty()) continue;
            for (std::size_t i = 0; i < element.count; ++i)
                for (const Property& p : element.properties) {
                    const double count = p.isList ? body.next(p.countType) : 1;
                    for (double n = 0; n < count; ++n) body.next(p.type);
                }
        }
    }
    if (mesh->positions.empty()) throw Error("holds no corners", source.where(), "Check that it is a model.");
    mesh->runs = {{0, static_cast<std::uint32_t>(mesh->triangleCount()), -1}};
    model.nodes.push_back({mesh->name, -1, glm::dmat4(1.0), 0});
    model.meshes.push_back(std::move(mesh));
    return model;
}

} // namespace zl::formats
