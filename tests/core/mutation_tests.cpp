// Every reader on thousands of files that were whole once: cut off, with bytes changed, doubled and taken
// out. Whatever comes, a reader gives a model that keeps its promises or an Error that names the file.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/formats/mesh_promises.h"
#include "core/texture/picture_file.h"
#include "standins/level/level_file.h"
#include "standins/site/glb_file.h"
#include "standins/world/obj_file.h"
#include "standins/yard/collada_file.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <random>

using namespace zl;

namespace {

/// A small model that uses most of what formats hold.
Model seed() {
    Model model = shapes::modelOf(shapes::sphere(6, 4), "bell");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->parts = {{0, 10, 0}, {10, std::uint32_t(mesh->triangleCount() - 10), 1}};
    mesh->normals = mesh->positions;
    mesh->colours.assign(mesh->vertexCount(), glm::vec4(0.5f, 0.25f, 1, 1));
    mesh->joints.assign(mesh->vertexCount(), glm::u16vec4(0, 1, 0, 0));
    mesh->weights.assign(mesh->vertexCount(), glm::vec4(0.25f, 0.75f, 0, 0));
    mesh->morphs.push_back({"swell", mesh->positions, {}});
    model.meshes[0] = mesh;
    model.images = {texture::pictureFromBytes(
        "bronze.png", texture::encodePng({4, 4, std::vector<std::uint8_t>(64, 130)}))};
    model.materials = {{.name = "bronze"}, {.name = "rope"}};
    model.materials[0].baseColourImage = 0;
    model.nodes.push_back({"yoke", -1, glm::dmat4(1.0)});
    model.nodes.push_back({"clapper", 1, glm::dmat4(1.0)});
    model.skins.push_back({"rig", {1, 2}, {glm::mat4(1), glm::mat4(1)}, 1});
    model.nodes[0].skin = 0;
    model.clips.push_back(std::make_shared<const Clip>(
        Clip{"swing",
             {{2, Channel::Target::Rotation, Channel::Curve::Linear, {0, 1}, {0, 0, 0, 1, 0, 0, 1, 0}}}}));
    return model;
}

std::string mutated(std::string bytes, std::mt19937& random) {
    const auto place = [&] { return random() % std::max<std::size_t>(bytes.size(), 1); };
    const int changes = 1 + int(random() % 4);
    for (int i = 0; i < changes && !bytes.empty(); ++i) switch (random() % 7) {
        case 0: // cut off
            bytes.resize(place());
            break;
        case 1: // one byte
            bytes[place()] = static_cast<char>(random());
            break;
        case 2: // a number's worth of bytes at an extreme
            for (std::size_t at = place(), k = 0; k < 4 && at + k < bytes.size(); ++k)
                bytes[at + k] = static_cast<char>(random() % 2 ? 0xff : 0x7f);
            break;
        case 3: // a run taken out
            bytes.erase(place(), random() % 40);
            break;
        case 4: { // a run doubled
            const std::size_t at = place();
            bytes.insert(at, bytes.substr(at, random() % 60));
            break;
        }
        case 5: // digits, where texts hold numbers
            if (const auto at = bytes.find_first_of("0123456789", place()); at != std::string::npos)
                bytes.replace(at, 1, random() % 2 ? "99999999999" : "-");
            break;
        default: // a word of another kind
            bytes.insert(place(), random() % 2 ? "nan" : "\"");
        }
    return bytes;
}

void checkPromises(const Model& model) {
    for (const auto& mesh : model.meshes) CHECK(formats::keepsPromises(*mesh));
    const auto below = [](int index, std::size_t count) { return index >= -1 && index < int(count); };
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        CHECK(node.parent >= -1);
        CHECK(node.parent < int(n));
        CHECK(below(node.mesh, model.meshes.size()));
        CHECK(below(node.skin, model.skins.size()));
        if (node.mesh >= 0 && node.skin >= 0)
            for (const glm::u16vec4& joints : model.meshes[node.mesh]->joints)
                for (int k = 0; k < 4; ++k) CHECK(joints[k] < model.skins[node.skin].joints.size());
    }
    for (const auto& mesh : model.meshes)
        for (const MeshPart& part : mesh->parts) CHECK(below(part.material, model.materials.size()));
    for (const Material& material : model.materials)
        CHECK(below(material.baseColourImage, model.images.size()));
    for (const Skin& skin : model.skins) {
        CHECK(skin.inverseBind.size() == skin.joints.size());
        for (const int joint : skin.joints) CHECK((joint >= 0 && joint < int(model.nodes.size())));
    }
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels) {
            CHECK(below(channel.node, model.nodes.size()));
            CHECK_FALSE((channel.times.empty() && !channel.values.empty()));
        }
}

} // namespace

TEST_CASE("no reader gives a broken model or ends badly, however its file was spoiled") {
    const std::string extension = GENERATE("obj", "stl", "ply", "glb", "dae", "x3d", "3mf", "lamplevel");
    TemporaryFolder folder;
    const auto files = formats::formatToWrite("bell." + extension).write(seed(), {.name = "bell"}, nullptr);
    writeAllOrNone(folder.path(), files);
    REQUIRE_NOTHROW(checkPromises(formats::readModel(folder / files[0].name)));
    std::mt19937 random(static_cast<unsigned>(extension[0] * 31 + extension[1]));
    int read = 0, refused = 0;
    for (int i = 0; i < 250; ++i) {
        const std::string bytes = mutated(files[0].bytes, random);
        INFO(extension << ", change " << i);
        try {
            const Model model = formats::readModel(folder.write("spoiled." + extension, bytes));
            checkPromises(model);
            ++read;
        } catch (const Error& error) {
            CHECK(error.whole().find("spoiled") != std::string::npos);
            ++refused;
        }
    }
    CHECK(read + refused == 250);
    CHECK(read > 0); // otherwise the changes were too coarse to try the insides
}

void checkShape(const standins::world::Shape& shape) {
    for (const std::uint32_t index : shape.indices) REQUIRE(index < shape.positions.size());
    CHECK((shape.normals.empty() || shape.normals.size() == shape.positions.size()));
    CHECK((shape.uvs.empty() || shape.uvs.size() == shape.positions.size()));
}

TEST_CASE("the stand-ins' own readers survive spoiled deliveries") {
    TemporaryFolder folder;
    std::mt19937 random(5);
    const auto bytesOf = [](const char* name) {
        return formats::formatToWrite(name).write(seed(), {.name = "bell"}, nullptr)[0].bytes;
    };
    const std::string kind = GENERATE("yard", "site", "level", "table");
    const std::string whole = bytesOf(kind == "yard"    ? "bell.dae"
                                      : kind == "site"  ? "bell.glb"
                                      : kind == "level" ? "bell.lamplevel"
                                                        : "bell.obj");
    int broken = 0;
    for (int i = 0; i < 300; ++i) {
        INFO(kind << ", change " << i);
        const std::string bytes = mutated(whole, random);
        std::string problem;
        if (kind == "yard") {
            const auto read = standins::yard::readColladaFile(bytes);
            problem = read.problem;
            for (const auto& part : read.parts) checkShape(part.shape);
        } else if (kind == "site") {
            const auto read = standins::site::readGlbFile(bytes);
            problem = read.problem;
            checkShape(read.shape);
        } else if (kind == "level") {
            const auto read = standins::level::readLevelFile(bytes);
            problem = read.problem;
            for (const auto& object : read.objects) checkShape(object.shape);
        } else {
            const auto read = standins::world::readObjFile(folder.write("bell.obj", bytes));
            problem = read.problem;
            checkShape(read.shape);
        }
        broken += !problem.empty();
    }
    CHECK(broken > 10);
}

TEST_CASE("spoiled pictures are errors or pictures of the size they say") {
    std::mt19937 random(9);
    std::vector<std::uint8_t> pixels;
    for (int i = 0; i < 16 * 16 * 4; ++i) pixels.push_back(static_cast<std::uint8_t>(random()));
    const std::string whole = texture::encodePng({16, 16, pixels});
    for (int i = 0; i < 400; ++i) {
        try {
            const auto image = texture::pictureFromBytes("spoiled.png", mutated(whole, random));
            CHECK(image->width > 0);
            CHECK(image->height > 0);
        } catch (const Error& error) {
            CHECK(error.whole().find("spoiled.png") != std::string::npos);
        }
    }
}
