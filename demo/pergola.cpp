// The pergola on the quay's garden side: 44 solids in six groups, two lamps and an evening sun.
#include "demo_data.h"

#include "core/solids/scene.h"

#include <fmt/format.h>

namespace zl::demo {

namespace {

using namespace solids;
using solids::Kind;

const Look oak{Stuff::Wood, {0.69f, 0.49f, 0.31f}, 0, {}, {}},
    dark{Stuff::Wood, {0.45f, 0.29f, 0.19f}, 0, {}, {}},
    stone{Stuff::Stone, {0.72f, 0.69f, 0.63f}, 0, {}, {}},
    slate{Stuff::Stone, {0.47f, 0.50f, 0.52f}, 0, {}, {}},
    clay{Stuff::Stone, {0.76f, 0.42f, 0.27f}, 0, {}, {}},
    leaf{Stuff::Cloth, {0.34f, 0.52f, 0.24f}, 0, {}, {}},
    shade{Stuff::Cloth, {0.95f, 0.80f, 0.48f}, 0.5f, {}, {}},
    rope{Stuff::Cloth, {0.82f, 0.70f, 0.50f}, 0, {}, {}};

class Maker {
public:
    Number group(const std::string& name, Number within = 0) {
        const Number number = scene.fresh();
        scene.groups[number] = {name, within, 0};
        return number;
    }
    Solid& add(Number group, const std::string& name, Kind kind, glm::dvec3 size, glm::dvec3 at,
               const Look& look) {
        Solid& solid = scene.solids[scene.fresh()];
        solid.name = name, solid.group = group, solid.look = look, solid.at = at;
        solid.shape.kind = kind, solid.shape.size = size;
        return solid;
    }
    Solid& box(Number group, const std::string& name, glm::dvec3 size, glm::dvec3 at, const Look& look) {
        return add(group, name, Kind::Box, size, at, look);
    }

    Scene scene;
};

constexpr double top = 0.12; ///< of the paving, metres

void paving(Maker& make) {
    const Number floor = make.group("paving");
    make.box(floor, "slab", {4.4, top, 3.4}, {0, top / 2, 0}, stone);
    for (const double side : {-1.0, 1.0}) {
        make.box(floor, "kerb", {4.8, 0.18, 0.2}, {0, 0.09, side * 1.8}, slate);
        make.box(floor, "kerb", {0.2, 0.18, 3.4}, {side * 2.3, 0.09, 0}, slate);
    }
}

void frame(Maker& make) {
    const Number whole = make.group("frame"), posts = make.group("posts", whole),
                 roof = make.group("roof", whole);
    for (const double z : {-1.3, 1.3})
        for (const double x : {-1.8, 0.0, 1.8}) {
            Solid& foot = make.box(posts, "foot", {0.32, 0.16, 0.32}, {x, top + 0.08, z}, slate);
            foot.shape.head = {0.7, 0.7};
            Solid& post = make.box(posts, "post", {0.16, 2.1, 0.16}, {x, top + 0.16 + 1.05, z}, oak);
            if (x == 0) post.shape.twist = 90;
        }
    for (const double z : {-1.3, 1.3}) make.box(whole, "beam", {4.4, 0.2, 0.12}, {0, top + 2.36, z}, oak);
    for (const double x : {-1.8, 0.0, 1.8})
        make.box(whole, "tie", {0.12, 0.16, 2.9}, {x, top + 2.54, 0}, oak);
    for (int k = 0; k < 10; ++k)
        make.box(roof, "slat", {4.5, 0.06, 0.1}, {0, top + 2.65, -1.35 + 0.3 * k}, dark);
}

void bench(Maker& make) {
    const Number seat = make.group("bench");
    for (const double z : {-0.87, -0.65})
        make.box(seat, "plank", {1.5, 0.05, 0.2}, {-0.9, top + 0.45, z}, dark);
    for (const double x : {-1.5, -0.3}) {
        Solid& leg = make.box(seat, "leg", {0.1, 0.42, 0.4}, {x, top + 0.21, -0.76}, slate);
        leg.shape.head = {1, 0.8};
    }
    Solid& back = make.add(seat, "back", Kind::Wedge, {1.5, 0.45, 0.12}, {-0.9, top + 0.74, -1.02}, dark);
    back.physics = Physics::Stands;
}

void garden(Maker& make) {
    const Number garden = make.group("garden");
    for (const double x : {0.75, 1.55}) {
        Solid& pot = make.add(garden, "pot", Kind::Cylinder, {0.5, 0.45, 0.5}, {x, top + 0.225, -0.8}, clay);
        pot.shape.foot = {0.7, 0.7}, pot.shape.hollow = 0.8;
        Solid& bush = make.add(garden, "bush", Kind::Ball, {0.6, 0.7, 0.6}, {x, top + 0.72, -0.8}, leaf);
        bush.physics = Physics::LetsThrough;
    }
    for (const double x : {-0.9, 0.9}) {
        Solid& hood =
            make.add(garden, "lamp hood", Kind::Cylinder, {0.36, 0.26, 0.36}, {x, top + 2.25, 0}, shade);
        hood.shape.head = {0.4, 0.4}, hood.shape.hollow = 0.9;
    }
    Solid& wreath = make.add(garden, "wreath", Kind::Ring, {0.7, 0.12, 0.7}, {0, top + 1.75, 1.22}, rope);
    wreath.turn = {90, 0, 0}, wreath.shape.thick = 0.3;
    wreath.physics = Physics::LetsThrough;
}

} // namespace

solids::Scene pergola() {
    Maker make;
    paving(make), frame(make), bench(make), garden(make);
    const auto light = [&](Light light) { make.scene.lights[make.scene.fresh()] = std::move(light); };
    for (const double x : {-0.9, 0.9})
        light({"lamp", LightKind::Lamp, {x, top + 2.13, 0}, {}, {1, 0.84f, 0.58f}, 0.9, {0.14, 0.1}});
    light({"evening sun", LightKind::Sun, {0, 0, 0}, {48, -38, 0}, {1, 0.90f, 0.76f}, 0.95, {1.5, 1.5}});
    return make.scene;
}

} // namespace zl::demo
