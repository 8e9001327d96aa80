// Every reader on thousands of files that were whole once: cut off, with bytes changed, doubled and taken
// out. Whatever comes, a reader gives a model that keeps its promises or an Error that names the file.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/model/promises.h"
#include "standins/level/level_file.h"
#include "standins/site/glb_file.h"
#include "standins/world/obj_file.h"
#include "standins/world/collada_file.h"
#include "support/rich_model.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <random>

using namespace zl;

namespace {

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
    CHECK(brokenPromise(model) == "");
}

} // namespace

TEST_CASE("no reader gives a broken model or ends badly, however its file was spoiled") {
    // How many of the spoiled files a reader must refuse at least: formats that check themselves refuse most,
    // in others nearly any line is a line.
    const auto [extension, leastRefused] = GENERATE(table<std::string, int>({{"obj", 0},
                                                                             {"stl", 20},
                                                                             {"ply", 40},
                                                                             {"glb", 60},
                                                                             {"dae", 40},
                                                                             {"x3d", 20},
                                                                             {"3mf", 60},
                                                                             {"lamplevel", 100}}));
    TemporaryFolder folder;
    const auto files =
        formats::formatToWrite("bell." + extension).write(richModel(), {.name = "bell"}, nullptr);
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
    CHECK(refused >= leastRefused);
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
        return formats::formatToWrite(name).write(richModel(), {.name = "bell"}, nullptr)[0].bytes;
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
            const auto read = standins::world::readColladaFile(bytes);
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
