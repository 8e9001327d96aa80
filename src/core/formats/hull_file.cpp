#include "core/formats/hull_file.h"

#include "core/base/error.h"
#include "core/base/plain_number.h"
#include "core/blocks/turns.h"
#include "core/base/utf8.h"
#include "core/formats/xml_text.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::formats {

namespace {

using blocks::Block;
using blocks::Build;
using blocks::Paint;

constexpr int version = 1;
constexpr const char* tops[] = {"+Y", "-Y", "+X", "-X", "+Z", "-Z"}; ///< in the order of turns
constexpr int spins = 4;

std::string hex(glm::vec3 colour) {
    const auto part = [](float value) { return int(std::lround(std::clamp(value, 0.0f, 1.0f) * 255)); };
    return fmt::format("{:02x}{:02x}{:02x}", part(colour.r), part(colour.g), part(colour.b));
}

class Reader {
public:
    explicit Reader(std::string where) : where_(std::move(where)) {}

    HullFile read(std::string_view bytes) {
        pugi::xml_document document;
        const auto parsed = document.load_buffer(bytes.data(), bytes.size());
        if (!parsed) fail(fmt::format("is not XML ({}, at byte {})", parsed.description(), parsed.offset));
        const pugi::xml_node hull = document.child("hull");
        if (!hull) fail("has no <hull>");
        if (number(hull, "version", 1, 1000) != version)
            fail(fmt::format("is of version {}, and this program knows {}", hull.attribute("version").value(),
                             version));
        HullFile out;
        out.name = asUtf8(hull.attribute("name").value());
        const auto edge = onlyNumber<double>(hull.attribute("edge").value());
        if (!edge || !(*edge > 1e-6) || !(*edge < 1e6)) fail("says no edge of a block in metres");
        out.edge = *edge;
        constexpr int longest = 100000; // Build has a limit of its own on all together
        out.build = Build({number(hull, "across", 0, longest), number(hull, "up", 0, longest),
                           number(hull, "along", 0, longest)});
        for (const pugi::xml_node paint : hull.children("paint")) out.paints.push_back(paintOf(paint));
        if (out.paints.size() > 256) fail("has more than 256 paints");
        for (const pugi::xml_node run : hull.children("run")) add(run, out);
        return out;
    }

private:
    [[noreturn]] void fail(const std::string& why) const { throw Error(why, where_); }

    int number(pugi::xml_node node, const char* name, int least, int most) const {
        const auto value = onlyNumber<int>(node.attribute(name).value());
        if (!value || *value < least || *value > most)
            fail(fmt::format("\"{}\" of <{}> at byte {} is \"{}\"; a whole number from {} to {} is expected",
                             name, node.name(), node.offset_debug(), node.attribute(name).value(), least,
                             most));
        return *value;
    }

    Paint paintOf(pugi::xml_node node) const {
        const std::string_view text = node.attribute("rgb").value();
        std::uint32_t value = 0;
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value, 16);
        if (text.size() != 6 || error != std::errc() || end != text.data() + text.size())
            fail(fmt::format("the paint \"{}\" has no colour of six hexadecimal digits",
                             node.attribute("name").value()));
        return {asUtf8(node.attribute("name").value()),
                glm::vec3(value >> 16 & 255, value >> 8 & 255, value & 255) / 255.0f};
    }

    void add(pugi::xml_node node, HullFile& out) const {
        const glm::ivec3 size = out.build.size();
        const glm::ivec3 at{number(node, "x", 0, size.x - 1), number(node, "y", 0, size.y - 1),
                            number(node, "z", 0, size.z - 1)};
        const int along = node.attribute("long") ? number(node, "long", 1, size.z - at.z) : 1;
        const std::string_view shape = node.attribute("shape").value();
        const auto kind = std::ranges::find(blocks::kindNames, shape);
        if (kind == std::end(blocks::kindNames))
            fail(fmt::format("no shape \"{}\" at {} {} {}", shape, at.x, at.y, at.z));
        Block block;
        block.kind = blocks::Kind(kind - std::begin(blocks::kindNames));
        if (node.attribute("top")) {
            const std::string_view text = node.attribute("top").value();
            const auto top =
                std::ranges::find(tops, text, [](const char* one) { return std::string_view(one); });
            if (top == std::end(tops)) fail(fmt::format("no top \"{}\" at {} {} {}", text, at.x, at.y, at.z));
            block.turn = blocks::Turn(spins * (top - std::begin(tops)));
        }
        if (node.attribute("spin")) block.turn += blocks::Turn(number(node, "spin", 0, spins - 1));
        if (node.attribute("paint"))
            block.colour = std::uint8_t(number(node, "paint", 0, int(out.paints.size()) - 1));
        for (int k = 0; k < along; ++k) {
            const glm::ivec3 cell = at + glm::ivec3(0, 0, k);
            if (out.build.at(cell)) fail(fmt::format("two blocks at {} {} {}", cell.x, cell.y, cell.z));
            out.build.put(cell, block);
        }
    }

    std::string where_;
};

} // namespace

std::string writeHull(const HullFile& hull) {
    pugi::xml_document document;
    pugi::xml_node declaration = document.append_child(pugi::node_declaration);
    declaration.append_attribute("version") = "1.0";
    declaration.append_attribute("encoding") = "UTF-8";
    pugi::xml_node root = document.append_child("hull");
    root.append_attribute("version") = version;
    root.append_attribute("name") = xmlText(hull.name).c_str();
    const glm::ivec3 size = hull.build.size();
    root.append_attribute("across") = size.x;
    root.append_attribute("up") = size.y;
    root.append_attribute("along") = size.z;
    setNumber(root.append_attribute("edge"), hull.edge);
    for (const Paint& paint : hull.paints) {
        pugi::xml_node node = root.append_child("paint");
        node.append_attribute("name") = xmlText(paint.name).c_str();
        node.append_attribute("rgb") = hex(paint.colour).c_str();
    }
    for (int y = 0; y < size.y; ++y)
        for (int x = 0; x < size.x; ++x)
            for (int z = 0; z < size.z;) {
                const Block* block = hull.build.at({x, y, z});
                int end = z + 1;
                while (block && end < size.z) {
                    const Block* next = hull.build.at({x, y, end});
                    if (!next || *next != *block) break;
                    ++end;
                }
                if (block) {
                    pugi::xml_node run = root.append_child("run");
                    run.append_attribute("x") = x;
                    run.append_attribute("y") = y;
                    run.append_attribute("z") = z;
                    if (end - z > 1) run.append_attribute("long") = end - z;
                    run.append_attribute("shape") =
                        std::string(blocks::kindNames[std::size_t(block->kind)]).c_str();
                    if (block->turn != 0) {
                        run.append_attribute("top") = tops[block->turn / spins];
                        run.append_attribute("spin") = block->turn % spins;
                    }
                    if (!hull.paints.empty()) run.append_attribute("paint") = int(block->colour);
                }
                z = end;
            }
    return printedXml(document, "  ");
}

HullFile readHull(std::string_view bytes, const std::string& where) {
    return Reader(where).read(bytes);
}

} // namespace zl::formats
