#pragma once
#include "core/base/hash.h"
#include "core/steps/step.h"

#include <functional>
#include <list>
#include <mutex>
#include <unordered_map>

namespace zl::recipe {

/// One line of a recipe.
struct Entry {
    std::string step;
    bool on = true;
    nlohmann::ordered_json params = nlohmann::ordered_json::object();

    bool operator==(const Entry&) const = default;
};
using Recipe = std::vector<Entry>;

/// Puts a step behind the last one of its stage or an earlier one, so that stages stay in order; where it is
/// then. Throws Error for one that there is not.
std::size_t insertInOrder(Recipe& recipe, Entry entry);

/// The last step of a kind that is on; -1 for none.
int lastOf(const Recipe& recipe, std::string_view step);

/// [{"step": …, "on": …, "params": {…}}, …]. Reading checks every step and parameter and throws Error saying
/// which line is wrong; missing parameters take their defaults.
nlohmann::ordered_json toJson(const Recipe& recipe);
Recipe fromJson(const nlohmann::json& json);

/// What became of one entry.
struct Outcome {
    std::string step;
    bool ran = false; ///< false: switched off, or taken from the cache
    bool fromCache = false;
    double seconds = 0; ///< of the run that made the result
    std::vector<std::string> notes;
    nlohmann::json facts = nlohmann::json::object();
    std::string shortfall; ///< the note that says what the step could not do; empty when it did all
    double lost = 0;       ///< metres: what is smaller than this may be gone or off for good
    std::string problem;   ///< empty, or why the step could not run; its input is passed on then
};

struct Evaluation {
    Model model;
    std::vector<Model> after; ///< the model behind each entry
    std::vector<Outcome> outcomes;
    Hash key = 0; ///< stands for `model`; evaluateFrom() can go on from it
};

/// Results of steps by what they were made from. May be shared by threads; keeps the most recently used ones,
/// as many as their meshes and pictures together stay below a number of bytes.
class EvaluationCache {
public:
    explicit EvaluationCache(std::size_t mostBytes = usualBytes()) : most_(mostBytes) {}

    struct Result {
        Model model;
        Outcome outcome;
        std::shared_ptr<const steps::Aside> aside; ///< of a step that has a bracket
        std::size_t bytes = 0;                     ///< of what the step made itself, on top of its input
    };
    std::shared_ptr<const Result> find(Hash key);
    void store(Hash key, std::shared_ptr<const Result> result);
    std::size_t bytes() const;

    /// A quarter of the machine's memory, at most 2 GB.
    static std::size_t usualBytes();

private:
    mutable std::mutex mutex_;
    std::size_t most_, bytes_ = 0;
    std::list<Hash> recent_; ///< most recent first
    std::unordered_map<Hash, std::pair<std::shared_ptr<const Result>, std::list<Hash>::iterator>> results_;
};

enum class OnProblem { Throw, PassOn };

/// What a recipe runs for and among.
struct Setting {
    const platform::Sheet* sheet = nullptr;      ///< null outside a crossing
    const steps::Surroundings* around = nullptr; ///< null where there is no project
    /// Gets what a step that takes long would look like, roughly at first; from any thread.
    std::function<void(const Model&)> meanwhile{};

    // One of them alone is a setting too.
    Setting(const platform::Sheet* forSheet = nullptr, const steps::Surroundings* among = nullptr)
        : sheet(forSheet), around(among) {}
};

/// Runs the entries one after another on `source`. A step with a bracket (Step::covers) ends it behind the
/// last entry that it covers, those that are off counted too, or behind the last of all. A step's result is
/// looked up by hash of (input, step, parameters, what else it reads) first, so changing a later entry never
/// reruns an earlier one.
Evaluation evaluate(const Model& source, Hash sourceHash, const Recipe& recipe, const Setting& setting,
                    EvaluationCache* cache, const Progress& progress = {},
                    OnProblem onProblem = OnProblem::Throw);

/// The same, going on behind an earlier evaluation for the same platform: `model` and `key` are its results,
/// so that steps added to that recipe later are found in the cache.
Evaluation evaluateFrom(const Model& model, Hash key, const Recipe& recipe, const Setting& setting,
                        EvaluationCache* cache, const Progress& progress = {},
                        OnProblem onProblem = OnProblem::Throw);

} // namespace zl::recipe
