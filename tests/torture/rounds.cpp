#include "rounds.h"

#include "answered.h"
#include "inventory.h"
#include "rough_file.h"
#include "rough_model.h"

#include "core/base/file_set.h"
#include "core/deliver/deliver.h"
#include "core/formats/format.h"
#include "core/model/model_bytes.h"
#include "core/motion/attached.h"
#include "core/motion/posed.h"
#include "core/planner/planner.h"
#include "core/platform/check.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"
#include "standins/stand_in.h"
#include "support/companions.h"

#include <fmt/format.h>

#include <algorithm>

namespace torture {

using namespace zl;

namespace {

/// Those that ship; one that takes levels of detail as files takes them as nodes, too.
const std::vector<std::shared_ptr<const platform::Sheet>>& sheets() {
    static const auto all = [] {
        auto out = platform::loadSheets();
        for (std::size_t i = 0, count = out.size(); i < count; ++i)
            if (!out[i]->levels.name.empty()) {
                platform::Sheet other = *out[i];
                other.levels.as = platform::SheetLevels::As::Nodes;
                out.push_back(std::make_shared<const platform::Sheet>(std::move(other)));
            }
        return out;
    }();
    return all;
}

struct Ran {
    Model model;
    std::vector<std::string> notes;
    std::optional<std::size_t> taken; ///< triangles that it said it would take away
};

/// A selection of every kind of term, on what the model has and on what it has not.
selection::Selection roughSelection(const Model& model, Dice& dice) {
    const auto paths = nodePaths(model);
    const auto stored = [&] {
        selection::StoredFaces faces{"gone", dice.below(1000), {}};
        if (model.nodes.empty() || dice.chance(0.1)) return faces;
        const std::size_t n = dice.below(model.nodes.size());
        faces.object = paths[n];
        if (model.nodes[n].mesh < 0) return faces;
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[n].mesh)];
        faces.topology = selection::topologyHash(mesh);
        for (int i = dice.between(1, 5); i-- > 0;)
            faces.faces.push_back(
                std::uint32_t(dice.below(mesh.triangleCount() + (dice.chance(0.05) ? 9 : 0))));
        std::ranges::sort(faces.faces);
        faces.faces.erase(std::ranges::unique(faces.faces).begin(), faces.faces.end());
        return faces;
    };
    selection::Selection out;
    for (int i = dice.between(0, 4); i-- > 0;) {
        selection::What what = selection::OfFaces{stored()};
        switch (dice.below(7)) {
        case 0:
            what = selection::OfParts{{dice.chance(0.5) ? "*" : roughName(dice)}, {}};
            break;
        case 1:
            what = selection::OfParts{{}, {paths.empty() ? "x" : dice.of(paths)}};
            break;
        case 2:
            what = selection::OfMaterials{{"*"}};
            break;
        case 3:
            what = selection::OfLooseParts{stored()};
            break;
        case 4:
            what = selection::OfRegion{stored(), dice.between(0.0, 3.0)};
            break;
        case 5:
            what = selection::InBox{{-1e9, dice.between(-2.0, 2.0), -1e9}, {1e9, 1e9, 1e9}};
            break;
        default:
            break;
        }
        out.terms.push_back({std::move(what), dice.chance(0.3)});
    }
    return out;
}

Ran run(const steps::Step& step, const Model& in, const platform::Sheet* sheet) {
    const Progress progress;
    TestSurroundings twin;
    twin.add("twin", moved(in, glm::dmat4(0, 0, -2, 0, 0, 2, 0, 0, 2, 0, 0, 0, 1, 2, 3, 1)), 1);
    twin.pictures["there.png"] = texture::pictureFromPixels("there.png", {1, 1, {9, 90, 200, 255}}, false);
    steps::StepContext context{progress, step.inputs().sheet ? sheet : nullptr, &twin};
    Ran out{step.apply(in, context), {}, {}};
    if (context.aside) out.model = step.close(*context.aside, out.model, context);
    if (const auto taken = step.takes(in, context)) out.taken = taken->count();
    out.notes = std::move(context.notes);
    return out;
}

} // namespace

namespace {

nlohmann::json legalValue(const steps::Field& field, const Model& model, Dice& dice);

nlohmann::json legalValues(std::span<const steps::Field> fields, const Model& model, Dice& dice) {
    nlohmann::json values = nlohmann::json::object();
    for (const steps::Field& field : fields)
        if (!dice.chance(0.3))
            values[std::string(field.name)] = legalValue(field, model, dice); // else its default
    return values;
}

/// The name of one of some things, or one that none of them has.
template <class Things, class NameOf>
std::string oneOf(const Things& things, Dice& dice, const NameOf& nameOf) {
    return things.empty() || dice.chance(0.15) ? roughName(dice) : nameOf(dice.of(things));
}

nlohmann::json legalValue(const steps::Field& field, const Model& model, Dice& dice) {
    const double low = std::max(field.least, -1e4), high = std::min(field.most, 1e4);
    double number = dice.chance(0.1) ? low : dice.chance(0.1) ? high : dice.between(low, high);
    if (dice.chance(0.3) && low <= 1 && high >= 1) number = 1;
    const std::string_view type = field.type().name();
    const auto nodeName = [&](int node) { return model.nodes[std::size_t(node)].name; };
    if (type == "choice") return dice.of(field.choices).id;
    if (type == "flag") return dice.chance(0.5);
    if (type == "point") return {dice.between(-5.0, 5.0), dice.between(-5.0, 5.0), dice.between(-5.0, 5.0)};
    if (type == "count") return std::llround(std::min(number, 2000.0));
    if (type == "text") return dice.chance(0.4) ? "*" : roughName(dice);
    if (type == "selection") return selection::toJson(roughSelection(model, dice));
    if (type == "model") return {{"piece", dice.chance(0.7) ? "twin" : ""}};
    if (type == "node") return oneOf(nodePaths(model), dice, std::identity{});
    if (type == "bone") return oneOf(motion::jointsOf(model), dice, nodeName);
    if (type == "clip") return oneOf(model.clips, dice, [](const auto& clip) { return clip->name; });
    if (type == "picture")
        return dice.chance(0.5) ? nlohmann::json{{"file", "there.png"}}
                                : nlohmann::json{{"picture", oneOf(model.images, dice, [](const auto& image) {
                                                      return image ? image->name : std::string();
                                                  })}};
    if (type == "parts") {
        auto names = nlohmann::json::array();
        for (int i = dice.between(0, 3); i-- > 0;) names.push_back(dice.chance(0.4) ? "*" : roughName(dice));
        return names;
    }
    if (type == "list") {
        auto rows = nlohmann::json::array();
        for (int i = dice.between(0, 3); i-- > 0;) rows.push_back(legalValues(field.rowFields, model, dice));
        return rows;
    }
    return number;
}

} // namespace

nlohmann::json legalParams(const steps::Step& step, const Model& model, Dice& dice) {
    return legalValues(step.fields(), model, dice);
}

void roundOfStep(const Model& model, const std::string& id, Dice& dice) {
    // Rays from every face of a million take minutes, with progress and cancel; that is no hang.
    if (id == "remove-hidden" && triangleCount(model) > 50'000) return;
    auto step = steps::makeStep(id);
    const auto params = legalParams(*step, model, dice);
    const auto sheet = dice.chance(0.8) ? dice.of(sheets()) : nullptr;
    const std::string what = fmt::format("{} {} on {}", id, params.dump(), sheet ? sheet->id : "no platform");
    if (!answered(what, [&] { step->setParams(params); })) return; // a name with a line break, say
    Model now = model;
    for (const char* time : {"first", "second"}) {
        Ran ran;
        const std::string here = fmt::format("{}, {} time", what, time);
        if (!answered(here, [&] { ran = run(*step, now, sheet.get()); })) return;
        demandPromises(ran.model, here);
        if (ran.taken && triangleCount(ran.model) + *ran.taken != triangleCount(now))
            throw Failure(fmt::format("{}: of {} triangles it takes {} and leaves {}", here,
                                      triangleCount(now), *ran.taken, triangleCount(ran.model)));
        // What is taken away goes with all that it wears.
        const auto lost = ran.taken ? std::set<std::string>()
                                    : lostInSilence(inventoryOf(now), inventoryOf(ran.model), ran.notes);
        if (!lost.empty())
            throw Failure(fmt::format("{}: drops {} without a word; it says \"{}\"", here,
                                      fmt::join(lost, ", "), fmt::join(ran.notes, "; ")));
        const Ran again = run(*step, now, sheet.get());
        if (toBytes(again.model) != toBytes(ran.model))
            throw Failure(here + ": gives another result each time");
        now = std::move(ran.model);
    }
}

void roundOfRules(const Model& model, Dice& dice) {
    const auto& sheet = *dice.of(sheets());
    const std::string what = "checking on " + sheet.id;
    platform::FitReport report;
    mustBeDone(what, "a check must always say something", [&] { report = platform::check(model, sheet); });
    for (const auto& rule : report.rules) {
        for (const int n : rule.finding.nodes)
            if (n < 0 || n >= int(model.nodes.size()))
                throw Failure(what + ": " + rule.id + " names no node");
        for (const int m : rule.finding.materials)
            if (m < -1 || m >= int(model.materials.size()))
                throw Failure(what + ": " + rule.id + " names no material");
        for (const auto& face : rule.finding.faces)
            if (face.node < 0 || face.node >= int(model.nodes.size()) || model.nodes[face.node].mesh < 0 ||
                face.triangle >= model.meshes[model.nodes[face.node].mesh]->triangleCount())
                throw Failure(what + ": " + rule.id + " names no face");
        if (rule.finding.measured.empty() || rule.finding.note.empty())
            throw Failure(what + ": " + rule.id + " has nothing to say");
        answered(what, [&] { (void)nlohmann::json(rule.finding.note + rule.finding.measured).dump(); });
    }
}

/// What fits is accepted by the platform's own reader.
void deliverAndTry(const Model& model, const platform::Sheet& sheet, const std::string& what, Dice& dice,
                   const std::filesystem::path& folder) {
    deliver::Labels labels{roughName(dice), "by nobody"};
    if (labels.name.empty()) labels.name = "x";
    const auto kind = deliver::deliverableFor(sheet);
    for (const auto& field : kind->fields())
        if (field.isOf(fields::choice))
            kind->setParams({{std::string(field.name), dice.of(field.choices).id}});
    std::vector<OutFile> files;
    const Progress progress;
    if (!answered(what, [&] { files = kind->make(model, sheet, labels, progress); })) return;
    mustBeDone(what, "names that cannot be written", [&] { writeAllOrNone(folder, files); });
    const auto* standIn = standins::standInNamed(sheet.standIn);
    if (!standIn) return;
    standins::TryReport report;
    if (!answered(what + ", trying", [&] { report = standIn->tryFolder(folder); }))
        throw Failure(what + ": the stand-in throws");
    if (!platform::check(model, sheet).fits() || report.accepted) return;
    std::string why;
    for (const auto& message : report.messages)
        if (message.kind == standins::Message::Kind::Refused)
            why += message.text + " (" + message.detail + "); ";
    throw Failure(what + ": fits, and is refused: " + why);
}

/// What a person may answer to a plan's questions.
recipe::Recipe roughAnswers(const platform::Sheet& sheet, Dice& dice) {
    recipe::Recipe out;
    const auto add = [&](const char* step, const nlohmann::json& params) {
        if (dice.chance(0.7)) out.push_back({step, true, steps::makeStep(step, params)->params()});
    };
    static const char* const fronts[] = {"+z", "+x", "-z", "-x"};
    add("heading", {{"front", dice.of(fronts)}});
    add("reshape", nlohmann::json::object());
    if (!sheet.touch.surfaces.empty()) add("surface-kind", {{"kind", dice.of(sheet.touch.surfaces).name}});
    return out;
}

void roundOfPlan(const Model& model, Dice& dice, const std::filesystem::path& folder) {
    if (triangleCount(model) > 20000) return;
    const platform::Sheet& sheet = *dice.of(sheets());
    const std::string what = "a plan for " + sheet.id;
    const auto answers = dice.chance(0.5) ? roughAnswers(sheet, dice) : recipe::Recipe();
    planner::Plan plan;
    mustBeDone(what, "a plan must always come",
               [&] { plan = planner::plan(model, sheet, nullptr, 0, {}, answers); });
    if (plan.holds != plan.after.fits()) throw Failure(what + ": promises what does not hold");
    recipe::Evaluation evaluated;
    mustBeDone(what, "its steps cannot be run",
               [&] { evaluated = recipe::evaluate(model, 1, plan.recipe(), &sheet, nullptr); });
    demandPromises(evaluated.model, what);
    if (platform::check(evaluated.model, sheet).fits() != plan.holds)
        throw Failure(what + ": run again it comes out otherwise");
    if (plan.holds && !sheet.deliverable.empty())
        deliverAndTry(evaluated.model, sheet, "delivering what was planned for " + sheet.id, dice, folder);
}

void roundOfWriter(const Model& model, Dice& dice, const std::filesystem::path& folder) {
    std::vector<const formats::Format*> writers;
    for (const auto& format : formats::allFormats())
        if (format.write) writers.push_back(&format);
    const formats::Format& format = *dice.of(writers);
    const std::string what = fmt::format("writing {}", format.id);
    std::vector<OutFile> files;
    formats::WriteOptions options{"thing", dice.chance(0.5) ? 1 : 0.001, dice.chance(0.5) ? Up::Y : Up::Z};
    options = formats::inFrameOf(format, options);
    std::vector<std::string> dropped;
    if (!answered(what, [&] { files = format.write(model, options, &dropped); })) return;
    mustBeDone(what, "names that cannot be written", [&] { writeAllOrNone(folder, files); });
    Model back;
    const bool read = answered("reading back " + std::string(format.id),
                               [&] { back = formats::readModel(folder / files[0].name); });
    if (!read) {
        if (triangleCount(model) > 0) {
            std::string why;
            try {
                formats::readModel(folder / files[0].name);
            } catch (const Error& error) {
                why = error.whole();
            }
            throw Failure(what + ": cannot be read back: " + why);
        }
        return;
    }
    demandPromises(back, what + ", read back");
    std::size_t bytes = 0;
    for (const OutFile& file : files) bytes += file.bytes.size();
    if (bytes < 4'000'000 && dice.chance(0.5)) roundOfContainer(files, back, dice, folder);
    const auto before = inventoryOf(model);
    auto after = inventoryOf(back);
    // What a file does not hold is told by `dropped`, by the format's table, or by nobody.
    std::vector<std::string> said = dropped;
    for (const auto aspect : formats::allAspects())
        if (format.loses.has(aspect) || format.changes.has(aspect))
            said.push_back(std::string(formats::aspectName(aspect)) + " " +
                           std::string(formats::aspectId(aspect)));
    for (const char* word : {"key", "triangle"}) // many keys become others; a reader drops what has no size
        after[word] = std::max(after[word], before.contains(word) ? before.at(word) : 0);
    for (const auto& [word, more] : {std::pair{"bone", "Bones"},
                                     {"morph", "Morphs"},
                                     {"clip", "Clips"},
                                     {"colour", "Colours"},
                                     {"material", "materials"},
                                     {"picture", "Picture"},
                                     {"normal", "Normals"},
                                     {"UV", "UVs"}})
        for (const std::string& text : dropped.empty() ? said : said)
            if (text.find(more) != std::string::npos) after[word] = ~std::size_t(0);
    after["collider"] = ~std::size_t(0), after["tangent"] = ~std::size_t(0), after["clip"] = ~std::size_t(0);
    after["picture"] = ~std::size_t(0); // roles that a format has no word for
    const auto lost = lostInSilence(before, after, said);
    if (!lost.empty())
        throw Failure(
            fmt::format("{}: {} did not come back, and nobody says so", what, fmt::join(lost, ", ")));
}

void roundOfDelivery(const Model& model, Dice& dice, const std::filesystem::path& folder) {
    std::vector<std::shared_ptr<const platform::Sheet>> able;
    for (const auto& sheet : sheets())
        if (!sheet->deliverable.empty()) able.push_back(sheet);
    const platform::Sheet& sheet = *dice.of(able);
    deliverAndTry(model, sheet, "delivering to " + sheet.id, dice, folder);
}

void roundOfRoughFile(Dice& dice, const std::filesystem::path& folder) {
    const RoughFile file = roughFile(dice);
    writeFile(folder / file.name, file.bytes);
    Model model;
    if (answered("reading " + file.name, [&] { model = formats::readModel(folder / file.name); }))
        demandPromises(model, "reading " + file.name);
}

void tortureRound(std::uint64_t seed, const std::filesystem::path& folder) {
    Dice dice(seed);
    const Model model = roughModel(dice);
    demandPromises(model, "the rough model itself");
    switch (dice.below(10)) {
    case 0:
        roundOfRules(model, dice);
        break;
    case 1:
        roundOfPlan(model, dice, folder);
        break;
    case 2:
        roundOfWriter(model, dice, folder);
        break;
    case 3:
        roundOfDelivery(model, dice, folder);
        break;
    case 4:
        roundOfRoughFile(dice, folder);
        break;
    case 5:
        roundOfPackage(model, dice, folder);
        break;
    case 6:
        roundOfSheet(model, dice, folder);
        break;
    default:
        roundOfStep(model, std::string(dice.of(steps::allSteps())->info().id), dice);
    }
    if (!model.clips.empty() && dice.chance(0.3)) {
        const auto& clip = *dice.of(model.clips);
        Mesh flat = geometry::flattened(model);
        const std::size_t corners = flat.vertexCount();
        if (!answered("a pose",
                      [&] {
                          motion::poseFlattened(model, motion::posed(model, clip, dice.between(-1.0, 5.0)),
                                                flat);
                      }) ||
            flat.vertexCount() != corners)
            throw Failure("a pose: it has other corners than at rest");
    }
    if (dice.chance(0.02)) {
        render::SnapshotOptions small;
        small.width = small.height = 24, small.samples = 1;
        answered("a thumbnail", [&] { render::snapshot(model, small); });
    }
}

} // namespace torture
