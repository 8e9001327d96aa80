// PLY (Turk, "The PLY Polygon File Format", 1994): text, and binary of either order; corners and faces,
// whatever else an element has.
#include "standins/files/formats/readers.h"

#include "core/base/plain_number.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>
#include <sstream>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

/// What a number of an element is for; each has one slot among those that are kept.
enum Slot { X, Y, Z, Nx, Ny, Nz, U, V, Slots, Corners, Unused };

Slot slotOf(const std::string& name) {
    static const std::map<std::string, Slot> known{{"x", X},
                                                   {"y", Y},
                                                   {"z", Z},
                                                   {"nx", Nx},
                                                   {"ny", Ny},
                                                   {"nz", Nz},
                                                   {"s", U},
                                                   {"u", U},
                                                   {"texture_u", U},
                                                   {"t", V},
                                                   {"v", V},
                                                   {"texture_v", V},
                                                   {"vertex_indices", Corners},
                                                   {"vertex_index", Corners}};
    const auto found = known.find(name);
    return found == known.end() ? Unused : found->second;
}

struct Property {
    std::string type, countType; ///< a list's numbers have a type, and so has how many they are
    Slot slot = Unused;
};
struct Element {
    std::string name;
    std::size_t count = 0;
    std::vector<Property> properties;
};

/// Numbers one after another, as the head says that they are written.
class Numbers {
public:
    Numbers(std::string_view rest, const std::string& format) : rest_(rest), text_(format == "ascii") {
        if (!text_ && format != "binary_little_endian" && format != "binary_big_endian")
            throw Broken{"it is written in a way that nobody knows"};
        turned_ = !text_ && (format == "binary_big_endian") == (std::endian::native == std::endian::little);
    }

    double next(const std::string& type) {
        if (text_) {
            const auto value = plainNumber<double>(rest_, &rest_);
            if (!value) throw Broken{"it is cut short, or a number is none"};
            return *value;
        }
        if (type == "float" || type == "float32") return plain<float>(); // mostly
        if (type == "char" || type == "int8") return plain<std::int8_t>();
        if (type == "uchar" || type == "uint8") return plain<std::uint8_t>();
        if (type == "short" || type == "int16") return plain<std::int16_t>();
        if (type == "ushort" || type == "uint16") return plain<std::uint16_t>();
        if (type == "int" || type == "int32") return plain<std::int32_t>();
        if (type == "uint" || type == "uint32") return plain<std::uint32_t>();
        if (type == "double" || type == "float64") return plain<double>();
        throw Broken{"a number is of a type that nobody knows"};
    }
    std::size_t left() const { return rest_.size(); }

private:
    template <class T>
    double plain() {
        if (rest_.size() < sizeof(T)) throw Broken{"it is cut short"};
        char bytes[sizeof(T)];
        std::memcpy(bytes, rest_.data(), sizeof(T));
        rest_.remove_prefix(sizeof(T));
        if (turned_) std::reverse(bytes, bytes + sizeof(T));
        T value;
        std::memcpy(&value, bytes, sizeof(T));
        return double(value);
    }

    std::string_view rest_;
    bool text_, turned_;
};

/// The head up to the line that ends it: the elements in their order, and how numbers are written.
std::pair<std::vector<Element>, std::string> headOf(std::string_view& rest) {
    std::vector<Element> elements;
    std::string format;
    for (bool first = true;; first = false) {
        const std::size_t end = rest.find('\n');
        if (end == std::string_view::npos) throw Broken{"its head does not end"};
        std::istringstream line{std::string(rest.substr(0, end))};
        rest.remove_prefix(end + 1);
        std::string word;
        line >> word;
        if (first && word != "ply") throw Broken{"it is no PLY file"};
        if (word == "end_header") return {elements, format};
        if (word == "format") line >> format;
        if (word == "element") {
            Element& element = elements.emplace_back();
            if (!(line >> element.name >> element.count)) throw Broken{"an element has no count"};
        }
        if (word != "property") continue;
        if (elements.empty()) throw Broken{"a property belongs to no element"};
        Property& property = elements.back().properties.emplace_back();
        line >> property.type;
        if (property.type == "list") line >> property.countType >> property.type;
        std::string name;
        if (!(line >> name)) throw Broken{"a property has no name"};
        property.slot = slotOf(name);
    }
}

/// A face's corners as triangles around the first.
void addFace(const std::vector<double>& corners, world::Shape& shape) {
    for (std::size_t k = 2; k < corners.size(); ++k)
        for (const std::size_t c : {std::size_t(0), k - 1, k}) {
            if (!(corners[c] >= 0 && corners[c] < 4e9))
                throw Broken{"a face refers to a corner that is not there"};
            shape.indices.push_back(std::uint32_t(corners[c]));
        }
}

world::Shape shapeOf(std::string_view bytes) {
    const auto [elements, format] = headOf(bytes);
    Numbers numbers(bytes, format);
    world::Shape shape;
    std::array<float, Slots> plain;
    std::vector<double> corners;
    for (const Element& element : elements) {
        if (element.properties.empty()) continue;
        // Every one takes a byte at least; counts from nowhere end here.
        if (element.count > numbers.left()) throw Broken{"it is cut short"};
        const bool lit =
            std::ranges::find(element.properties, Nx, &Property::slot) != element.properties.end();
        for (std::size_t i = 0; i < element.count; ++i) {
            plain.fill(0), corners.clear();
            for (const Property& property : element.properties) {
                const double count = property.countType.empty() ? 1 : numbers.next(property.countType);
                if (!(count >= 0 && count <= double(numbers.left()) + 1)) throw Broken{"it is cut short"};
                for (std::size_t k = 0; k < std::size_t(count); ++k) {
                    const double value = numbers.next(property.type);
                    if (property.slot < Slots) plain[property.slot] = float(value);
                    if (property.slot == Corners) corners.push_back(value);
                }
            }
            if (element.name == "vertex") {
                shape.positions.emplace_back(plain[X], plain[Y], plain[Z]);
                shape.uvs.emplace_back(plain[U], 1 - plain[V]);
                if (lit) shape.normals.emplace_back(plain[Nx], plain[Ny], plain[Nz]);
            }
            if (element.name == "face") addFace(corners, shape);
        }
    }
    for (const std::uint32_t index : shape.indices)
        if (index >= shape.positions.size()) throw Broken{"a face refers to a corner that is not there"};
    return shape;
}

} // namespace

Read readPly(const fs::path& folder, const std::string& path) {
    Read out{path};
    try {
        world::Shape shape = shapeOf(wholeOf(folder / path));
        world::addMissingNormals(shape);
        addObject(out, fs::path(path).stem().string(), std::move(shape));
    } catch (const Broken& broken) {
        out.problem = broken.why;
    }
    return out;
}

} // namespace zl::standins::files
