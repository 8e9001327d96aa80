// Karts: slots, hidden parts and settings, the file read back by the track's own reader, and a plan that
// comes to few bytes.
#include "core/base/error.h"
#include "core/deliver/kart.h"
#include "core/formats/format.h"
#include "core/formats/kart_file.h"
#include "core/formats/kart_shares.h"
#include "core/geometry/world.h"
#include "core/model/promises.h"
#include "core/motion/posed.h"
#include "core/motion/weights_on.h"
#include "core/planner/planner.h"
#include "core/texture/colour_blocks.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"
#include "core/uv/pixel_lengths.h"
#include "standins/track/kart.h"
#include "standins/world/colour_blocks.h"
#include "standins/track/track_arena.h"
#include "standins/world/arena.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"
#include "support/swimmer.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <random>

using namespace zl;
using nlohmann::json;

namespace {

Model ready(Model model) {
    const auto kite = sheet("kitecup");
    model = ranStep(model, "slots", {{"others", "swim"}}, kite.get()).model;
    model = ranStep(model, "hide", {{"of", {"rider"}}}).model;
    return ranStep(model, "platform-settings", json::object(), kite.get()).model;
}

std::optional<standins::track::Kart> loaded(const std::string& bytes, standins::TryReport& report,
                                            const std::string& name = "kart.fish.kcb") {
    TemporaryFolder folder;
    folder.write(name, bytes);
    return standins::track::loadKart(folder.path(), report);
}

std::string fileOf(const Model& model) {
    return deliver::Kart{}
        .make(model, *sheet("kitecup"), {.name = "Fish", .credit = "Mira Quill"}, {})[0]
        .bytes;
}

} // namespace

TEST_CASE("Slots take the clips that rows name, then those of their own name, then the one for all others") {
    const auto kite = sheet("kitecup");
    const auto ran =
        ranStep(swimmer(), "slots", {{"filled", {{{"slot", "drift"}, {"clip", "hop"}}}}, {"others", "swim"}},
                kite.get());
    std::map<std::string, std::string> plays;
    for (const ClipSlot& slot : ran.model.clipSlots)
        plays[slot.name] = ran.model.clips[std::size_t(slot.clip)]->name;
    CHECK(plays == std::map<std::string, std::string>{{"drive", "swim"},
                                                      {"drift", "hop"},
                                                      {"hop", "hop"},
                                                      {"trick", "swim"},
                                                      {"spin", "swim"},
                                                      {"lose", "swim"}});
    CHECK(keepsPromises(ran.model));
    const auto some = ranStep(swimmer(), "slots", json::object(), kite.get());
    CHECK(some.model.clipSlots.size() == 1);
    CHECK(some.shortfall == "nothing is played for drive, drift, trick, spin, lose");
    CHECK(some.facts["offers"][0] ==
          json{{"words", "All that are empty take swim"}, {"params", {{"others", "swim"}}}});
    CHECK_THROWS_AS(ranStep(swimmer(), "slots", {{"others", "glide"}}, kite.get()), Error);
    // A name that the platform does not play is kept, and said.
    CHECK(ranStep(swimmer(), "slots", {{"filled", {{{"slot", "fly"}, {"clip", "hop"}}}}, {"others", "swim"}},
                  kite.get())
              .shortfall == "Kite Cup plays nothing called \"fly\"");
    // Renamed clips stay in their slots.
    CHECK(
        ranStep(ran.model, "rename-clips", {{"find", "swim"}, {"become", "glide"}}).model.clipSlots.size() ==
        6);
}

TEST_CASE("What is hidden stays, with its bone, and is neither counted nor written") {
    const Model model = swimmer();
    const auto ran = ranStep(model, "hide", {{"of", {"rider"}}});
    CHECK(ran.model.nodes.size() == model.nodes.size());
    CHECK_FALSE(ran.model.nodes[4].visible); // what hangs below
    CHECK(triangleCount(ran.model) == model.meshes[0]->triangleCount());
    CHECK(usedMaterials(ran.model) == std::vector<int>{0});
    TemporaryFolder folder;
    const Model back = formats::readModel(
        folder.write("fish.glb", formats::writeGlb(ran.model, {"fish"}, nullptr)[0].bytes));
    CHECK(back.nodes[4].name == "doll");
    CHECK(objectCount(back) == 1);
    CHECK_THROWS_AS(ranStep(model, "hide", {{"of", {"saddle"}}}), Error);
    CHECK(ranStep(model, "hide", json::object()).notes[0] == "nothing is named");
    // A bone that carries faces of a part that others carry too.
    CHECK(ranStep(model, "hide", {{"of", {"tail"}}}).shortfall.find("stay seen") != std::string::npos);
    CHECK(ruleResult(ran.model, "id = \"hidden-kept\"\nnames = \"rider\"").state == platform::State::Fits);
    CHECK(ruleResult(model, "id = \"hidden-kept\"\nnames = \"rider\"").state == platform::State::Broken);
    CHECK(ruleResult(model, "id = \"hidden-kept\"\nnames = \"saddle\"").state == platform::State::Broken);
}

TEST_CASE("The settings that a platform wants go on all materials at once") {
    const auto kite = sheet("kitecup");
    const Model model = ranStep(swimmer(), "platform-settings", json::object(), kite.get()).model;
    for (const Material& material : model.materials) {
        CHECK(material.settings.size() == 5);
        CHECK(std::get<std::string>(material.settings.at("shade")) == "soft");
        CHECK(std::get<double>(material.settings.at("cut")) == 0.5);
    }
    CHECK(platform::check(model, *kite).rule("material-settings")->state == platform::State::Fits);
    CHECK(platform::check(swimmer(), *kite).rule("material-settings")->state == platform::State::Broken);
}

TEST_CASE("The track reads what the kart is, to the step of its numbers") {
    const Model model = ready(swimmer());
    standins::TryReport report;
    const auto kart = loaded(fileOf(model), report);
    REQUIRE(kart);
    CHECK(report.accepted);
    CHECK(kart->name == "Fish");
    CHECK(kart->credit == "Mira Quill");
    CHECK(kart->clips.size() == 2);
    CHECK(kart->clips[std::size_t(kart->slots[2])].name == "hop");
    CHECK(kart->materials[0].settings == 5);
    CHECK(kart->pictures.size() == 1);
    REQUIRE(kart->parts.size() == 1);
    // Corners in a pose, against the model's own.
    for (const double at : {0.0, 0.11, 0.25, 0.4}) {
        const auto shape =
            standins::track::posed(*kart, kart->parts[0], kart->parts[0].runs[0], kart->slots[0], float(at));
        const auto pose = motion::posed(model, *model.clips[0], at);
        const Mesh& mesh = *model.meshes[0];
        double far = 0;
        for (std::size_t i = 0; i < mesh.indices.size(); ++i) {
            const std::uint32_t v = mesh.indices[i];
            glm::dvec4 p(0);
            for (int k = 0; k < 2; ++k)
                p += double(mesh.weights[v][k]) *
                     (pose.joints[0][mesh.joints[v][k]] * glm::dvec4(mesh.positions[v], 1));
            far = std::max(far,
                           glm::length(glm::dvec3(p) * 10.0 - glm::dvec3(shape.positions[shape.indices[i]])));
        }
        CHECK(far < 0.02); // of units of 10 cm: weights are kept in 1/255
    }
    for (const standins::world::Picture& picture : kart->pictures) {
        CHECK(picture.width == 64);
        CHECK(std::abs(int(picture.rgba[4 * (32 * 64 + 48)]) - 48 * 255 / 64) < 12);
    }
}

TEST_CASE("The track knows the way that was taken out of a clip") {
    Model model = ready(swimmer());
    Clip swim = *model.clips[0];
    swim.way = {0.25, 0, 1.5};
    model.clips[0] = std::make_shared<const Clip>(swim);
    model.placement = glm::scale(glm::dmat4(1), glm::dvec3(2)) * model.placement;
    standins::TryReport report;
    const auto kart = loaded(fileOf(model), report);
    REQUIRE(kart);
    CHECK(kart->clips[std::size_t(kart->slots[0])].way == glm::vec3(0.5f, 0, 3));
    CHECK(kart->clips[std::size_t(kart->slots[2])].way == glm::vec3(0)); // hop went nowhere
}

TEST_CASE("Blocks are unpacked as another reader of them does") {
    std::mt19937 random(4);
    Pixels pixels{16, 16, {}};
    for (int k = 0; k < 16 * 16 * 4; ++k) pixels.rgba.push_back(std::uint8_t(random() % 256));
    for (const bool alpha : {false, true}) {
        if (!alpha)
            for (std::size_t p = 3; p < pixels.rgba.size(); p += 4) pixels.rgba[p] = 255;
        std::string blocks;
        texture::putColourBlocks(blocks, pixels, alpha);
        const auto own = standins::world::unpacked(blocks, 16, 16, alpha ? 3 : 1);
        const std::string dds =
            alpha ? texture::writeDdsBc3(pixels, true) : texture::writeDdsBc1(pixels, false);
        const Pixels other = texture::decode(*texture::pictureFromBytes("x.dds", dds));
        int far = 0;
        for (std::size_t k = 0; k < own.rgba.size(); ++k)
            far = std::max(far, std::abs(int(own.rgba[k]) - int(other.rgba[k])));
        CHECK(far <= 1); // how a third is rounded is left to the card
    }
}

TEST_CASE("The chunks are the file, to the byte, and the rule says so before it is written") {
    const Model model = ready(swimmer());
    const auto chunks =
        formats::kartChunks(model, {.name = "Fish", .credit = "Mira Quill", .metresPerUnit = 0.1});
    CHECK(formats::kartFile(chunks).size() == formats::kartFileSize(chunks));
    CHECK(formats::kartFile(chunks) == fileOf(model));
    // Who only weighs it need not make pictures' blocks; odd sides and alpha count as they are.
    for (const int edge : {64, 37, 5, 4, 1}) {
        Model one = ready(swimmer(edge));
        for (const bool alpha : {false, true}) {
            if (alpha) {
                Pixels clear = *texture::pixelsOf(one.images[0]);
                clear.rgba[3] = 0;
                one.images[0] = texture::pictureFromPixels("clear.png", clear, true);
            }
            CHECK(formats::kartFileSize(formats::kartChunks(one, {.weighed = true})) ==
                  formats::kartFileSize(formats::kartChunks(one, {})));
        }
    }
    const auto report = platform::check(model, *sheet("kitecup"));
    // Name and credit are not known to the rule: so many bytes less.
    CHECK(std::abs(report.rule("kart-bytes")->finding.value * 1024 - double(fileOf(model).size())) < 20);
}

TEST_CASE(
    "A plan brings a kart to its bytes by several mends, mild ones first, and no more than are needed") {
    Model model = swimmer(1024, 30); // 1.4 MB as it comes
    const auto kite = sheet("kitecup");
    CHECK(platform::check(model, *kite).rule("kart-bytes")->state == platform::State::Broken);
    const auto plan = planner::plan(model, *kite);
    INFO([&] {
        std::string s;
        for (const auto& r : plan.reasons) s += r + "\n";
        return s;
    }());
    CHECK(plan.holds);
    // A tighter limit takes harder mends; what it takes is said before and after.
    platform::Sheet tight = *kite;
    for (auto& rule : tight.rules)
        if (rule.id == "kart-bytes") rule.limits["most-kib"] = 24;
    const auto tighter = planner::plan(model, tight);
    CHECK(tighter.holds);
    bool said = false;
    for (const auto& step : tighter.steps)
        said |= step.before.find("KiB") != std::string::npos && step.after.find("KiB") != std::string::npos;
    CHECK(said);
    CHECK(tighter.steps.size() >= plan.steps.size());
    for (auto& rule : tight.rules)
        if (rule.id == "kart-bytes") rule.limits["most-kib"] = 0.5;
    CHECK_FALSE(planner::plan(model, tight).holds);
}

TEST_CASE("A plan takes what loses least first, whatever it is, and says what that is") {
    const auto firstOf = [](const Model& model, double kib) {
        platform::Sheet tight = *sheet("kitecup");
        for (auto& rule : tight.rules)
            if (rule.id == "kart-bytes") rule.limits["most-kib"] = kib;
        for (const auto& step : planner::plan(model, tight).steps)
            if (step.before.find("KiB") != std::string::npos) return step;
        return planner::PlannedStep{};
    };
    // A picture with a pixel for each 16 mm beside a shape of few large faces; then one with a pixel for each
    // 33 mm beside a shape of so many that one more or less is millimetres.
    const auto fine = firstOf(swimmer(128, 12), 9), dense = firstOf(swimmer(64, 34), 36);
    CHECK(fine.entry.step == "picture-size");
    CHECK(fine.why.find("It loses what is smaller than") != std::string::npos);
    CHECK(dense.entry.step == "reduce-triangles");
}

TEST_CASE("What steps lose is told as a length") {
    // A square metre under a picture of 64 pixels: 1/64 m a pixel, 1/16 m when it has 16.
    Mesh board;
    board.positions = {{0, 0, 0}, {1, 0, 0}, {1, 0, 1}, {0, 0, 1}};
    board.uvSets = {{{0, 0}, {1, 0}, {1, 1}, {0, 1}}};
    board.indices = {0, 2, 1, 0, 3, 2};
    board.runs = {{0, 2, 0}};
    Model model = shapes::modelOf(board, "board");
    model.images = swimmer(64).images;
    model.materials = {{.name = "board"}};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    CHECK(uv::pixelLengths(model).at(0) == Approx(1.0 / 64));
    const auto lost = [&](const char* id, const json& params, const Model& of) {
        const recipe::Recipe recipe{{id, true, params}};
        return recipe::evaluate(of, 1, recipe, {}, nullptr, {}).outcomes[0].lost;
    };
    CHECK(lost("picture-size", {{"goal", "number"}, {"number", 16}}, model) == Approx(1.0 / 16));
    CHECK(lost("picture-size", {{"goal", "number"}, {"number", 64}}, model) == 0);
    // A ball of 0.6 m cannot lose half its triangles for less than 1 mm, nor for more than its own size; keys
    // go for what they were allowed to be off by.
    const double faces = lost("reduce-triangles", {{"goal", "share"}, {"share", 0.5}}, swimmer());
    CHECK(faces > 0.001);
    CHECK(faces < 0.6);
    CHECK(lost("clip-rate", {{"place", 0.5}, {"turn", 0.0}}, swimmer()) ==
          Approx(0.1).margin(1e-5)); // the bob
}

TEST_CASE("The track refuses what the game would: bytes, names, slots, pictures") {
    const Model model = ready(swimmer());
    const std::string bytes = fileOf(model);
    const auto refused = [](const std::string& file, const std::string& name = "kart.fish.kcb") {
        standins::TryReport report;
        CHECK_FALSE(loaded(file, report, name));
        CHECK_FALSE(report.accepted);
        std::string said;
        for (const auto& message : report.messages)
            if (message.kind == standins::Message::Kind::Refused)
                said += message.text + " " + message.detail + "\n";
        return said;
    };
    CHECK(refused(bytes, "Fish.kcb").find("kart.NAME.kcb") != std::string::npos);
    CHECK(refused(bytes, "kart.Fish Face.kcb").find("kart.NAME.kcb") != std::string::npos);
    Model empty = model;
    empty.clipSlots.pop_back();
    CHECK(refused(fileOf(empty)).find("\"lose\" is empty") != std::string::npos);
    CHECK(refused(fileOf(ready(swimmer(256)))).find("256 × 256") != std::string::npos);
    CHECK(refused(fileOf(ready(swimmer(48)))).find("powers of two") != std::string::npos);
    CHECK(refused(fileOf(ready(swimmer(64, 60)))).find("triangles") != std::string::npos);
    Model unseated = model;
    unseated.nodes[3].name = "saddle";
    CHECK(refused(fileOf(unseated)).find("rider") != std::string::npos);
}

TEST_CASE("A kart that is cut, or whose numbers lead astray, is refused and harms nobody") {
    const std::string bytes = fileOf(ready(swimmer(16, 8)));
    for (std::size_t cut = 0; cut < bytes.size(); cut += 1 + bytes.size() / 300) {
        standins::TryReport report;
        CHECK_FALSE(loaded(bytes.substr(0, cut), report));
        CHECK_FALSE(report.accepted);
    }
    std::mt19937 random(11);
    for (int round = 0; round < 400; ++round) {
        std::string changed = bytes;
        for (int k = 0; k < 1 + round % 4; ++k) changed[random() % changed.size()] = char(random());
        standins::TryReport report;
        if (const auto kart = loaded(changed, report))
            for (const auto& part : kart->parts)
                for (const auto& run : part.runs)
                    for (const int clip : kart->slots) standins::track::posed(*kart, part, run, clip, 0.2f);
    }
}

TEST_CASE("On the track each key plays its slot once, and driving goes round") {
    TemporaryFolder folder;
    folder.write("kart.fish.kcb", fileOf(ready(swimmer())));
    standins::TryReport report;
    const auto arena = standins::track::open(folder.path(), report);
    REQUIRE(arena);
    const auto plays = [&] { return arena->tables()[0].rows[2].values[0]; };
    CHECK(plays() == "drive");
    CHECK(arena->actions()[2].key == "3");
    arena->act("slot-hop");
    CHECK(plays() == "hop");
    for (int k = 0; k < 12; ++k) arena->advance(0.05);
    CHECK(plays() == "drive");
    const auto before = arena->drawn()[0].pose;
    arena->act("drives");
    arena->advance(0.5);
    CHECK(arena->drawn()[0].pose != before);
    CHECK_FALSE(arena->ride());
    arena->choose("seen", 1);
    REQUIRE(arena->ride());
    // The rider looks to where the kart drives.
    const glm::vec3 looks = glm::normalize(arena->ride()->to - arena->ride()->eye),
                    drives = glm::vec3(arena->drawn()[0].pose[2]);
    CHECK(glm::dot(looks, drives) > 0.9f);
    const std::size_t one = arena->drawn().size();
    arena->choose("karts", 1);
    CHECK(arena->drawn().size() > one);
    arena->act("alone");
    std::set<std::string> seen;
    for (int k = 0; k < 400; ++k) arena->advance(0.05), seen.insert(plays());
    CHECK(seen.size() == 6);
}

TEST_CASE("Shares of the bytes are the file together, and what halving a picture brings is what it brings") {
    Model model = ready(swimmer());
    const auto shares = formats::kartShares(model, {.metresPerUnit = 0.1});
    std::size_t all = 0, saving = 0;
    for (const auto& share : shares) {
        all += share.bytes;
        if (share.what == "scales.png") saving = share.saving;
    }
    const std::size_t before =
        formats::kartFileSize(formats::kartChunks(model, {.name = "", .metresPerUnit = 0.1}));
    CHECK(all == formats::kartFileSize(formats::kartChunks(model, {.metresPerUnit = 0.1})));
    model = ranStep(model, "picture-size", {{"goal", "share"}, {"share", 0.5}}).model;
    // The original stays in the model beside the smaller one, under the same name.
    const std::size_t after =
        formats::kartFileSize(formats::kartChunks(model, {.name = "", .metresPerUnit = 0.1}));
    CHECK(before - after == saving);
    CHECK(saving == 64 / 4 * (64 / 4) * 8);
    std::size_t second = 0;
    for (const auto& share : formats::kartShares(model, {.metresPerUnit = 0.1}))
        if (share.kind == formats::KartShare::Kind::Picture) second = share.saving;
    CHECK(second == 32 / 4 * (32 / 4) * 8);
}

TEST_CASE("Weights on a bone are those of the corners as they are drawn") {
    const Model model = swimmer();
    const auto tail = motion::weightsOn(model, 2), front = motion::weightsOn(model, 1);
    const Mesh flat = geometry::flattened(model);
    REQUIRE(tail.size() == flat.vertexCount());
    std::size_t both = 0;
    for (std::size_t v = 0; v < tail.size(); ++v) {
        const float back = glm::clamp(0.5f - flat.positions[v].z, 0.0f, 1.0f);
        const bool body = tail[v] + front[v] > 0.5f;
        if (!body) continue; // the doll hangs on no skin
        ++both;
        CHECK(tail[v] == Approx(back).margin(1e-5));
    }
    CHECK(both == model.meshes[0]->vertexCount());
    CHECK(motion::heaviestBone(model) >= 1);
    CHECK(motion::heaviestBone(Model{}) == -1);
}
