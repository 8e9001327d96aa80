#include "standins/region/built_solid.h"

#include "core/base/error.h"
#include "core/base/utf8.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <charconv>
#include <cmath>
#include <set>

namespace zl::standins::region {

namespace {

constexpr double smallest = 0.02, largest = 50; ///< metres along a side
constexpr double farthest = 256;                ///< metres from a region's middle
constexpr double mostTurned = 1e6;              ///< degrees
constexpr int mostFaces = 10;

/// What the numbers that shape a solid may be.
struct Range {
    const char* name;
    int count;
    double least, most;
};
constexpr Range ranges[] = {{"gap", 1, 0, 350},      {"gap-from", 1, -mostTurned, mostTurned},
                            {"hollow", 1, 0, 0.95},  {"thick", 1, 0.05, 1},
                            {"twist", 1, -720, 720}, {"foot", 2, 0, 2},
                            {"head", 2, 0, 2},       {"lean", 2, -2, 2}};

/// As many numbers as asked for, separated by blanks, and nothing else.
bool numbers(std::string_view text, double* into, int count) {
    const char *at = text.data(), *end = at + text.size();
    for (int k = 0; k < count; ++k) {
        while (at != end && *at == ' ') ++at;
        const auto [next, error] = std::from_chars(at, end, into[k]);
        if (error != std::errc() || !std::isfinite(into[k])) return false;
        at = next;
    }
    while (at != end && *at == ' ') ++at;
    return at == end;
}

void take(pugi::xml_node node, const char* name, double* into, int count) {
    if (const auto attribute = node.attribute(name); attribute && !numbers(attribute.value(), into, count))
        throw Error(fmt::format("\"{}\" is \"{:.40}\"", name, attribute.value()));
}

void takeLook(BuiltSolid& out, pugi::xml_node node, int face) {
    double colour[3] = {0.8, 0.8, 0.8};
    take(node, "colour", colour, 3);
    for (const double part : colour)
        if (part < 0 || part > 1) throw Error("a colour's parts go from 0 to 1");
    out.colours[face] = glm::vec3(colour[0], colour[1], colour[2]);
    if (const std::string picture = node.attribute("picture").value(); !picture.empty())
        out.pictures[face] = picture;
}

} // namespace

BuiltSolid readSolid(std::string_view xml) {
    pugi::xml_document document;
    const auto parsed = document.load_buffer(xml.data(), xml.size());
    const pugi::xml_node node = document.document_element();
    if (!parsed || std::string_view(node.name()) != "solid") throw Error("that is no <solid>");
    BuiltSolid out;
    double number = 0, group = 0;
    take(node, "number", &number, 1), take(node, "group", &group, 1);
    if (number < 1 || number > 1e9 || group < 0 || group > 1e9) throw Error("it has no number");
    out.number = int(number), out.group = int(group);
    out.name = asUtf8(node.attribute("name").value());
    if (out.name.size() > 200) throw Error("its name is too long");
    out.kind = node.attribute("kind").value();
    static const std::set<std::string> kinds{"box", "cylinder", "wedge", "ball", "tube", "ring"};
    if (!kinds.contains(out.kind)) throw Error(fmt::format("there is no kind \"{:.40}\"", out.kind));
    out.physics = node.attribute("physics") ? node.attribute("physics").value() : "stands";
    static const std::set<std::string> physics{"stands", "falls", "lets-through"};
    if (!physics.contains(out.physics)) throw Error(fmt::format("it cannot be \"{:.40}\"", out.physics));
    out.outline = node.attribute("outline") ? node.attribute("outline").value() : "same";
    take(node, "at", &out.at.x, 3), take(node, "turn", &out.turn.x, 3), take(node, "size", &out.size.x, 3);
    for (int k = 0; k < 3; ++k) {
        if (out.size[k] < smallest || out.size[k] > largest)
            throw Error(
                fmt::format("a side of {} m is not taken: {} to {} m are", out.size[k], smallest, largest));
        if (std::abs(out.at[k]) > farthest) throw Error("it stands outside the region");
        if (std::abs(out.turn[k]) > mostTurned) throw Error("it is turned too often");
    }
    for (const Range& range : ranges) {
        const auto attribute = node.attribute(range.name);
        if (!attribute) continue;
        double values[2] = {0, 0};
        take(node, range.name, values, range.count);
        for (int k = 0; k < range.count; ++k) {
            if (values[k] < range.least || values[k] > range.most)
                throw Error(fmt::format("\"{}\" is {}: {} to {} are taken", range.name, values[k],
                                        range.least, range.most));
            const char* part = range.count == 1 ? "" : k == 0 ? "-x" : "-z";
            out.shape[std::string(range.name) + part] = values[k];
        }
    }
    const auto more = [&](const char* name) {
        const auto found = out.shape.find(name);
        return found != out.shape.end() && found->second != 0;
    };
    out.isShaped = more("gap") || more("hollow") || more("twist");
    int faces = 0;
    for (const pugi::xml_node look : node.children()) {
        const std::string_view name = look.name();
        if (name == "look")
            takeLook(out, look, -1);
        else if (name == "face") {
            double face = -1;
            take(look, "face", &face, 1);
            if (face < 0 || face >= mostFaces || ++faces > mostFaces) throw Error("there is no such face");
            takeLook(out, look, int(face));
        } else
            throw Error(fmt::format("a <{:.40}> is not known", name));
    }
    return out;
}

} // namespace zl::standins::region
