#include "core/project/companions.h"

#include "core/files/source_file.h"
#include "core/project/dependencies.h"
#include "core/project/numbers.h"
#include "core/texture/picture_file.h"

#include <fmt/ranges.h>

#include <algorithm>
#include <set>

namespace fs = std::filesystem;

namespace zl::project {

using fields::ModelRef;
using steps::Companion;

struct Companions::Shared {
    const Project& project;
    const platform::Sheet& sheet;
    SourceCache& sources;
    recipe::EvaluationCache* cache;
    Progress progress;
    std::string size;
    std::map<std::pair<ModelRef::Kind, std::string>, Companion> known;
    std::vector<std::string> within; ///< pieces that are being worked out, outermost first
    std::vector<std::filesystem::path> files;

    LoadedPiece read(LoadedPiece loaded) {
        files.insert(files.end(), loaded.model.files.begin(), loaded.model.files.end());
        return loaded;
    }
};

Companions::Companions(const Project& project, const Piece& piece, const platform::Sheet& sheet,
                       SourceCache& sources, recipe::EvaluationCache* cache, const Progress& progress,
                       const std::string& size)
    : Companions(std::make_shared<Shared>(
                     Shared{project, sheet, sources, cache, progress, size, {}, {piece.name}, {}}),
                 piece) {}

Companions::Companions(std::shared_ptr<Shared> shared, const Piece& piece)
    : shared_(std::move(shared)), piece_(piece) {}

Companions::~Companions() = default;

std::vector<std::filesystem::path> Companions::filesWith(const Model& own) const {
    auto out = own.files;
    out.insert(out.end(), shared_->files.begin(), shared_->files.end());
    return out;
}

const selection::Selection* Companions::keptSelection(std::string_view name) const {
    const auto found = std::ranges::find(piece_.selections, name, &KeptSelection::name);
    return found == piece_.selections.end() ? nullptr : &found->selection;
}

const std::string& Companions::size() const {
    return shared_->size;
}

Hash Companions::pictureKey(const std::string& file) const {
    const files::Address address = files::addressOf(wholePath(shared_->project, file));
    return hashText(address.inside, hashText(shared_->sources.stamps().of(address.file)));
}

std::shared_ptr<const Image> Companions::picture(const std::string& file) const {
    const fs::path whole = wholePath(shared_->project, file);
    const files::SourceFile source(files::addressOf(whole), shared_->progress);
    return texture::pictureFromBytes(whole.filename().string(), std::string(source.bytes().text()));
}

steps::Provenance Companions::provenance() const {
    using Allows = steps::Provenance::Allows;
    steps::Provenance out{piece_.name, {}, {}, Allows::Own};
    for (const Source& source : piece_.sources) {
        if (!source.author.empty() && std::ranges::find(out.authors, source.author) == out.authors.end())
            out.authors.push_back(source.author);
        if (out.licence.empty()) out.licence = source.licence;
        const Allows allows = source.permission == Permission::OwnWork    ? Allows::Own
                              : source.permission == Permission::Allowed  ? Allows::Freely
                              : source.permission == Permission::AskFirst ? Allows::Asked
                                                                          : Allows::Nothing;
        out.allows = std::min(out.allows, allows);
    }
    return out;
}

std::map<int, std::string> Companions::numbersOfOthers() const {
    return project::numbersOfOthers(shared_->project, piece_, shared_->sheet);
}

Companion Companions::companion(const ModelRef& ref) const {
    const std::pair id(ref.kind, ref.name);
    if (const auto known = shared_->known.find(id); known != shared_->known.end()) return known->second;
    Companion found;
    try {
        found = workedOut(ref);
    } catch (const Error& error) {
        found.problem = error.where().empty() ? error.what() : error.where() + ": " + error.what();
        found.mend = error.mend();
        found.key = hashText(found.problem);
    }
    shared_->known[id] = found;
    return found;
}

Companion Companions::workedOut(const ModelRef& ref) const {
    const Project& project = shared_->project;
    const auto taken = [&](LoadedPiece loaded, const std::string& name) {
        loaded = shared_->read(std::move(loaded));
        return Companion{std::make_shared<const Model>(std::move(loaded.model)), loaded.hash, name, {}, {}};
    };
    switch (ref.kind) {
    case ModelRef::Kind::Piece:
        return ofPiece(ref.name);
    case ModelRef::Kind::Yardstick:
        for (const YardstickSource& yardstick : project.yardsticks)
            if (ref.name.empty() || yardstick.name == ref.name)
                return taken(shared_->sources.load(project, yardstick, shared_->progress.silent()),
                             yardstick.name);
        if (project.yardsticks.empty())
            throw Error("there is no yardstick", {}, "Bring one in: Gather, \"Add a yardstick\".");
        throw Error(fmt::format("there is no yardstick \"{}\"", ref.name), {},
                    fmt::format("Choose another, such as \"{}\".", project.yardsticks.front().name));
    case ModelRef::Kind::File: {
        const auto path = wholePath(project, ref.name);
        return taken(shared_->sources.load(path, shared_->progress.silent()), path.filename().string());
    }
    }
    return {};
}

Companion Companions::ofPiece(const std::string& name) const {
    const Piece* piece = shared_->project.piece(name);
    if (!piece)
        throw Error(fmt::format("there is no piece \"{}\"", name), {}, "Choose one that the project has.");
    auto& within = shared_->within;
    if (std::ranges::find(within, name) != within.end()) {
        auto circle = std::vector(std::ranges::find(within, name), within.end());
        circle.push_back(name);
        throw Error(fmt::format("pieces take one another in, in a circle: {}", fmt::join(circle, " → ")), {},
                    "Take one of these references out.");
    }
    within.push_back(name);
    struct Leave {
        std::vector<std::string>& names;
        ~Leave() { names.pop_back(); }
    } leave{within};
    const Companions theirs(shared_, *piece);
    const auto loaded = shared_->read(
        shared_->sources.load(shared_->project, *piece, shared_->size, shared_->progress.silent()));
    auto evaluation =
        recipe::evaluate(loaded.model, loaded.hash, recipeFor(*piece, shared_->sheet.id),
                         {&shared_->sheet, &theirs}, shared_->cache, shared_->progress.silent());
    return {std::make_shared<const Model>(std::move(evaluation.model)), evaluation.key, name, {}, {}};
}

NamedInputs namedInputs(const Project& project, const Piece& piece, std::string_view platform) {
    NamedInputs out;
    std::set<const Piece*> seen{&piece};
    std::vector<const Piece*> open{&piece};
    const auto addOnce = [](auto& list, const auto& value) {
        if (std::ranges::find(list, value) == list.end()) list.push_back(value);
    };
    while (!open.empty()) {
        const Piece* now = open.back();
        open.pop_back();
        for (const recipe::Entry& entry : recipeFor(*now, platform)) {
            if (!entry.on) continue;
            const steps::StepInputs inputs = steps::makeStep(entry.step, entry.params)->inputs();
            for (const std::string& file : inputs.pictures) addOnce(out.files, wholePath(project, file));
            for (const ModelRef& ref : inputs.models) {
                if (ref.kind == ModelRef::Kind::File) addOnce(out.files, wholePath(project, ref.name));
                if (ref.kind == ModelRef::Kind::Yardstick)
                    for (const YardstickSource& yardstick : project.yardsticks)
                        if (ref.name.empty() || yardstick.name == ref.name) {
                            addOnce(out.yardsticks, &yardstick);
                            break;
                        }
                const Piece* other = ref.kind == ModelRef::Kind::Piece ? project.piece(ref.name) : nullptr;
                if (!other || !seen.insert(other).second) continue;
                out.pieces.push_back(other);
                open.push_back(other);
            }
        }
    }
    return out;
}

namespace {

using Values = nlohmann::ordered_json;

/// Calls `change` with every value of a kind of field in all recipes of a piece.
template <class Change>
void changeIn(std::span<const fields::Field> fields, Values& values, fields::TypeOf type,
              const Change& change) {
    for (const fields::Field& field : fields) {
        const auto found = values.find(std::string(field.name));
        if (found == values.end()) continue;
        if (field.isOf(type)) change(*found);
        if (field.isOf(fields::list))
            for (auto& row : *found) changeIn(field.rowFields, row, type, change);
    }
}

template <class Change>
void changeEverywhere(Piece& piece, fields::TypeOf type, const Change& change) {
    const auto in = [&](recipe::Recipe& recipe) {
        for (recipe::Entry& entry : recipe)
            changeIn(steps::makeStep(entry.step)->fields(), entry.params, type, change);
    };
    in(piece.recipe);
    for (Crossing& crossing : piece.crossings) in(crossing.recipe);
}

void renameEverywhere(Project& project, std::string_view kind, const std::string& from,
                      const std::string& to) {
    for (Piece& piece : project.pieces)
        changeEverywhere(piece, fields::modelRef, [&](Values& value) {
            if (value == Values{{kind, from}}) value = {{kind, to}};
        });
}

void demandFree(const std::string& to, bool taken) {
    if (to.empty()) throw Error("a name cannot be empty", {}, "Give it one.");
    if (taken) throw Error(fmt::format("\"{}\" is taken", to), {}, "Choose another name.");
}

} // namespace

void movePaths(Project& project, const std::function<fs::path(const fs::path&)>& moved) {
    for (Piece& piece : project.pieces) movePaths(piece, moved);
    for (YardstickSource& yardstick : project.yardsticks) yardstick.path = moved(yardstick.path);
}

void movePaths(Piece& piece, const std::function<fs::path(const fs::path&)>& moved) {
    for (Source& source : piece.sources) source.path = moved(source.path);
    for (const fields::TypeOf type : {fields::modelRef, fields::pictureRef})
        changeEverywhere(piece, type, [&](Values& value) {
            if (value.is_object() && value.contains("file") && value["file"].is_string())
                value["file"] = moved(value["file"].get<std::string>()).generic_string();
        });
}

void renamePiece(Project& project, const std::string& from, const std::string& to) {
    Piece* piece = project.piece(from);
    if (!piece || from == to) return;
    demandFree(to, project.piece(to) != nullptr);
    piece->name = to;
    renameEverywhere(project, "piece", from, to);
}

void renameYardstick(Project& project, const std::string& from, const std::string& to) {
    const auto yardstick = std::ranges::find(project.yardsticks, from, &YardstickSource::name);
    if (yardstick == project.yardsticks.end() || from == to) return;
    demandFree(to,
               std::ranges::find(project.yardsticks, to, &YardstickSource::name) != project.yardsticks.end());
    yardstick->name = to;
    renameEverywhere(project, "yardstick", from, to);
}

} // namespace zl::project
