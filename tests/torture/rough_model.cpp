#include "rough_model.h"

#include "rough_avatar.h"

#include "rough_mesh.h"
#include "support/rich_model.h"

#include "core/formats/mend_model.h"
#include "core/model/promises.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>

namespace torture {

using namespace zl;

namespace {

glm::dmat4 roughLocal(Dice& dice) {
    glm::dmat4 m(1.0);
    if (dice.chance(0.4)) return m;
    m = glm::translate(m, {dice.between(-3.0, 3.0), dice.between(-3.0, 3.0), dice.between(-3.0, 3.0)});
    if (dice.chance(0.5))
        m = glm::rotate(m, dice.between(-4.0, 4.0), glm::dvec3(dice.pm1(), dice.pm1() + 1.5, 1));
    if (dice.chance(0.15)) m = glm::scale(m, {-1.0, 1.0, 1.0});
    if (dice.chance(0.07)) m = glm::scale(m, {1.0, 0.0, 1.0});
    if (dice.chance(0.04)) m = glm::scale(m, {0.0, 0.0, 0.0});
    if (dice.chance(0.1)) m = glm::scale(m, glm::dvec3(dice.chance(0.5) ? 1000 : 0.001));
    if (dice.chance(0.1)) m[0][1] = dice.between(-1.0, 1.0); // sheared
    return m;
}

void addMaterials(Model& model, Dice& dice) {
    for (int i = dice.chance(0.3) ? 0 : dice.between(1, 4); i-- > 0;) {
        Material material;
        material.name = dice.chance(0.3) ? "plain" : roughName(dice);
        if (material.name.empty()) material.name = "m";
        material.baseColour = {dice.unit(), dice.unit(), dice.unit(), dice.chance(0.8) ? 1 : dice.unit()};
        material.roughness = float(dice.unit());
        if (dice.chance(0.5)) {
            if (model.images.empty() || dice.chance(0.6)) {
                const int width = dice.chance(0.5) ? 4 : dice.between(1, 9), height = dice.between(1, 9);
                std::string name = dice.chance(0.5) ? "skin.png" : roughName(dice) + ".png";
                model.images.push_back(texture::pictureFromBytes(name, png(width, height)));
            }
            PictureUse& use = material.pictures[dice.below(pictureRoles)];
            use.image = int(dice.below(model.images.size()));
            use.channel = PictureChannel(dice.below(5));
            if (dice.chance(0.1)) use.uvSet = dice.between(1, 3); // also on UVs that the mesh has not
            if (dice.chance(0.3))
                use.sampler = {Beyond(dice.below(3)), Beyond(dice.below(3)), dice.chance(0.5)};
        }
        if (dice.chance(0.2)) {
            const UvPlacement lie{{0.25f, -0.5f}, {3, 3}, dice.chance(0.5) ? 0.0f : 1.0f};
            for (PictureUse& use : material.pictures) use.placement = lie;
        }
        model.materials.push_back(std::move(material));
    }
}

/// Ranges of any materials, not sorted, some of them empty.
void addRanges(Mesh& mesh, Dice& dice, int materials) {
    const auto count = std::uint32_t(mesh.triangleCount());
    const auto any = [&] { return dice.between(-1, materials - 1); };
    if (count == 0 && dice.chance(0.5)) return;
    std::uint32_t first = 0;
    for (int cuts = dice.chance(0.5) ? 0 : dice.between(1, 4); cuts-- > 0;) {
        const auto size = std::uint32_t(dice.below(count - first + 1));
        mesh.runs.push_back({first, size, any()});
        first += size;
    }
    mesh.runs.push_back({first, count - first, any()});
}

/// Some faces are of something, by kinds that platforms know and others that none does.
void addSurfaces(Model& model, Dice& dice) {
    if (dice.chance(0.6)) return;
    for (const char* kind : {"stone", "wood", "metal"}) surfaceKindIn(model, kind);
    if (const std::string odd = roughName(dice); !odd.empty()) surfaceKindIn(model, odd);
    for (auto& held : model.meshes) {
        if (dice.chance(0.4)) continue;
        Mesh mesh = *held;
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
            mesh.surfaces.push_back(std::int16_t(dice.between(-1, int(model.surfaceKinds.size()) - 1)));
        held = std::make_shared<const Mesh>(std::move(mesh));
    }
}

/// Words in numbered places, as somebody remembers them.
void addMarks(Model& model, Dice& dice) {
    static const char* const words[] = {"CarryMe", "carryme", "Wired ", "СlimbOn", "0pen", "x"};
    if (dice.chance(0.3)) model.madeFor = dice.chance(0.5) ? "4.1" : roughName(dice);
    for (int i = dice.chance(0.7) || model.nodes.empty() ? 0 : dice.between(1, 5); i-- > 0;)
        model.nodes[dice.below(model.nodes.size())].marks[dice.between(0, 9)] = dice.of(words);
}

void addNodes(Model& model, Dice& dice) {
    const bool crowd = dice.chance(0.004);
    const int count = crowd ? 5000 : dice.between(1, 8);
    for (int i = 0; i < count; ++i) {
        Node node{crowd ? "grass" : roughName(dice), dice.chance(0.5) ? -1 : dice.between(-1, i - 1),
                  roughLocal(dice)};
        if (node.name.empty()) node.name = "n";
        if (!model.meshes.empty() && dice.chance(0.8)) node.mesh = int(dice.below(model.meshes.size()));
        model.nodes.push_back(std::move(node));
    }
}

/// Meshes on bones get a skin for the nodes that show them; bones are nodes behind all others.
void addSkin(Model& model, Dice& dice, std::size_t bones) {
    const bool used =
        std::ranges::any_of(model.meshes, [](const auto& mesh) { return !mesh->joints.empty(); });
    if (!used) return;
    Skin skin{"rig", {}, {}, -1};
    for (std::size_t b = 0; b < bones; ++b) {
        skin.joints.push_back(int(model.nodes.size()));
        skin.inverseBind.push_back(glm::mat4(1));
        model.nodes.push_back(
            {"bone", b > 0 && dice.chance(0.7) ? skin.joints[b - 1] : -1, roughLocal(dice)});
    }
    if (dice.chance(0.3)) skin.root = skin.joints[0];
    model.skins.push_back(std::move(skin));
    for (Node& node : model.nodes)
        if (node.mesh >= 0 && !model.meshes[node.mesh]->joints.empty() && dice.chance(0.9)) node.skin = 0;
}

void addClips(Model& model, Dice& dice) {
    for (int i = dice.chance(0.7) ? 0 : dice.between(1, 3); i-- > 0;) {
        Clip clip;
        clip.name = dice.chance(0.5) ? "walk" : roughName(dice);
        for (int c = dice.between(0, 4); c-- > 0;) {
            Channel channel;
            channel.node = int(dice.below(model.nodes.size()));
            channel.target = Channel::Target(dice.below(4));
            channel.curve = Channel::Curve(dice.below(3));
            for (int k = dice.between(1, 4); k-- > 0;)
                channel.times.push_back((channel.times.empty() ? 0 : channel.times.back()) +
                                        float(dice.unit()));
            for (std::size_t v = numbersOfKey(channel, model) * channel.times.size(); v-- > 0;)
                channel.values.push_back(
                    channel.target == Channel::Target::Scale && dice.chance(0.1) ? 0 : dice.pm1() + 1.5f);
            clip.channels.push_back(std::move(channel));
        }
        model.clips.push_back(std::make_shared<const Clip>(std::move(clip)));
    }
}

} // namespace

std::string roughName(Dice& dice) {
    static const std::string names[] = {"",
                                        "a",
                                        "A",
                                        "part",
                                        "part",
                                        "Körper",
                                        "身体",
                                        "🦔",
                                        "two words",
                                        " lead and trail ",
                                        "comma, star* ask?",
                                        "\"quoted\\\"",
                                        "<tag attribute='x'>&amp;",
                                        "../../up",
                                        "/etc/hosts",
                                        "line\nbreak",
                                        "tab\tbell\a",
                                        "#comment",
                                        "{1} {n} {name}",
                                        "-1",
                                        "1e999",
                                        "con",
                                        "name.obj",
                                        "plain",
                                        std::string(300, 'x'),
                                        "é" + std::string(200, 'y')};
    return dice.of(names);
}

Model roughModel(Dice& dice) {
    Model model;
    model.name = roughName(dice);
    addMaterials(model, dice);
    const std::size_t bones = dice.chance(0.2) ? std::size_t(dice.between(1, 5)) : 0;
    for (int i = dice.between(0, 4); i-- > 0;) {
        Mesh mesh = roughTriangles(dice);
        mesh.name = roughName(dice);
        addRoughAttributes(mesh, dice, bones);
        addRanges(mesh, dice, int(model.materials.size()));
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    }
    addSurfaces(model, dice);
    addNodes(model, dice);
    addMarks(model, dice);
    addSkin(model, dice, bones);
    addClips(model, dice);
    model.frame.unit = unitNamed(dice.chance(0.5) ? "m" : dice.chance(0.5) ? "mm" : "in");
    model.frame.up = dice.chance(0.5) ? Up::Y : Up::Z;
    model.frame.unitAssumed = dice.chance(0.5), model.frame.upAssumed = dice.chance(0.5);
    model.placement = model.frame.toMetres();
    model.headingKnown = dice.chance(0.3);
    if (dice.chance(0.2)) makeRoughAvatar(model, dice);
    formats::mendModel(model); // as every model is that was read
    return model;
}

} // namespace torture
