// Headers for the console: read back by a C program of the test's own, compiled without a warning, refused
// where they are more than data.
#include "core/base/error.h"
#include "core/deliver/console_headers.h"
#include "core/deliver/console_piece.h"
#include "core/geometry/world.h"
#include "core/platform/check.h"
#include "core/texture/picture_file.h"
#include "standins/console/console_arena.h"
#include "standins/console/headers.h"
#include "standins/console/process.h"
#include "standins/world/arena.h"
#include "support/shapes.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <fstream>
#include <map>
#include <sstream>
#include <thread>

using namespace zl;

namespace {

constexpr double metres = 1 / 128.0;

/// Two balls on two bones, one turned, in pictures, with a clip that turns and moves.
Model winder() {
    Model model = shapes::modelOf(shapes::sphere(12, 8, 0.3), "base");
    model.nodes[0].local = glm::translate(glm::dmat4(1), {0.0, 0.5, 0.0});
    model.nodes.push_back(
        {"arm one", 0, glm::rotate(glm::translate(glm::dmat4(1), {0.1, 0.4, 0.05}), 0.7, glm::dvec3(0, 0, 1)),
         1});
    model.meshes.push_back(std::make_shared<const Mesh>(shapes::sphere(9, 7, 0.2)));
    for (auto& mesh : model.meshes) {
        Mesh worn = *mesh;
        worn.runs = {{0, std::uint32_t(worn.triangleCount()), int(&mesh - model.meshes.data())}};
        mesh = std::make_shared<const Mesh>(worn);
    }
    Pixels red{8, 8, {}};
    for (int k = 0; k < 64; ++k)
        red.rgba.insert(red.rgba.end(), {255, std::uint8_t(k % 2 ? 0 : 255), 0, 255});
    model.images = {texture::pictureFromPixels("Brass & tin.png", red, false)};
    model.materials = {{.name = "tin"}, {.name = "paint", .baseColour = {0.2f, 0.5f, 0.1f, 1}}};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    const glm::quat turned = glm::angleAxis(1.1f, glm::normalize(glm::vec3(1, 2, 3)));
    Channel turn{1,
                 Channel::Target::Rotation,
                 Channel::Curve::Linear,
                 {0, 0.5f},
                 {0, 0, 0, 1, turned.x, turned.y, turned.z, turned.w}};
    Channel move{0,
                 Channel::Target::Translation,
                 Channel::Curve::Linear,
                 {0, 0.25f, 0.5f},
                 {0, 0.5f, 0, 0.1f, 0.6f, 0, 0, 0.5f, 0.2f}};
    model.clips = {std::make_shared<const Clip>(Clip{"Idle", {turn, move}, {0.1, 0, -1.5}}),
                   std::make_shared<const Clip>(Clip{"idle", {turn}})};
    return model;
}

/// Writes the headers, and a C program that prints what is in them.
void writeHeaders(const Model& model, const TemporaryFolder& folder, const std::string& name = "winder") {
    for (const OutFile& file : deliver::ConsoleHeaders{}.make(model, *sheet("brindle"), {.name = name}, {}))
        folder.write(file.name, file.bytes);
}

int compile(const TemporaryFolder& folder, const std::string& compiler, const std::string& source,
            std::string* said = nullptr) {
    standins::console::Process run({standins::console::programNamed(compiler).string(), "-std=c99", "-Wall",
                                    "-Wextra", "-pedantic", "-Werror", source, "-o", "out"},
                                   folder.path(), {2048, 60});
    const int code = run.finish(std::chrono::seconds(60));
    if (said) *said = run.errors();
    return code;
}

std::string outOf(const TemporaryFolder& folder) {
    standins::console::Process run({(folder / "out").string()}, folder.path(), {512, 20});
    CHECK(run.finish(std::chrono::seconds(20)) == 0);
    return run.received();
}

constexpr const char* decoder = R"(#include "winder_model.h"
#include "winder_pictures.h"
#include <stdio.h>
int main(void) {
    int s, b, t, k, c;
    printf("%d %d\n", WINDER_SHIFT, WINDER_UV_ONE);
    for (s = 0; s < WINDER_SEGMENT_COUNT; ++s)
        for (b = 0; b < winder_segments[s].batches; ++b) {
            const brindle_batch *batch = winder_batches + winder_segments[s].first_batch + b;
            if (batch->corners > 16) return 1;
            for (t = 0; t < batch->triangles; ++t) {
                printf("t %d %d", winder_segments[s].bone, batch->picture);
                for (k = 0; k < 3; ++k) {
                    const brindle_corner *corner = winder_corners + batch->first_corner + winder_triangles[3 * (batch->first_triangle + t) + k];
                    for (c = 0; c < 3; ++c) printf(" %d", corner->place[c]);
                    for (c = 0; c < 2; ++c) printf(" %d", corner->uv[c]);
                }
                printf("\n");
            }
        }
    for (b = 0; b < WINDER_BONE_COUNT; ++b) {
        printf("b %d", winder_bones[b].above);
        for (c = 0; c < 3; ++c) printf(" %d", winder_bones[b].place[c]);
        for (c = 0; c < 4; ++c) printf(" %d", winder_bones[b].turn[c]);
        printf("\n");
    }
    for (t = 0; t < winder_clips[WINDER_CLIP_IDLE].tracks; ++t) {
        const brindle_track *track = winder_tracks + winder_clips[WINDER_CLIP_IDLE].first_track + t;
        for (k = 0; k < track->keys; ++k) {
            const brindle_key *key = winder_keys + track->first_key + k;
            printf("k %d %d %d %d %d %d %d\n", track->bone, track->kind, key->ticks, key->value[0], key->value[1], key->value[2], key->value[3]);
        }
    }
    printf("w %d %d %d\n", winder_clips[WINDER_CLIP_IDLE].way[0], winder_clips[WINDER_CLIP_IDLE].way[1], winder_clips[WINDER_CLIP_IDLE].way[2]);
    for (k = 0; k < WINDER_PICTURE_COUNT; ++k)
        printf("p %d %d %d %d\n", winder_pictures[k].format, winder_pictures[k].width, winder_pictures[k].height, (int)winder_pictures[k].bytes);
    return 0;
}
)";

} // namespace

TEST_CASE("Headers that were compiled say what the model is, within half a step of their numbers") {
    const Model model = winder();
    for (const char* compiler : {"gcc", "clang"}) {
        if (standins::console::programNamed(compiler).empty()) continue;
        TemporaryFolder folder;
        writeHeaders(model, folder);
        folder.write("decode.c", decoder);
        std::string said;
        INFO(compiler);
        const int code = compile(folder, compiler, "decode.c", &said);
        INFO(said);
        REQUIRE(code == 0);
        std::istringstream out(outOf(folder));
        int shift = 0, uvOne = 0;
        out >> shift >> uvOne;
        const double step = metres / (1 << shift);
        struct Drawn {
            int bone, picture;
            std::array<glm::dvec3, 3> places;
            std::array<glm::dvec2, 3> uvs;
        };
        std::vector<Drawn> drawn;
        std::vector<std::array<double, 8>> bones;
        std::vector<std::array<double, 7>> keys;
        glm::dvec3 way(0);
        std::string word, picture;
        while (out >> word) {
            if (word == "t") {
                Drawn one;
                out >> one.bone >> one.picture;
                for (int c = 0; c < 3; ++c) {
                    auto& p = one.places[std::size_t(c)];
                    auto& uv = one.uvs[std::size_t(c)];
                    out >> p.x >> p.y >> p.z >> uv.x >> uv.y;
                    p *= step, uv /= double(uvOne);
                }
                drawn.push_back(one);
            } else if (word == "w") {
                out >> way.x >> way.y >> way.z;
            } else if (word == "p") {
                std::getline(out, picture);
            } else {
                const std::size_t count = word == "b" ? 8 : 7;
                std::array<double, 8> numbers{};
                for (std::size_t k = 0; k < count; ++k) out >> numbers[k];
                if (word == "b")
                    bones.push_back(numbers);
                else {
                    std::array<double, 7> key{};
                    std::copy_n(numbers.begin(), 7, key.begin());
                    keys.push_back(key);
                }
            }
        }
        CHECK(drawn.size() == triangleCount(model));
        // Each of the model's triangles is there, corner by corner, in its bone's own space.
        for (int n = 0; n < 2; ++n) {
            const Mesh& mesh = *model.meshes[std::size_t(n)];
            for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
                double best = 1e9;
                for (const Drawn& one : drawn) {
                    if (one.bone != n || one.picture != (n == 0 ? 0 : -1)) continue;
                    for (std::size_t first = 0; first < 3; ++first) {
                        double off = 0;
                        for (std::size_t c = 0; c < 3; ++c) {
                            const glm::dvec3 p(mesh.positions[mesh.indices[3 * t + c]]);
                            for (int k = 0; k < 3; ++k)
                                off = std::max(off, std::abs(p[k] - one.places[(c + first) % 3][k]) / step);
                            if (n == 0)
                                for (int k = 0; k < 2; ++k)
                                    off = std::max(
                                        off, std::abs(double(mesh.uvSets[0][mesh.indices[3 * t + c]][k]) -
                                                      one.uvs[(c + first) % 3][k]) *
                                                 uvOne);
                        }
                        best = std::min(best, off);
                    }
                }
                CHECK(best <= 0.5 + 1e-3);
            }
        }
        REQUIRE(bones.size() == 2);
        CHECK(bones[1][0] == 0);
        CHECK(bones[1][1] * step == Approx(0.1).margin(step / 2));
        CHECK(bones[1][6] / 32767 == Approx(std::sin(0.35)).margin(1e-4)); // z of a turn of 0.7 about Z
        REQUIRE(keys.size() == 5);
        CHECK(keys[1] == std::array<double, 7>{1, 1, 120, std::round(32767 * std::sin(0.55) / std::sqrt(14)),
                                               std::round(32767 * 2 * std::sin(0.55) / std::sqrt(14)),
                                               std::round(32767 * 3 * std::sin(0.55) / std::sqrt(14)),
                                               std::round(32767 * std::cos(0.55))});
        CHECK(keys[3][2] == 60);
        CHECK(keys[3][3] * step == Approx(0.1).margin(step / 2));
        CHECK(glm::distance(way * step, glm::dvec3(0.1, 0, -1.5)) <= step);
        CHECK(picture == " 4 8 8 64");
        CHECK(compile(folder, compiler, "winder_example.c", &said) == 0);
    }
}

TEST_CASE("A clip that goes under another name is an error where the game is compiled") {
    TemporaryFolder folder;
    Model model = winder();
    writeHeaders(model, folder);
    folder.write("game.c", "#include \"winder_model.h\"\nint main(void) { return WINDER_CLIP_IDLE + "
                           "WINDER_SEGMENT_ARM_ONE; }\n");
    REQUIRE(compile(folder, "gcc", "game.c") == 0);
    Clip renamed = *model.clips[0];
    renamed.name = "rest";
    model.clips = {std::make_shared<const Clip>(renamed)};
    writeHeaders(model, folder);
    std::string said;
    CHECK(compile(folder, "gcc", "game.c", &said) != 0);
    CHECK(said.find("WINDER_CLIP_IDLE") != std::string::npos);
}

TEST_CASE("Headers of two deliveries do not go together") {
    TemporaryFolder folder, other;
    Model model = winder();
    writeHeaders(model, folder);
    model.clips.pop_back();
    writeHeaders(model, other);
    std::filesystem::copy_file(other / "winder_names.h", folder / "winder_names.h",
                               std::filesystem::copy_options::overwrite_existing);
    CHECK(compile(folder, "gcc", "winder_example.c") != 0);
}

TEST_CASE("A part that a skin hangs on one bone is a segment of that bone") {
    const Model plain = winder();
    Model hung = plain; // the arm's ball in a skin, bound where it stands, and nowhere else
    Mesh arm = *hung.meshes[1];
    arm.joints.assign(arm.vertexCount(), glm::u16vec4(1, 0, 0, 0));
    arm.weights.assign(arm.vertexCount(), glm::vec4(1, 0, 0, 0));
    hung.meshes[1] = std::make_shared<const Mesh>(arm);
    hung.nodes.push_back({"worn", -1, glm::dmat4(1), 1, 0});
    hung.nodes[1].mesh = -1;
    hung.skins.push_back({"rig", {0, 1}, {glm::mat4(1), glm::mat4(1)}, 0});
    const auto brindle = sheet("brindle");
    CHECK(platform::check(hung, *brindle).rule("one-bone-a-segment")->state != platform::State::Broken);
    const auto one = deliver::consolePieceOf(plain, *brindle, {}),
               other = deliver::consolePieceOf(hung, *brindle, {});
    REQUIRE(other.segments.size() == one.segments.size());
    std::map<std::string, std::size_t> batches;
    for (const auto& segment : one.segments)
        batches[one.bones[std::size_t(segment.bone)].name] = segment.batches;
    for (const auto& segment : other.segments)
        CHECK(batches.at(other.bones[std::size_t(segment.bone)].name) == segment.batches);
    CHECK(other.corners.size() == one.corners.size());
    // One corner of it on the other bone, and it bends.
    arm.joints[0] = glm::u16vec4(0, 0, 0, 0);
    hung.meshes[1] = std::make_shared<const Mesh>(arm);
    CHECK_THROWS_WITH(deliver::consolePieceOf(hung, *brindle, {}),
                      Catch::Contains("bends with several bones"));
}

TEST_CASE("Names become ones that C takes, each once") {
    CHECK(deliver::identifierFrom("Pip the Winder") == "pip_the_winder");
    CHECK(deliver::identifierFrom("3 fish!") == "n3_fish");
    CHECK(deliver::identifierFrom("größe") == "gr_e");
    CHECK(deliver::identifierFrom("§§") == "piece");
    CHECK(deliver::identifierFrom(std::string(500, 'x')).size() == 40);
    TemporaryFolder folder;
    writeHeaders(winder(), folder);
    standins::TryReport report;
    const auto headers = standins::console::readHeaders(folder.path(), report);
    REQUIRE(headers);
    CHECK(headers->clips == std::vector<std::string>{"idle", "idle_2"});
    CHECK(headers->segments == std::vector<std::string>{"base", "arm_one"});
}

TEST_CASE("The console plays every clip, the same each time, and counts what it loads") {
    TemporaryFolder folder;
    writeHeaders(winder(), folder);
    const auto once = standins::console::tryFolder(folder.path()),
               again = standins::console::tryFolder(folder.path());
    REQUIRE(once.accepted);
    CHECK(once.tests["clips"] == again.tests["clips"]);
    const auto& idle = once.tests["clips"][0];
    CHECK(idle["name"] == "idle");
    CHECK(idle["ticks"] == 120);
    CHECK(idle["frames"] == 31); // one more than sixtieths in half a second
    CHECK(idle["loads"] == 31);
    CHECK(idle["loadedBytes"] == 31 * 64);
    CHECK(once.tests["clips"][1]["hash"] != idle["hash"]);
}

TEST_CASE("The console refuses what bends, what is scaled, and what is too large") {
    const auto makes = [](const Model& model) {
        return deliver::ConsoleHeaders{}.make(model, *sheet("brindle"), {}, {});
    };
    Model scaled = winder();
    scaled.nodes[1].local = glm::scale(scaled.nodes[1].local, glm::dvec3(2));
    CHECK_THROWS_AS(makes(scaled), Refused);
    Model large = winder();
    large.placement = glm::scale(glm::dmat4(1), glm::dvec3(700));
    CHECK_THROWS_AS(makes(large), Refused);
    large.placement = glm::scale(glm::dmat4(1), glm::dvec3(40));
    CHECK(makes(large).size() == 4);
    Model bends = winder();
    Mesh mesh = *bends.meshes[0];
    mesh.joints.assign(mesh.vertexCount(), {0, 0, 0, 0}),
        mesh.weights.assign(mesh.vertexCount(), {1, 0, 0, 0});
    mesh.joints[0] = {1, 0, 0, 0};
    bends.meshes[0] = std::make_shared<const Mesh>(mesh);
    bends.skins = {{"rig", {0, 1}, {glm::mat4(1), glm::mat4(1)}, 1}};
    bends.nodes[0].skin = 0;
    CHECK_THROWS_AS(makes(bends), Refused);
    CHECK(makes(Model{}).size() == 4); // of nothing, too
}

TEST_CASE("Headers are data and nothing else") {
    using standins::console::notData;
    TemporaryFolder folder;
    writeHeaders(winder(), folder);
    for (const char* ending : {"_names.h", "_model.h", "_pictures.h"})
        CHECK(notData(readText(folder / ("winder" + std::string(ending))), "winder") == std::nullopt);
    const std::pair<const char*, const char*> hostile[] = {
        {"static int winder_f(void) { return system(\"x\"); }", "line 1"},
        {"#include \"/etc/passwd\"", "line 1"},
        {"#include <stdlib.h>", "line 1"},
        {"\n#define winder_x system", "line 2"},
        {"#define main winder_x", "line 1"},
        {"#define WINDER_A 1 \\\nint x;", "line 1"},
        {"__attribute__((constructor)) int winder_x;", "line 1"},
        {"_Pragma(\"x\")", "line 1"},
        {"static const int winder_x = 'a';", "line 1"},
        {"/* has no end", "line 1"},
        {"\?\?=include <stdio.h>", "line 1"},
        {"int winder_x; int a[1 + (winder_f(2))]", "line 1"},
    };
    for (const auto& [text, line] : hostile) {
        INFO(text);
        const auto problem = notData(text, "winder");
        REQUIRE(problem);
        CHECK(problem->starts_with(line));
    }
}

TEST_CASE("Numbers in headers that lead outside are refused, not followed") {
    TemporaryFolder folder;
    writeHeaders(winder(), folder);
    const std::string model = readText(folder / "winder_model.h"),
                      pictures = readText(folder / "winder_pictures.h");
    const auto tried = [&](const std::string& file, std::string text, const std::string& from,
                           const std::string& to) {
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        folder.write(file, text.replace(at, from.size(), to));
        const auto report = standins::console::tryFolder(folder.path());
        folder.write("winder_model.h", model), folder.write("winder_pictures.h", pictures);
        std::string said;
        for (const auto& message : report.messages) said += message.text + " " + message.detail + "\n";
        CHECK_FALSE(report.accepted);
        return said;
    };
    CHECK(tried("winder_model.h", model, "winder_segments[2] = {\n    {0,", "winder_segments[2] = {\n    {9,")
              .find("segment 0") != std::string::npos);
    CHECK(tried("winder_model.h", model, "winder_bones[2] = {\n    {-1,", "winder_bones[2] = {\n    {1,")
              .find("bone 0") != std::string::npos);
    CHECK(tried("winder_pictures.h", pictures, "{4,0,8,8,0,64}", "{4,0,8,8,64,64}").find("picture 0") !=
          std::string::npos);
    CHECK(tried("winder_pictures.h", pictures, "{4,0,8,8,0,64}", "{0,0,64,64,0,8192}").find("picture 0") !=
          std::string::npos);
    // What does not compile is told with its line.
    CHECK(tried("winder_model.h", model, "#define WINDER_SHIFT",
                "int winder_;int winder_ = -;\n#define WINDER_SHIFT")
              .find("Line ") != std::string::npos);
    CHECK(tried("winder_model.h", "", "", "").find("compile") == std::string::npos);
}

TEST_CASE("Without a compiler the console says what to install; without a piece, what it wants") {
    TemporaryFolder folder;
    const auto empty = standins::console::tryFolder(folder.path());
    CHECK_FALSE(empty.accepted);
    REQUIRE(empty.messages.size() == 1);
    CHECK(empty.messages[0].text == "There is no piece in the folder");
    writeHeaders(winder(), folder);
    const std::string paths = std::getenv("PATH");
    ::setenv("PATH", "/nowhere:relative", 1);
    const auto none = standins::console::tryFolder(folder.path());
    ::setenv("PATH", paths.c_str(), 1);
    CHECK_FALSE(none.accepted);
    REQUIRE(none.messages.size() == 1);
    CHECK(none.messages[0].detail.find("gcc") != std::string::npos);
    CHECK(standins::console::tryFolder(folder.path()).accepted);
}

TEST_CASE("On its arena the console draws, and obeys the pad") {
    TemporaryFolder folder;
    writeHeaders(winder(), folder);
    standins::TryReport report;
    const auto arena = standins::console::open(folder.path(), report);
    REQUIRE(arena);
    const auto playing = [&] { return arena->tables()[0].rows[0].values[0]; };
    const auto until = [&](const std::string& clip) {
        for (int k = 0; k < 400 && playing() != clip; ++k) {
            arena->advance(0.02);
            std::this_thread::sleep_for(std::chrono::milliseconds(5));
        }
        return playing() == clip;
    };
    CHECK(arena->actions()[1].key == "2");
    CHECK(until("idle"));
    const auto first = arena->itemsRevision();
    arena->act("clip-1");
    CHECK(until("idle_2"));
    CHECK(until("idle")); // what was asked for plays once
    CHECK(arena->itemsRevision() > first);
}
