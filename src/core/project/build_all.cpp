#include "core/project/build_all.h"

#include "core/base/clock.h"
#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/base/stamp.h"
#include "core/project/companions.h"
#include "core/project/dependencies.h"
#include "core/project/other_sizes.h"

#include <fmt/format.h>

#include <algorithm>
#include <thread>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

using Outcome = BuiltCrossing::Outcome;

std::string nameOf(const std::string& platform, const std::string& piece) {
    // Two pieces may share a safe file name; the hash keeps their records and folders apart then.
    return fmt::format("{}-{}-{:08x}", platform, fileNameFrom(piece),
                       static_cast<std::uint32_t>(hashText(piece)));
}

/// What was made of a crossing when it was built last, as kept beside the delivered files. Everything counts
/// as changed where no record can be read.
struct Record {
    std::string key;
    std::map<std::string, std::string> inputs, outputs; ///< stamps by path

    static std::string keyText(Hash key) { return fmt::format("{:016x}", key); }

    static Record read(const fs::path& file) {
        Record record;
        std::error_code error;
        if (!fs::exists(file, error)) return record;
        try {
            const auto json = parsedJson(readText(file));
            json.at("key").get_to(record.key);
            json.at("inputs").get_to(record.inputs);
            json.at("outputs").get_to(record.outputs);
        } catch (const std::exception&) { // unreadable, or JSON of another form
            return {};
        }
        return record;
    }
    void write(const fs::path& file) const {
        const nlohmann::ordered_json json{{"key", key}, {"inputs", inputs}, {"outputs", outputs}};
        // A path need not be UTF-8; one that is not will not be found again, and counts as changed.
        writeFile(file, jsonText(json, 1) + "\n");
    }
    bool holds(const std::string& wanted) const {
        const auto same = [](const std::map<std::string, std::string>& list) {
            return std::ranges::all_of(
                list, [](const auto& entry) { return stampOf(entry.first) == entry.second; });
        };
        return !key.empty() && key == wanted && !inputs.empty() && !outputs.empty() && same(inputs) &&
               same(outputs);
    }
};

class Builder {
public:
    Builder(const Project& project, SourceCache& sources, const BuildAllOptions& options)
        : project_(project), sources_(sources), options_(options) {}

    BuiltCrossing build(const Piece& piece, const platform::Sheet& sheet, const Progress& progress) {
        const Stopwatch watch;
        BuiltCrossing result{piece.name, sheet.id, sheet.name};
        result.credit = creditOf(project_, piece, sheet.id);
        result.warnings = permissionWarnings(piece);
        try {
            buildInto(result, piece, sheet, progress);
        } catch (const Cancelled&) {
            throw;
        } catch (const std::exception& error) { // one crossing's fault must not end the others
            result.outcome = Outcome::Failed;
            result.words = wordsOf(error);
        }
        result.seconds = watch.seconds();
        return result;
    }

    /// A crossing whose folder belongs to another piece.
    static BuiltCrossing withoutFolder(const Piece& piece, const platform::Sheet& sheet, const Piece& owner) {
        BuiltCrossing result{piece.name, sheet.id, sheet.name};
        result.words =
            fmt::format("would be written to the folder of \"{}\"; give it another name", owner.name);
        return result;
    }

private:
    void buildInto(BuiltCrossing& result, const Piece& piece, const platform::Sheet& sheet,
                   const Progress& progress) {
        const fs::path recordFile = options_.out / ".zest-loom" / (nameOf(sheet.id, piece.name) + ".json");
        Stamps stamps = sources_.stamps();
        const std::string key = Record::keyText(dependenciesOf(project_, piece, sheet).deliveryKey(stamps));
        std::error_code error;
        if (const Record record = Record::read(recordFile); record.holds(key)) {
            result.outcome = Outcome::Unchanged;
            for (const auto& [file, stamp] : record.outputs)
                result.files.emplace_back(file, fs::file_size(file, error));
            return;
        }
        const auto loaded = sources_.load(project_, piece, progress);
        const Companions around(project_, piece, sheet, sources_, nullptr, progress);
        const auto others = otherSizes(project_, piece, sheet, sources_, nullptr, progress);
        const auto folder = folderOf(options_.out, sheet.id, piece.name);
        const auto built = deliver::build(loaded.model, loaded.hash, recipeFor(piece, sheet.id), sheet,
                                          folder, labelsFor(project_, piece, sheet.id),
                                          deliveryFor(piece, sheet.id), nullptr, progress, &around, others);
        if (!built.fits) {
            result.outcome = Outcome::DoesNotFit;
            for (const auto& rule : built.report.rules)
                if (rule.state == platform::State::Broken && rule.severity == platform::Severity::Must)
                    result.words += (result.words.empty() ? "" : "; ") + rule.finding.note;
            return;
        }
        result.outcome = Outcome::Built;
        result.files = built.files;
        Record record{key, {}, {}};
        for (const fs::path& file : around.filesWith(loaded.model))
            record.inputs[file.string()] = stamps.of(file);
        for (const fs::path& file : filesOf(others)) record.inputs[file.string()] = stamps.of(file);
        for (const auto& [file, bytes] : built.files) record.outputs[file] = stampOf(file);
        record.write(recordFile);
    }

    const Project& project_;
    SourceCache& sources_;
    const BuildAllOptions& options_;
};

bool isWanted(const std::vector<std::string>& list, const std::string& name) {
    return list.empty() || std::ranges::find(list, name) != list.end();
}

} // namespace

std::string_view outcomeId(Outcome outcome) {
    constexpr std::string_view ids[] = {"built", "unchanged", "does-not-fit", "failed"};
    return ids[static_cast<int>(outcome)];
}

fs::path folderOf(const fs::path& out, const std::string& platform, const std::string& piece) {
    return out / platform / fileNameFrom(piece);
}

std::vector<std::pair<const Piece*, const platform::Sheet*>>
deliverableCrossings(const Project& project,
                     const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                     const BuildAllOptions& options) {
    std::vector<std::pair<const Piece*, const platform::Sheet*>> out;
    for (const Piece& piece : project.pieces)
        for (const Crossing& crossing : piece.crossings)
            for (const auto& sheet : sheets)
                if (sheet->id == crossing.platform && !sheet->deliverable.empty() &&
                    isWanted(project.platforms, sheet->id) && isWanted(options.pieces, piece.name) &&
                    isWanted(options.platforms, sheet->id))
                    out.emplace_back(&piece, sheet.get());
    return out;
}

std::vector<BuiltCrossing> buildAll(const Project& project,
                                    const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                                    SourceCache& sources, const BuildAllOptions& options,
                                    const Progress& progress) {
    const auto crossings = deliverableCrossings(project, sheets, options);
    std::vector<BuiltCrossing> results(crossings.size());
    // Two pieces whose names differ only in what file names cannot show would write over each other: the
    // first has the folder.
    std::map<fs::path, const Piece*> owners;
    for (const auto& [piece, sheet] : crossings)
        owners.try_emplace(folderOf(options.out, sheet->id, piece->name), piece);
    std::atomic<std::size_t> next{0}, done{0};
    std::atomic<bool> stop{false};
    Builder builder(project, sources, options);
    const auto work = [&] {
        for (std::size_t i; !stop && (i = next++) < crossings.size();) {
            const auto& [piece, sheet] = crossings[i];
            const Piece* owner = owners.at(folderOf(options.out, sheet->id, piece->name));
            try {
                results[i] = owner == piece ? builder.build(*piece, *sheet, progress.silent())
                                            : builder.withoutFolder(*piece, *sheet, *owner);
                progress.report(double(++done) / double(crossings.size()),
                                piece->name + " on " + sheet->name);
            } catch (const Cancelled&) {
                stop = true;
            }
        }
    };
    // Threads of our own: inside one, the geometry's parallel loops may help one another, but must never pick
    // up another crossing that waits for the file they are reading.
    const std::size_t jobs =
        options.jobs > 0 ? std::size_t(options.jobs) : std::max(1u, std::thread::hardware_concurrency());
    {
        std::vector<std::jthread> threads;
        for (std::size_t i = 1; i < std::min(jobs, crossings.size()); ++i) threads.emplace_back(work);
        work();
    }
    if (stop) throw Cancelled();
    return results;
}

std::string dependencyRule(const fs::path& target, const std::vector<fs::path>& files) {
    const auto escaped = [](const fs::path& path) {
        std::string out;
        for (const char c : path.string()) {
            if (c == ' ' || c == '#' || c == '\\') out += '\\';
            if (c == '$') out += '$';
            out += c;
        }
        return out;
    };
    std::string out = escaped(target) + ":";
    std::error_code error;
    for (const fs::path& file : files) // a missing one would stop the runner
        if (fs::exists(file, error)) out += " \\\n  " + escaped(fs::absolute(file).lexically_normal());
    return out + "\n";
}

std::string ninjaFile(const Project& project,
                      const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                      const BuildAllOptions& options, const std::string& program) {
    // A line break would end the statement and begin one of the name's own making.
    const auto onOneLine = [](std::string text) {
        if (text.find_first_of("\r\n") != std::string::npos)
            throw Refused(fmt::format("has a line break in \"{}\"", text), "the build file",
                          "Take it out of the name or the path.");
        return text;
    };
    const auto path = [&](const fs::path& p) {
        std::string out;
        for (const char c : onOneLine(p.string())) {
            if (c == '$' || c == ' ' || c == ':') out += '$';
            out += c;
        }
        return out;
    };
    const auto shell = [&](const std::string& word) {
        std::string out = "'";
        for (const char c : onOneLine(word)) {
            if (c == '\'')
                out += "'\\''";
            else
                out += c == '$' ? "$$" : std::string(1, c);
        }
        return out + "'";
    };
    std::string out = "# One edge a crossing of " + onOneLine(project.name) +
                      ".\nninja_required_version = 1.3\n\nrule crossing\n"
                      "  command = $loom build $project --platform $platform --piece $piece --out $folder "
                      "--depfile $out.d && "
                      "touch $out\n"
                      "  depfile = $out.d\n"
                      "  description = $piece on $platform\n\n";
    out +=
        fmt::format("builddir = {}\n", path(options.out / ".zest-loom")); // the runner's own log goes there
    out += fmt::format("loom = {}\nproject = {}\n", shell(program), shell(project.file.string()));
    for (const auto& [piece, sheet] : deliverableCrossings(project, sheets, options)) {
        const fs::path folder = folderOf(options.out, sheet->id, piece->name);
        out += fmt::format("\nbuild {}: crossing {} {}",
                           path(options.out / ".zest-loom" / (nameOf(sheet->id, piece->name) + ".built")),
                           path(project.file), path(sheet->file));
        for (const fs::path& file : dependenciesOf(project, *piece, *sheet).files) out += " " + path(file);
        out += fmt::format("\n  platform = {}\n  piece = {}\n  folder = {}\n", shell(sheet->id),
                           shell(piece->name), shell(folder.string()));
    }
    return out;
}

} // namespace zl::project
