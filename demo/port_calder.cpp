// A small installation of Port Calder: four districts with two hundred objects of others, four collision
// files, tables as different people's programs leave them, and one that is read-only.
#include "demo_data.h"
#include "solids.h"

#include "core/base/archive.h"
#include "core/deliver/placed_for.h"
#include "core/formats/city_files.h"
#include "core/geometry/normals.h"
#include "core/geometry/solids.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>

#include <cmath>
#include <random>

namespace zl::demo {

namespace {

constexpr double quayHeight = 6; ///< of the paving above the water

struct Built {
    std::string name;
    Model model;
    double view = 200;
    std::string traits = "solid";
    std::string kind; ///< of its body; empty for none
    std::string file; ///< the collision file that its body is in
};

Model plain(const std::string& name, glm::vec3 colour, Mesh mesh) {
    Model out;
    out.name = name;
    out.materials.push_back({.name = name, .baseColour = glm::vec4(colour, 1)});
    for (MaterialRun& run : mesh.runs) run.material = 0;
    addNode(out, name, -1, glm::dmat4(1.0), geometry::withNormals(mesh, 0.6));
    return out;
}

Mesh house(std::mt19937& random, double wide, double deep, int floors) {
    const double tall = 3.1 * floors;
    Solids s;
    s.box({0, tall / 2, 0}, {wide / 2, tall / 2, deep / 2});
    s.box({0, tall + 0.15, 0}, {wide / 2 + 0.25, 0.15, deep / 2 + 0.25});
    for (int i = 0; i < 5; ++i) { // a roof in steps
        const double share = 1 - i / 5.0;
        s.box({0, tall + 0.45 + 0.55 * i, 0}, {share * wide / 2, 0.28, deep / 2});
    }
    s.box({wide * (random() % 2 ? 0.28 : -0.28), tall + 2.2, deep * 0.2}, {0.35, 1.4, 0.35});
    for (int f = 0; f < floors; ++f)
        for (int w = 0; w < int(wide / 2.6); ++w) {
            const double x = (w + 0.5) * wide / int(wide / 2.6) - wide / 2;
            s.box({x, 3.1 * f + 1.8, deep / 2 + 0.04}, {0.5, 0.75, 0.04});
        }
    return s.take("house");
}

/// What the others have built, of about sixteen kinds.
std::vector<Built> othersObjects() {
    std::mt19937 random(1887);
    const auto between = [&](double low, double high) {
        return low + (high - low) * double(random() % 1000) / 999;
    };
    std::vector<Built> out;
    const char* bodies[] = {"quay-extras.contact", "fishmarket-floor.contact", "ropewalk-floor.contact",
                            "customs-yard.contact"};
    const char* floors[] = {"paving", "cobbles", "wood", "concrete"};
    const char* areas[] = {"lamplighters", "fishmarket", "ropewalk", "customs"};
    for (int k = 0; k < 4; ++k)
        out.push_back({fmt::format("{}-quay", areas[k]),
                       plain("quay", glm::vec3(0.62f - 0.03f * float(k), 0.60f, 0.56f),
                             geometry::boxMesh({-92, 0, -92}, {92, quayHeight, 92})),
                       600, "solid", floors[k], bodies[k]});
    for (int i = 0; i < 88; ++i)
        out.push_back({fmt::format("house-{:02}", i + 1),
                       plain("house", {between(0.6, 0.85), between(0.58, 0.76), between(0.5, 0.7)},
                             house(random, between(7, 14), between(7, 11), 1 + int(random() % 4))),
                       400,
                       "solid",
                       {},
                       {}});
    const auto add = [&](const char* name, int count, glm::vec3 colour, double view, const auto& make) {
        for (int i = 0; i < count; ++i) {
            Solids s;
            make(s, i);
            out.push_back({fmt::format("{}-{:02}", name, i + 1),
                           plain(name, colour, s.take(name)),
                           view,
                           "solid",
                           {},
                           {}});
        }
    };
    add("lamp-post", 24, {0.25f, 0.28f, 0.32f}, 150, [](Solids& s, int i) {
        s.box({0, 0.1, 0}, {0.18, 0.1, 0.18}).bar({0, 0.2, 0}, {0, 3.6, 0}, 0.05);
        s.box({0, 3.8, 0}, {0.16, 0.22, 0.16}).box({0.3 + 0.01 * i, 3.4, 0}, {0.3, 0.02, 0.02});
    });
    add("bench", 18, {0.5f, 0.38f, 0.26f}, 80, [](Solids& s, int i) {
        s.box({0, 0.45, 0}, {0.8 + 0.01 * i, 0.04, 0.22}).box({0, 0.75, -0.2}, {0.8, 0.2, 0.03}, 0, -0.12);
        for (const double x : {-0.65, 0.65}) s.box({x, 0.21, 0}, {0.04, 0.21, 0.2});
    });
    add("crates", 26, {0.62f, 0.47f, 0.3f}, 90, [](Solids& s, int i) {
        s.box({0, 0.35, 0}, {0.45, 0.35, 0.45}).box({0.85, 0.3, 0.1}, {0.35, 0.3, 0.35}, 0.3);
        if (i % 3 != 0) s.box({0.3, 1.0, 0}, {0.35, 0.3, 0.35}, 0.2);
    });
    add("stall", 14, {0.74f, 0.36f, 0.28f}, 160, [](Solids& s, int i) {
        s.box({0, 0.5, 0}, {1.2, 0.5, 0.5}).box({0, 2.3, 0.1}, {1.5, 0.06, 0.9}, 0, 0.15);
        for (const double x : {-1.15, 1.15}) s.bar({x, 0, -0.4}, {x, 2.3 + 0.01 * i, -0.4}, 0.04, 6);
    });
    add("bollard", 18, {0.3f, 0.32f, 0.35f}, 60, [](Solids& s, int i) {
        s.turned({{0.2, 0}, {0.16, 0.1}, {0.14, 0.6 + 0.005 * i}, {0.2, 0.7}, {0.16, 0.8}, {0, 0.84}},
                 {0, 0, 0}, 1, 14);
    });
    add("tree", 20, {0.36f, 0.5f, 0.32f}, 220, [](Solids& s, int i) {
        s.bar({0, 0, 0}, {0, 2.2, 0}, 0.14, 8);
        for (int k = 0; k < 3; ++k)
            s.turned({{0.2, 1.6 + 1.1 * k},
                      {1.7 - 0.4 * k, 2.0 + 1.1 * k},
                      {0.9 - 0.2 * k, 2.9 + 1.1 * k},
                      {0, 3.1 + 1.1 * k}},
                     {0.04 * (i % 5), 0, 0}, 1, 9);
    });
    return out;
}

/// A body of the model's own faces, all of one kind.
formats::ContactBody bodyOf(const Built& one, const platform::Sheet& sheet) {
    Model model = one.model;
    model.surfaceKinds = {one.kind};
    Mesh mesh = *model.meshes[0];
    mesh.surfaces.assign(mesh.triangleCount(), 0);
    model.colliders = {{"body", "mesh", std::make_shared<const Mesh>(std::move(mesh))}};
    return formats::contactBodyOf(model, one.name, formats::worldToFile(deliver::writeOptionsFor(sheet, {})));
}

/// A place's line: name, position, and a turn about the city's up.
std::string line(const std::string& name, glm::dvec3 at, double degrees, char separator) {
    const double half = glm::radians(degrees) / 2;
    return fmt::format("{0}{1}{2:.2f}{1}{3:.2f}{1}{4:.2f}{1}0{1}0{1}{5:.6f}{1}{6:.6f}", name, separator, at.x,
                       at.y, at.z, std::sin(half), std::cos(half));
}

} // namespace

std::vector<OutFile> portCalderGame() {
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "portcalder");
    const auto built = othersObjects();
    std::vector<OutFile> entries;
    std::string definitions = "name,number,pictures,view,traits\n";
    std::map<std::string, formats::ContactFile> contacts;
    const std::map<std::string, std::string> makers{{"quay-extras.contact", "Mira Quill"},
                                                    {"fishmarket-floor.contact", "Odd Fennel"},
                                                    {"ropewalk-floor.contact", "Tamsin Reed"},
                                                    {"customs-yard.contact", "Odd Fennel"}};
    std::mt19937 random(407);
    int number = 40011;
    for (const Built& one : built) {
        const Model ready = deliver::bakedFor(*sheet, one.model);
        entries.push_back({one.name + ".mesh", formats::writeCityMesh(formats::cityMeshOf(ready))});
        entries.push_back({one.name + ".pictures", formats::writeCityPictures({})});
        definitions += fmt::format("{},{},{},{:g},{}\n", one.name, number, one.name, one.view, one.traits);
        number += 1 + int(random() % 12) + (number % 97 == 0 ? 400 : 0);
        if (one.file.empty()) continue;
        auto& file = contacts[one.file];
        file.by = makers.at(one.file);
        file.bodies.push_back(bodyOf(one, *sheet));
    }
    for (const auto& [name, file] : contacts) entries.push_back({name, formats::writeContact(file)});

    // Each district is two rows of houses along a street, with what stands in it.
    const struct {
        const char* name;
        glm::dvec2 middle;
        char separator;
        const char* end;
        bool lastEnd;
    } districts[] = {{"lamplighters", {400, 100}, ',', "\n", true},
                     {"fishmarket", {600, 100}, ',', "\r\n", true},
                     {"ropewalk", {400, -100}, ';', "\r\n", true},
                     {"customs", {600, -100}, ',', "\n", false}};
    std::vector<OutFile> out{{"port-calder.txt", "Port Calder: four districts of the harbour.\n"},
                             {"objects.zip", zipped(entries)},
                             {"definitions.csv", definitions}};
    std::string bounds = "name,x0,y0,x1,y1\n";
    std::size_t houseAt = 4, smallAt = 92;
    for (const auto& district : districts) {
        const glm::dvec2 m = district.middle;
        bounds += fmt::format("{},{},{},{},{}\n", district.name, m.x - 100, m.y - 100, m.x + 100, m.y + 100);
        std::string table =
            district.separator == ';' ? "\xEF\xBB\xBFname;x;y;z;qx;qy;qz;qw" : "name,x,y,z,qx,qy,qz,qw";
        const auto put = [&](const std::string& name, glm::dvec3 at, double turn) {
            table += district.end + line(name, at, turn, district.separator);
        };
        put(fmt::format("{}-quay", district.name), {m.x, m.y, 0}, 0);
        for (int i = 0; i < 22; ++i) { // eleven on either side of the street
            const double x = m.x - 80 + 15.5 * (i % 11), side = i < 11 ? 1 : -1;
            put(built[houseAt++].name, {x, m.y + side * (14 + 3 * (i % 3)), quayHeight}, side > 0 ? 180 : 0);
        }
        for (int i = 0; i < 30; ++i) {
            const double x = m.x - 85 + 5.9 * i, y = m.y + (i % 2 ? 6.5 : -6.5) + 0.1 * double(random() % 10);
            put(built[smallAt++].name, {x, y, quayHeight}, double(random() % 360));
        }
        if (district.lastEnd) table += district.end;
        out.push_back({fmt::format("placements-{}.csv", district.name), table});
    }
    out.push_back({"districts.csv", bounds});
    for (OutFile& file : out) file.name = "games/port-calder/" + file.name;
    return out;
}

} // namespace zl::demo
