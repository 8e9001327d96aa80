#include "standins/slip/hull.h"

#include "standins/world/files.h"

#include "core/base/groups.h"
#include "core/base/plain_number.h"
#include "core/base/units.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <algorithm>
#include <stdexcept>

namespace zl::standins::slip {

namespace {

using Kind = Message::Kind;
using Form = Hull::Form;

constexpr glm::ivec3 slipSize{96, 64, 160};
constexpr double mostBlocks = 8000, mostBytes = 8e6;
constexpr std::pair<const char*, Form> forms[] = {{"cube", Form::Whole},
                                                  {"slope", Form::Half},
                                                  {"corner", Form::Third},
                                                  {"inverse-corner", Form::TwoThirds}};
constexpr const char* ups[] = {"+Y", "-Y", "+X", "-X", "+Z", "-Z"};
constexpr const char* hullKeys[] = {"version", "name", "across", "up", "along", "edge"};
constexpr const char* runKeys[] = {"x", "y", "z", "long", "shape", "top", "spin", "paint"};
constexpr const char* paintKeys[] = {"name", "rgb"};

/// The yard's importer stops at the first thing that it does not know.
[[noreturn]] void stop(const std::string& why) {
    throw std::runtime_error(why);
}

template <std::size_t n>
void knowAll(const pugi::xml_node& node, const char* const (&keys)[n]) {
    for (const pugi::xml_attribute& attribute : node.attributes())
        if (std::ranges::none_of(keys,
                                 [&](const char* key) { return std::string_view(key) == attribute.name(); }))
            stop(fmt::format("<{}> has \"{}\", which is not known here", node.name(), attribute.name()));
}

int whole(const pugi::xml_node& node, const char* key, int least, int most, std::optional<int> missing = {}) {
    const pugi::xml_attribute attribute = node.attribute(key);
    if (!attribute && missing) return *missing;
    const auto value = onlyNumber<int>(attribute.value());
    if (!value || *value < least || *value > most)
        stop(fmt::format("\"{}\" of a <{}> is \"{}\"; it goes from {} to {}", key, node.name(),
                         attribute.value(), least, most));
    return *value;
}

glm::vec3 colourOf(const pugi::xml_node& node) {
    const std::string text = node.attribute("rgb").value();
    unsigned value = 0;
    for (const char c : text) {
        const std::size_t digit = std::string_view("0123456789abcdef").find(c);
        if (digit == std::string_view::npos) stop(fmt::format("a paint has the colour \"{}\"", text));
        value = value << 4 | unsigned(digit);
    }
    if (text.size() != 6) stop(fmt::format("a paint has the colour \"{}\"", text));
    return glm::vec3(value >> 16 & 255, value >> 8 & 255, value & 255) / 255.0f;
}

void putRun(Hull& hull, const pugi::xml_node& run) {
    knowAll(run, runKeys);
    glm::ivec3 cell{whole(run, "x", 0, hull.size.x - 1), whole(run, "y", 0, hull.size.y - 1),
                    whole(run, "z", 0, hull.size.z - 1)};
    const int along = whole(run, "long", 1, hull.size.z - cell.z, 1);
    Hull::Cell block;
    for (const auto& [name, form] : forms)
        if (run.attribute("shape").value() == std::string_view(name)) block.form = form;
    if (block.form == Form::None)
        stop(fmt::format("there is no block \"{}\"", run.attribute("shape").value()));
    std::size_t up = 0;
    if (const pugi::xml_attribute top = run.attribute("top")) {
        while (up < std::size(ups) && ups[up] != std::string_view(top.value())) ++up;
        if (up == std::size(ups)) stop(fmt::format("a block's top points to \"{}\"", top.value()));
    }
    block.turn = std::uint8_t(4 * up + std::size_t(whole(run, "spin", 0, 3, 0)));
    block.paint = std::uint8_t(whole(run, "paint", 0, std::max(0, int(hull.paints.size()) - 1), 0));
    for (int k = 0; k < along; ++k, ++cell.z) {
        Hull::Cell& there = hull.cells[hull.number(cell)];
        if (there.form != Form::None)
            stop(fmt::format("two blocks stand at {} {} {}", cell.x, cell.y, cell.z));
        there = block;
    }
}

Hull parsed(const std::string& bytes) {
    pugi::xml_document document;
    if (const auto result = document.load_buffer(bytes.data(), bytes.size()); !result)
        stop(fmt::format("it is no XML: {} at byte {}", result.description(), result.offset));
    const pugi::xml_node root = document.child("hull");
    if (!root) stop("there is no <hull> in it");
    knowAll(root, hullKeys);
    whole(root, "version", 1, 1);
    Hull hull;
    hull.name = root.attribute("name").value();
    constexpr int most = 400; // of any side, so that nothing grows beyond memory
    hull.size = {whole(root, "across", 1, most), whole(root, "up", 1, most), whole(root, "along", 1, most)};
    if (const auto edge = onlyNumber<double>(root.attribute("edge").value()); !edge || *edge != 0.25)
        stop(fmt::format("its blocks are {} m; here they are 0.25 m", root.attribute("edge").value()));
    hull.cells.resize(std::size_t(hull.size.x) * std::size_t(hull.size.y) * std::size_t(hull.size.z));
    for (const pugi::xml_node& node : root.children()) {
        if (node.type() == pugi::node_comment) continue;
        const std::string_view name = node.name();
        if (name == "paint") {
            knowAll(node, paintKeys);
            if (hull.paints.size() == 256) stop("there are more than 256 paints");
            hull.paints.push_back(colourOf(node));
        } else if (name == "run") {
            putRun(hull, node);
        } else {
            stop(fmt::format("there is \"{}\" in it, which is not known here", name));
        }
    }
    return hull;
}

/// Corners of a cube's cut below its slopes, as points that are left: enough to draw and to hold by.
using Polygon = std::vector<glm::vec3>;

std::vector<Polygon> facesOf(Form form) {
    const glm::vec3 a{0, 0, 0}, b{1, 0, 0}, c{1, 0, 1}, d{0, 0, 1}, e{0, 1, 0}, f{1, 1, 0}, g{1, 1, 1},
        h{0, 1, 1};
    switch (form) {
    case Form::Whole:
        return {{a, b, c, d}, {a, e, f, b}, {a, d, h, e}, {e, h, g, f}, {d, c, g, h}, {b, f, g, c}};
    case Form::Half:
        return {{a, b, c, d}, {a, e, f, b}, {a, d, e}, {b, f, c}, {d, c, f, e}};
    case Form::Third:
        return {{a, b, c, d}, {a, e, b}, {a, d, e}, {d, c, e}, {b, e, c}};
    case Form::TwoThirds:
        return {{a, b, c, d}, {a, e, f, b}, {a, d, h, e}, {b, f, c}, {d, c, h}, {e, c, f}, {e, h, c}};
    case Form::None:
        break;
    }
    return {};
}

/// What a turn makes of directions: first by quarters about Y, from +Z towards +X; then what was up points
/// where the six ways say.
glm::mat3 matrixOf(std::size_t turn) {
    const glm::vec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1};
    const glm::mat3 tilts[] = {{x, y, z}, {x, -y, -z}, {-y, x, z}, {y, -x, z}, {x, z, -y}, {x, -z, y}};
    glm::mat3 out = tilts[turn / 4];
    for (std::size_t k = 0; k < turn % 4; ++k) out = out * glm::mat3(-z, y, x);
    return out;
}

/// Whether a point of the unit cube is within a block.
bool isWithin(const Hull::Cell& cell, const glm::vec3& point) {
    static const auto turns = [] {
        std::array<glm::mat3, 24> out;
        for (std::size_t turn = 0; turn < 24; ++turn) out[turn] = glm::transpose(matrixOf(turn));
        return out;
    }();
    const glm::vec3 p = turns[cell.turn] * (point - 0.5f) + 0.5f;
    const bool ahead = p.y + p.z <= 1, aside = p.y + p.x <= 1;
    switch (cell.form) {
    case Form::None:
        return false;
    case Form::Whole:
        return true;
    case Form::Half:
        return ahead;
    case Form::Third:
        return ahead && aside;
    case Form::TwoThirds:
        return ahead || aside;
    }
    return false;
}

/// Whether both have something of the side between them, towards +`axis` of the first.
bool holdTogether(const Hull::Cell& one, int axis, const Hull::Cell& other) {
    for (int i = 0; i < 4; ++i)
        for (int j = 0; j < 4; ++j) {
            constexpr float near = 0.01f;
            glm::vec3 here, there;
            // Off the diagonals, which slopes end at.
            here[(axis + 1) % 3] = there[(axis + 1) % 3] = (float(i) + 0.53f) / 4;
            here[(axis + 2) % 3] = there[(axis + 2) % 3] = (float(j) + 0.49f) / 4;
            here[axis] = 1 - near, there[axis] = near;
            if (isWithin(one, here) && isWithin(other, there)) return true;
        }
    return false;
}

/// Numbers what hangs together.
void findPieces(Hull& hull) {
    Groups groups(hull.cells.size());
    glm::ivec3 cell;
    for (cell.z = 0; cell.z < hull.size.z; ++cell.z)
        for (cell.y = 0; cell.y < hull.size.y; ++cell.y)
            for (cell.x = 0; cell.x < hull.size.x; ++cell.x) {
                const Hull::Cell& here = hull.cells[hull.number(cell)];
                for (int axis = 0; axis < 3 && here.form != Form::None; ++axis) {
                    glm::ivec3 next = cell;
                    ++next[axis];
                    const Hull::Cell* there = hull.at(next);
                    if (there && there->form != Form::None && holdTogether(here, axis, *there))
                        groups.join(std::uint32_t(hull.number(cell)), std::uint32_t(hull.number(next)));
                }
            }
    std::vector<std::pair<std::size_t, int>> sizes(hull.cells.size(), {0, 0});
    for (std::size_t i = 0; i < hull.cells.size(); ++i)
        if (hull.cells[i].form != Form::None) ++sizes[groups.of(std::uint32_t(i))].first;
    for (std::size_t i = 0; i < sizes.size(); ++i) sizes[i].second = int(i);
    std::erase_if(sizes, [](const auto& one) { return one.first == 0; });
    std::ranges::stable_sort(sizes, [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<int> place(hull.cells.size(), -1);
    for (std::size_t i = 0; i < sizes.size(); ++i) {
        place[std::size_t(sizes[i].second)] = int(i);
        hull.pieces.push_back(sizes[i].first);
    }
    for (std::size_t i = 0; i < hull.cells.size(); ++i)
        if (hull.cells[i].form != Form::None) hull.cells[i].piece = place[groups.of(std::uint32_t(i))];
}

void judge(const Hull& hull, const std::string& file, const world::Files& files) {
    const std::size_t count = hull.count();
    files.sayLimit(file, showCount(long(count), "block", "blocks"), double(count), mostBlocks);
    const auto words = [](glm::ivec3 v) { return fmt::format("{} × {} × {}", v.x, v.y, v.z); };
    const bool fits = glm::all(glm::lessThanEqual(hull.size, slipSize));
    files.say(fits ? Kind::Fine : Kind::Refused, file, words(hull.size) + " blocks",
              "the slip takes " + words(slipSize));
    if (count == 0) return files.say(Kind::Refused, file, "There is no block in it", "An empty slip");
    std::size_t strays = 0;
    for (std::size_t i = 1; i < hull.pieces.size(); ++i) strays += hull.pieces[i];
    if (strays > 0)
        files.say(Kind::Refused, file,
                  fmt::format("{} to nothing", showCount(long(strays), "block holds", "blocks hold")),
                  fmt::format("{} besides the hull; all of it must hang together",
                              showCount(long(hull.pieces.size() - 1), "piece", "pieces")));
    bool keel = false;
    for (int y = 0; y < hull.size.y && hull.size.x % 2 == 1; ++y)
        for (int z = 0; z < hull.size.z; ++z) keel |= hull.at({hull.size.x / 2, y, z})->form != Form::None;
    files.say(keel ? Kind::Fine : Kind::Refused, file,
              keel ? "A keel can be laid on the middle column"
                   : "There is no column in the middle to lay a keel on",
              fmt::format("{} wide", showCount(hull.size.x, "block", "blocks")));
}

} // namespace

const Hull::Cell* Hull::at(glm::ivec3 cell) const {
    if (cell.x < 0 || cell.y < 0 || cell.z < 0 || cell.x >= size.x || cell.y >= size.y || cell.z >= size.z)
        return nullptr;
    return &cells[number(cell)];
}

glm::ivec3 Hull::cellOf(std::size_t number) const {
    const auto x = std::size_t(size.x), y = std::size_t(size.y);
    return {int(number % x), int(number / x % y), int(number / (x * y))};
}

glm::dvec3 Hull::middleOf(std::size_t number) const {
    return glm::dvec3(cellOf(number)) + 0.5 - glm::dvec3(size.x / 2.0, 0, size.z / 2.0);
}

std::size_t Hull::count() const {
    return std::size_t(std::ranges::count_if(cells, [](const Cell& c) { return c.form != Form::None; }));
}

double Hull::volumeOf(std::size_t number) const {
    constexpr double volumes[] = {0, 1, 1 / 2.0, 1 / 3.0, 2 / 3.0};
    return volumes[std::size_t(cells[number].form)];
}

std::optional<Hull> readHull(const std::filesystem::path& folder, TryReport& report) {
    world::Files files(folder, report);
    if (files.refused()) return std::nullopt;
    std::vector<std::string> found;
    std::error_code error;
    for (const auto& entry : std::filesystem::directory_iterator(folder, error))
        if (const std::string name = entry.path().filename().string(); name.ends_with(".hull.xml"))
            found.push_back(name);
    if (found.size() != 1) {
        files.say(Kind::Refused, "",
                  fmt::format("There are {} hulls (NAME.hull.xml) in the folder", found.size()),
                  "The slip holds one");
        return std::nullopt;
    }
    const auto bytes = files.bytes(found[0]);
    if (!bytes) return std::nullopt;
    if (double(bytes->size()) > mostBytes) {
        files.sayBytes(found[0], "The file is large", double(bytes->size()), mostBytes);
        return std::nullopt;
    }
    try {
        Hull hull = parsed(*bytes);
        findPieces(hull);
        judge(hull, found[0], files);
        report.accepted = !files.refused();
        return hull.count() > 0 ? std::optional(std::move(hull)) : std::nullopt;
    } catch (const std::runtime_error& problem) {
        files.say(Kind::Refused, found[0], "The importer stopped: " + std::string(problem.what()),
                  "Nothing was taken in");
        return std::nullopt;
    }
}

world::Shape shapeOf(const Hull& hull, std::size_t paint, bool strays) {
    world::Shape out;
    for (std::size_t i = 0; i < hull.cells.size(); ++i) {
        const Hull::Cell& cell = hull.cells[i];
        if (cell.form == Form::None || cell.paint != paint || (cell.piece > 0) != strays) continue;
        const glm::ivec3 at = hull.cellOf(i);
        const glm::mat3 turn = matrixOf(cell.turn);
        for (const Polygon& face : facesOf(cell.form)) {
            Polygon placed;
            for (const glm::vec3& p : face) placed.push_back(turn * (p - 0.5f) + 0.5f);
            const glm::vec3 normal = glm::normalize(glm::cross(placed[1] - placed[0], placed[2] - placed[0]));
            // A whole side against a whole one is never seen.
            if (face.size() == 4 &&
                std::max({std::abs(normal.x), std::abs(normal.y), std::abs(normal.z)}) > 0.99f) {
                const Hull::Cell* beside = hull.at(at + glm::ivec3(glm::round(normal)));
                if (beside && beside->form == Form::Whole && (beside->piece > 0) == strays) continue;
            }
            const auto base = std::uint32_t(out.positions.size());
            for (const glm::vec3& p : placed) {
                out.positions.push_back(p + glm::vec3(at)), out.normals.push_back(normal);
                out.uvs.emplace_back(0, 0);
            }
            for (std::uint32_t k = 2; k < placed.size(); ++k)
                out.indices.insert(out.indices.end(), {base, base + k - 1, base + k});
        }
    }
    return out;
}

} // namespace zl::standins::slip
