#pragma once
#include "core/base/progress.h"
#include "core/chain/chain.h"
#include "core/deliver/deliver.h"
#include "core/planner/planner.h"
#include "core/platform/check.h"
#include "core/project/source_cache.h"
#include "core/recipe/recipe.h"

#include <nlohmann/json_fwd.hpp>

#include <map>
#include <memory>
#include <vector>

namespace CLI {
class App;
}

namespace zl::cli {

enum ExitCode { Fine = 0, DoesNotFit = 1, BadInput = 2 };

/// `--key-env`, `--key-file` and `--trust`: on what terms archives are opened.
struct ArchiveOptions {
    std::string keyVariable, keyFile;
    bool trusts = false;

    void declare(CLI::App& app);
    /// From here on every archive is opened so. Throws Error where the key is not to be had.
    void give() const;
};

/// One command: declares its name, help and options, and does its work. Results go to standard output, as
/// text or as one JSON document; progress and errors go to standard error.
class Command {
public:
    virtual ~Command() = default;
    virtual std::string name() const = 0;
    virtual std::string help() const = 0;
    virtual void declare(CLI::App& app) = 0;
    virtual int execute(const Progress& progress) = 0;

    bool json = false;       ///< set by --json, which every command has
    ArchiveOptions archives; ///< of commands that read models, who declare it

protected:
    /// Prints one JSON document. Text that is not UTF-8 (old file names) is mended rather than refused.
    static void print(const nlohmann::ordered_json& document);
};

std::vector<std::unique_ptr<Command>> allCommands();

/// All words that a sheet may use here.
platform::Vocabulary sheetWords();

/// `--unit` and `--up` as people give them: replace what a file leaves open (or says).
struct FrameOptions {
    std::string unit;
    std::string up;

    void declare(CLI::App& app);
    Model applied(Model model) const;
};

/// `--front`, `--size`, `--made-of` and `--stretch`: what only a person can know, as steps of a plan.
struct AnswerOptions {
    std::string front;
    std::string size;
    std::string madeOf;
    bool stretch = false;

    void declare(CLI::App& app);
    /// Throws Error for an answer that is none, that is given although nothing was `asked`, or, with a sheet,
    /// that the platform does not know.
    recipe::Recipe steps(bool asked, const platform::Sheet* sheet = nullptr) const;
    /// A plan's question with how to answer it here.
    static std::string asking(const planner::Question& question);
};

/// The parameters of deliverables as options, one for each name that any of them has.
class DeliveryOptions {
public:
    void declare(CLI::App& app);
    /// `params` with what was given on top. Throws Error for what the sheet's deliverable has not.
    nlohmann::json over(nlohmann::json params, const platform::Sheet& sheet) const;

private:
    std::map<std::string, std::string> others() const;

    std::map<std::string, std::string> values_;
    CLI::App* app_ = nullptr;
};

nlohmann::ordered_json toJson(const platform::FitReport& report);
nlohmann::ordered_json toJson(const geometry::Bounds& bounds);
/// A chain's legs: format, file, and what each aspect was expected and measured to do.
nlohmann::ordered_json toJson(const chain::Result& result);
std::string describe(const chain::Result& result);
/// The report as lines of text.
std::string describe(const platform::FitReport& report);

/// A file or project given on the command line, as pieces to work on.
struct Input {
    std::string path;        ///< as it was given
    std::string sheetFolder; ///< whose sheets are read; empty: the project's own, the model's, or this one
    std::vector<std::shared_ptr<const platform::Sheet>> sheets;
    std::vector<std::string> sheetProblems;
    project::Project project;
    bool isProject = false;
    project::SourceCache cache;

    /// INPUT and `--project`.
    void declare(CLI::App& app);
    /// Opens the project, or wraps the model file as a project of one piece.
    void open();
    /// The pieces that `name` selects; all when it is empty. Throws Error listing those there are.
    std::vector<const project::Piece*> pieces(const std::string& name) const;
    /// The one that is meant; throws Error where there are several and none is named.
    const project::Piece& onePiece(const std::string& name) const;
    /// A piece as its recipe leaves it on a platform; `results` keeps what its steps made.
    recipe::Evaluation evaluated(const project::Piece& piece, const platform::Sheet& sheet,
                                 const FrameOptions& frame, recipe::EvaluationCache& results,
                                 const Progress& progress);
};

/// A key of the JSON output for people: "gapToFloor" as "gap to floor", "put-back" as "put back".
std::string inWords(std::string_view key);

} // namespace zl::cli
