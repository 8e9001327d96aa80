#include "support/example_sets.h"

#include "core/base/name_styles.h"
#include "core/formats/format.h"
#include "core/geometry/solids.h"
#include "core/texture/picture_file.h"

#include <glm/gtc/matrix_transform.hpp>

#include <cmath>
#include <random>

using namespace zl;

namespace {

struct Thing {
    const char* title;
    double wide, high, deep; ///< metres
};
constexpr Thing things[] = {
    {"Oak door", 0.95, 2.05, 0.1},    {"Quay bench", 1.65, 0.8, 0.5},    {"Pear crate", 0.8, 0.7, 0.6},
    {"Cider barrel", 0.6, 0.95, 0.6}, {"Green bottle", 0.09, 0.3, 0.09}, {"Net chair", 0.5, 0.95, 0.55},
    {"Fair table", 1.4, 0.75, 0.8},   {"Hop bed", 1.0, 0.6, 2.05},       {"Rope bollard", 0.4, 0.9, 0.4},
    {"Old wardrobe", 1.1, 1.95, 0.6}, {"Tin bucket", 0.33, 0.35, 0.33},  {"Dock ladder", 0.45, 3.0, 0.1}};

std::string styled(const HiddenGame& game, const std::string& words) {
    return game.prefix + styledName(words, game.names == "underscores" ? NameStyle::Underscores
                                           : game.names == "hyphens"   ? NameStyle::Hyphens
                                                                       : NameStyle::Capitals);
}

/// A sheet of so many triangles (an even number), as a wavy panel on the front of a thing.
Mesh panel(int triangles, const Thing& thing) {
    Mesh mesh;
    mesh.uvSets.emplace_back();
    const int quads = triangles / 2, across = std::max(1, int(std::sqrt(quads)));
    int made = 0;
    for (int row = 0; made < quads; ++row) {
        const int here = std::min(across, quads - made);
        const int rows = (quads + across - 1) / across;
        for (int k = 0; k < here; ++k, ++made) {
            const auto base = std::uint32_t(mesh.positions.size());
            for (int c = 0; c < 4; ++c) {
                const double u = double(k + (c == 1 || c == 2)) / across, v = double(row + (c >= 2)) / rows;
                mesh.positions.emplace_back((u - 0.5) * thing.wide * 0.9, (0.05 + 0.9 * v) * thing.high,
                                            thing.deep / 2 + 0.01 * thing.deep * std::sin(9 * u + 7 * v));
                mesh.uvSets[0].emplace_back(u, v);
            }
            for (const std::uint32_t i : {0u, 1u, 2u, 0u, 2u, 3u}) mesh.indices.push_back(base + i);
        }
    }
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), 0}};
    return mesh;
}

/// The thing in metres, Y up, front to +Z, standing on the floor over its origin, of so many triangles.
Model modelOf(const HiddenGame& game, const Thing& thing, int triangles, const std::string& materialName) {
    Model out;
    out.name = thing.title;
    out.frame.unitAssumed = out.frame.upAssumed = false;
    const auto add = [&out](const std::string& name, Mesh mesh) {
        for (MaterialRun& run : mesh.runs) run.material = 0;
        if (mesh.uvSets.empty()) mesh.uvSets = {std::vector<glm::vec2>(mesh.vertexCount(), glm::vec2(0.25f))};
        mesh.name = name;
        out.nodes.push_back({name, -1, glm::dmat4(1.0), int(out.meshes.size())});
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    };
    const double w = thing.wide / 2, d = thing.deep / 2;
    Mesh body = geometry::boxMesh({-w, 0, -d}, {w, thing.high, d});
    body.runs = {{0, std::uint32_t(body.triangleCount()), 0}};
    add(styled(game, std::string("body of ") + thing.title), body);
    Mesh back =
        geometry::boxMesh({-w * 0.3, thing.high * 0.2, -d * 1.1}, {w * 0.3, thing.high * 0.6, -d * 0.9});
    back.runs = {{0, std::uint32_t(back.triangleCount()), 0}};
    add(styled(game, "back plate"), back);
    add(styled(game, "front panel"), panel(triangles - 24, thing));
    // Even about the origin, with what stands out at the back.
    out.materials = {{.name = materialName}};
    return out;
}

class Painter {
public:
    Painter(int width, int height, unsigned seed) : width_(width), height_(height), random_(seed) {
        for (auto& wave : waves_)
            wave = {2 + int(random_() % 9), 2 + int(random_() % 9), double(random_() % 628) / 100};
    }
    /// Smooth, from 0 to 1.
    double height(int x, int y) const {
        double out = 0;
        for (const auto& [a, b, phase] : waves_)
            out += std::sin(6.2831853 * (double(a * x) / width_ + double(b * y) / height_) + phase);
        return 0.5 + out / (2.2 * double(std::size(waves_)));
    }
    Pixels painted(const auto& pixel) {
        Pixels out{width_, height_, {}};
        for (int y = 0; y < height_; ++y)
            for (int x = 0; x < width_; ++x)
                for (const double value : pixel(x, y))
                    out.rgba.push_back(std::uint8_t(std::clamp(std::lround(value * 255), 0L, 255L)));
        return out;
    }
    Pixels colour() {
        return painted([&](int x, int y) {
            const double h = height(x, y), n = double(random_() % 100) / 1200;
            return std::array{0.3 + 0.5 * h + n, 0.25 + 0.35 * h + n, 0.15 + 0.2 * h + n, 1.0};
        });
    }
    Pixels relief(bool greenDown) {
        return painted([&](int x, int y) {
            const double strength = 0.06 * width_;
            const glm::dvec2 slope = strength * glm::dvec2(height(x + 1, y) - height(x - 1, y),
                                                           height(x, y + 1) - height(x, y - 1));
            const glm::dvec3 n = glm::normalize(glm::dvec3(-slope.x, slope.y, 1));
            const double green = 0.5 + 0.5 * n.y;
            return std::array{0.5 + 0.5 * n.x, greenDown ? 1 - green : green, 0.5 + 0.5 * n.z, height(x, y)};
        });
    }
    Pixels maps() {
        return painted([&](int x, int y) {
            const double h = height(x, y), noise = double(random_() % 100) / 100;
            return std::array{0.8 + 0.2 * std::sqrt(std::clamp(h, 0.0, 1.0)), 0.35 + 0.4 * noise,
                              height(y % height_, x % height_) > 0.55 ? 1.0 : 0.0, 1.0};
        });
    }

private:
    struct Wave {
        int a, b;
        double phase;
    };
    int width_, height_;
    std::mt19937 random_;
    std::array<Wave, 4> waves_;
};

void writeOne(const HiddenGame& game, const Thing& thing, int triangles, glm::ivec2 sides, unsigned seed,
              const std::filesystem::path& folder, const std::string& badName = {}) {
    const std::string stem = styled(game, thing.title),
                      material = styled(game, std::string(thing.title) + " skin");
    Model model = modelOf(game, thing, triangles, material);
    if (!badName.empty()) model.nodes[0].name = badName;
    const std::string own = game.layout == 1 ? stem + "/" : "";
    const std::string models = game.layout == 2 ? "models/" : own,
                      pictures = game.layout == 2 ? "textures/" : own;
    std::vector<OutFile> files;
    formats::WriteOptions options{stem, game.metres, game.zUp ? Up::Z : Up::Y, game.front};
    if (game.format == "glb") model.placement = formats::worldToFile(options);
    for (auto& file : formats::formatWithId(game.format)->write(model, options, nullptr))
        files.push_back({models + file.name, std::move(file.bytes)});
    Painter painter(sides.x, sides.y, seed);
    files.push_back({pictures + material + "_d.png", texture::encodePng(painter.colour(), false)});
    if (game.packing & 1)
        files.push_back(
            {pictures + material + "_n.png", texture::encodePng(painter.relief(game.greenDown), true)});
    if (game.packing & 2)
        files.push_back({pictures + material + "_props.png", texture::encodePng(painter.maps(), false)});
    if (game.text > 0) {
        static constexpr const char* endings[] = {"", ".json", ".toml", ".xml", ".ini"};
        files.push_back({own + stem + endings[game.text], game.textOf(thing.title, stem, triangles)});
    }
    writeAllOrNone(folder, files);
}

} // namespace

std::vector<std::string> HiddenGame::relief() const {
    return {"normal.red", greenDown ? "1 - normal.green" : "normal.green", "normal.blue", "height"};
}
std::vector<std::string> HiddenGame::maps() const {
    return {"occlusion", "roughness", "metalness"};
}
std::string HiddenGame::modelPath() const {
    const std::string style = names == "underscores" ? ":underscores"
                              : names == "capitals"  ? ":capitals"
                                                     : "";
    const std::string name = "{name" + style + "}";
    return (layout == 2 ? "models/" : "") + prefix + name + "." + format;
}
std::string HiddenGame::textPath() const {
    static constexpr const char* endings[] = {"", ".json", ".toml", ".xml", ".ini"};
    return endings[text];
}

std::string HiddenGame::textOf(const std::string& title, const std::string& stem, int triangles) const {
    const std::string count = std::to_string(triangles), mesh = stem + "." + format;
    switch (text) {
    case 1:
        return "{\n  \"kind\": \"prop\",\n  \"title\": \"" + title + "\",\n  \"mesh\": \"" + mesh +
               "\",\n  \"triangles\": " + count + ",\n  \"solid\": true\n}\n";
    case 2:
        return "kind = \"prop\"\ntitle = \"" + title + "\"\n\n[mesh]\nfile = \"" + mesh +
               "\"\ntriangles = " + count + "\n";
    case 3:
        return "<prop kind=\"solid\">\n  <title>" + title + "</title>\n  <mesh file=\"" + mesh +
               "\" triangles=\"" + count + "\"/>\n</prop>\n";
    case 4:
        return "[prop]\ntitle=" + title + "\nmesh=" + mesh + "\ntriangles=" + count + "\n";
    default:
        return {};
    }
}

HiddenGame hiddenGame(unsigned seed) {
    std::mt19937 random(seed * 7919 + 11);
    const auto one = [&random](const auto& list) { return list[random() % std::size(list)]; };
    HiddenGame game;
    constexpr double units[] = {1, 0.01, 0.1, 0.001, 0.0254, 0.025, 0.5};
    constexpr int caps[] = {1000, 1024, 2000, 4096, 5000, 8192, 10000, 12000, 16384, 3000};
    constexpr const char* formats[] = {"obj", "glb", "dae", "obj"};
    constexpr const char* styles[] = {"underscores", "hyphens", "capitals"};
    game.metres = one(units);
    game.zUp = random() % 2 == 0;
    constexpr const char* yFronts[] = {"+Z", "-Z", "+X", "-X"};
    constexpr const char* zFronts[] = {"+X", "-X", "+Y", "-Y"};
    game.front = game.zUp ? one(zFronts) : one(yFronts);
    game.format = one(formats);
    game.triangles = one(caps);
    game.powerOfTwo = random() % 3 != 0;
    game.packing = int(random() % 4);
    game.greenDown = random() % 2 == 0;
    game.names = one(styles);
    game.prefix = game.names == "underscores" && random() % 2 == 0 ? "wx_" : "";
    game.layout = int(random() % 3);
    game.text = int(random() % 5);
    return game;
}

void writeAccepted(const HiddenGame& game, unsigned seed, const std::filesystem::path& folder) {
    std::mt19937 random(seed + 1);
    const auto share = [&random] { return double(random() % 10000) / 10000; };
    const std::size_t nearest = random() % std::size(things);
    for (std::size_t i = 0; i < std::size(things); ++i) {
        Thing thing = things[i];
        const double size = 0.92 + 0.16 * share();
        thing.wide *= size, thing.high *= size, thing.deep *= size;
        const double of = i == nearest ? 0.975 + 0.02 * share() : 0.1 + 0.8 * share();
        const int triangles = int(of * game.triangles) / 2 * 2;
        const int edge = 64 << (random() % 2);
        const glm::ivec2 sides =
            game.powerOfTwo ? glm::ivec2(edge, edge) : glm::ivec2(edge + 10 + int(random() % 20), edge + 6);
        writeOne(game, thing, triangles, sides, seed * 100 + unsigned(i), folder);
    }
}

void writeRefused(const HiddenGame& game, unsigned seed, const std::filesystem::path& folder) {
    std::mt19937 random(seed + 2);
    for (int i = 0; i < 2; ++i)
        writeOne(game, things[i], int(game.triangles * (i == 0 ? 1.02 : 1.3)) / 2 * 2 + 2, {64, 64},
                 seed + unsigned(i), folder / ("many" + std::to_string(i)));
    if (game.powerOfTwo)
        for (int i = 2; i < 4; ++i)
            writeOne(game, things[i], game.triangles / 2, {100, 75}, seed + unsigned(i),
                     folder / ("sides" + std::to_string(i)));
}
