#include "core/recipe/recipe.h"

#include "core/base/clock.h"
#include "core/base/json_text.h"
#include "core/model/promises.h"

#include <algorithm>
#include <cassert>
#include <set>
#include <unistd.h>

namespace zl::recipe {

std::size_t insertInOrder(Recipe& recipe, Entry entry) {
    const steps::StepInfo& added = steps::infoOf(entry.step);
    const auto runsBehind = [&](const steps::StepInfo& step) {
        return step.isLast != added.isLast ? step.isLast : step.stage > added.stage;
    };
    std::size_t at = recipe.size();
    while (at > 0 && runsBehind(steps::infoOf(recipe[at - 1].step))) --at;
    recipe.insert(recipe.begin() + std::ptrdiff_t(at), std::move(entry));
    return at;
}

int lastOf(const Recipe& recipe, std::string_view step) {
    for (int i = int(recipe.size()) - 1; i >= 0; --i)
        if (recipe[std::size_t(i)].on && recipe[std::size_t(i)].step == step) return i;
    return -1;
}

nlohmann::ordered_json toJson(const Recipe& recipe) {
    auto out = nlohmann::ordered_json::array();
    for (const Entry& entry : recipe)
        out.push_back({{"step", entry.step}, {"on", entry.on}, {"params", entry.params}});
    return out;
}

Recipe fromJson(const nlohmann::json& json) {
    if (!json.is_array()) throw Error("a recipe is not a list", "recipe", "Expected [{\"step\": …}, …].");
    Recipe recipe;
    for (const auto& line : json) {
        const std::string where = fmt::format("recipe, line {}", recipe.size() + 1);
        if (!line.is_object() || !line.contains("step") || !line["step"].is_string())
            throw Error("has no step", where, "Expected {\"step\": \"name\", \"params\": {…}}.");
        try {
            Entry entry;
            entry.step = line["step"].get<std::string>();
            auto step = steps::makeStep(entry.step);
            if (line.contains("params")) step->setParams(line["params"]);
            if (line.contains("on")) {
                if (!line["on"].is_boolean()) throw Error("\"on\" is neither true nor false");
                entry.on = line["on"].get<bool>();
            }
            entry.params = step->params();
            recipe.push_back(std::move(entry));
        } catch (const Error& error) {
            throw Error(error.what(), where + (error.where().empty() ? "" : ", " + error.where()),
                        error.mend());
        }
    }
    return recipe;
}

std::shared_ptr<const EvaluationCache::Result> EvaluationCache::find(Hash key) {
    const std::scoped_lock lock(mutex_);
    const auto found = results_.find(key);
    if (found == results_.end()) return nullptr;
    recent_.splice(recent_.begin(), recent_, found->second.second);
    return found->second.first;
}

void EvaluationCache::store(Hash key, std::shared_ptr<const Result> result) {
    const std::scoped_lock lock(mutex_);
    if (results_.contains(key)) return;
    recent_.push_front(key);
    bytes_ += result->bytes;
    results_[key] = {std::move(result), recent_.begin()};
    while (bytes_ > most_ && recent_.size() > 1) { // the newest stays, however large
        const auto oldest = results_.find(recent_.back());
        bytes_ -= oldest->second.first->bytes;
        results_.erase(oldest);
        recent_.pop_back();
    }
}

std::size_t EvaluationCache::bytes() const {
    const std::scoped_lock lock(mutex_);
    return bytes_;
}

std::size_t EvaluationCache::usualBytes() {
    const auto pages = static_cast<std::size_t>(std::max(1L, ::sysconf(_SC_PHYS_PAGES)));
    const auto page = static_cast<std::size_t>(std::max(1L, ::sysconf(_SC_PAGESIZE)));
    return std::min(std::size_t(2) << 30, pages * page / 4);
}

namespace {

/// Bytes of the meshes and pictures of `made` that `from` does not hold too, and of its nodes.
std::size_t bytesMade(const Model& made, const Model& from) {
    std::set<const void*> held;
    for (const auto& mesh : from.meshes) held.insert(mesh.get());
    for (const auto& image : from.images) held.insert(image.get());
    std::size_t bytes = made.nodes.size() * sizeof(Node);
    for (const auto& mesh : made.meshes)
        if (held.insert(mesh.get()).second) bytes += bytesOf(*mesh);
    for (const auto& image : made.images)
        if (held.insert(image.get()).second)
            bytes += image->encoded.size() + (image->pixels ? image->pixels->rgba.size() : 0);
    return bytes;
}

/// What `work` makes of `in` with a context for the step, or `in` with the reason why it could not.
template <class Work>
std::shared_ptr<const EvaluationCache::Result> run(const steps::Step& step, const Model& in,
                                                   const Setting& setting, const Progress& progress,
                                                   OnProblem onProblem, const Work& work) {
    auto result = std::make_shared<EvaluationCache::Result>();
    result->outcome.step = step.info().id;
    const Stopwatch watch;
    try {
        steps::StepContext context{progress, step.inputs().sheet ? setting.sheet : nullptr, setting.around};
        context.meanwhile = setting.meanwhile;
        progress.report(0, step.info().name);
        result->model = work(context);
        assert(brokenPromise(result->model).empty());
        result->outcome.notes = std::move(context.notes);
        result->outcome.shortfall = std::move(context.shortfall);
        result->outcome.facts = std::move(context.facts);
        result->outcome.lost = context.lost;
        result->aside = std::move(context.aside);
        result->bytes = bytesMade(result->model, in);
        if (result->aside) result->bytes += bytesMade(result->aside->model, in);
    } catch (const Error& error) {
        if (onProblem == OnProblem::Throw) throw;
        result->model = in;
        result->outcome.problem = error.whole();
    }
    result->outcome.ran = true;
    result->outcome.seconds = watch.seconds();
    return result;
}

/// Adds what a kept selection says, and those that it uses in turn: each once, for they may use one another
/// many times over, and in a circle, which is refused when the step runs.
void addKept(Hash& key, const std::string& name, const steps::Surroundings& around,
             std::set<std::string>& added) {
    if (!added.insert(name).second) return;
    const auto* kept = around.keptSelection(name);
    key = hashText(kept ? jsonText(selection::toJson(*kept)) : "", hashText(name, key));
    if (!kept) return;
    for (const std::string& used : selection::namesIn(*kept)) addKept(key, used, around, added);
}

/// What stands for a step's result: its input, itself, and what else it reads.
Hash keyBehind(Hash key, const Entry& entry, const steps::StepInputs& inputs, const Setting& setting) {
    key = hashText(jsonText(entry.params), hashText(entry.step, key));
    const auto add = [&](Hash own) { key = hashBytes(&own, sizeof own, key); };
    if (inputs.sheet) add(setting.sheet ? platform::hashOf(*setting.sheet) : 1);
    if (!setting.around) return key;
    if (inputs.provenance) {
        const auto known = setting.around->provenance();
        key = hashText(known.licence, hashText(known.name, key));
        add(Hash(known.allows));
        for (const std::string& author : known.authors) key = hashText(author, key);
    }
    if (inputs.numbers)
        for (const auto& [number, whose] : setting.around->numbersOfOthers())
            key = hashText(whose, key), add(Hash(number));
    for (const fields::ModelRef& ref : inputs.models) add(setting.around->companion(ref).key);
    for (const std::string& file : inputs.pictures) add(setting.around->pictureKey(file));
    std::set<std::string> added;
    for (const std::string& name : inputs.selections) addKept(key, name, *setting.around, added);
    return key;
}

} // namespace

Evaluation evaluate(const Model& source, Hash sourceHash, const Recipe& recipe, const Setting& setting,
                    EvaluationCache* cache, const Progress& progress, OnProblem onProblem) {
    return evaluateFrom(source, hashBytes(&sourceHash, sizeof sourceHash), recipe, setting, cache, progress,
                        onProblem);
}

namespace {

/// Runs entries one after another, each from the cache where it can.
class Run {
public:
    Run(const Model& model, Hash key, const Setting& setting, EvaluationCache* cache, OnProblem onProblem)
        : setting_(setting), cache_(cache), onProblem_(onProblem) {
        evaluation_.model = model;
        evaluation_.key = key;
    }

    void step(const Entry& entry, const Progress& progress) {
        const std::size_t at = evaluation_.outcomes.size();
        if (!entry.on) {
            evaluation_.outcomes.push_back({entry.step});
        } else {
            std::shared_ptr<const steps::Step> step = steps::makeStep(entry.step, entry.params);
            evaluation_.key = keyBehind(evaluation_.key, entry, step->inputs(), setting_);
            const auto result = found(*step, progress, [&](steps::StepContext& context) {
                return step->apply(evaluation_.model, context);
            });
            evaluation_.outcomes.push_back(result.outcome);
            if (result.aside)
                open_.push_back({step, result.aside, at, at + std::size_t(step->covers()), evaluation_.key});
        }
        while (!open_.empty() && open_.back().last <= at) close(progress.silent());
        evaluation_.after.push_back(evaluation_.model);
    }

    Evaluation end(const Progress& progress) {
        while (!open_.empty()) close(progress.silent());
        if (!evaluation_.after.empty()) evaluation_.after.back() = evaluation_.model;
        return std::move(evaluation_);
    }

private:
    struct Bracket {
        std::shared_ptr<const steps::Step> step;
        std::shared_ptr<const steps::Aside> aside;
        std::size_t at, last; ///< entries: its own, and the last within
        Hash key;             ///< behind the step itself
    };

    struct Told {
        Outcome outcome;
        std::shared_ptr<const steps::Aside> aside;
    };
    /// Goes on to the result that belongs to the present key, from the cache or made by `work`.
    template <class Work>
    Told found(const steps::Step& step, const Progress& progress, const Work& work) {
        auto result = cache_ ? cache_->find(evaluation_.key) : nullptr;
        const bool cached = result != nullptr;
        if (!cached) {
            result = run(step, evaluation_.model, setting_, progress, onProblem_, work);
            if (cache_ && result->outcome.problem.empty()) cache_->store(evaluation_.key, result);
        }
        evaluation_.model = result->model;
        Told told{result->outcome, result->aside};
        told.outcome.fromCache = cached;
        told.outcome.ran = !cached;
        return told;
    }

    /// Ends the innermost bracket; what it says is said by the step that opened it.
    void close(const Progress& progress) {
        const Bracket bracket = std::move(open_.back());
        open_.pop_back();
        evaluation_.key = hashBytes(&bracket.key, sizeof bracket.key, hashText("closed", evaluation_.key));
        const Outcome closed = found(*bracket.step, progress, [&](steps::StepContext& context) {
                                   return bracket.step->close(*bracket.aside, evaluation_.model, context);
                               }).outcome;
        Outcome& outcome = evaluation_.outcomes[bracket.at];
        outcome.notes.insert(outcome.notes.end(), closed.notes.begin(), closed.notes.end());
        if (!closed.shortfall.empty()) outcome.shortfall = closed.shortfall;
        if (!closed.problem.empty()) outcome.problem = closed.problem;
    }

    const Setting& setting_;
    EvaluationCache* cache_;
    OnProblem onProblem_;
    Evaluation evaluation_;
    std::vector<Bracket> open_; ///< innermost last
};

} // namespace

Evaluation evaluateFrom(const Model& model, Hash key, const Recipe& recipe, const Setting& setting,
                        EvaluationCache* cache, const Progress& progress, OnProblem onProblem) {
    Run run(model, key, setting, cache, onProblem);
    for (std::size_t i = 0; i < recipe.size(); ++i)
        run.step(recipe[i],
                 progress.between(double(i) / double(recipe.size()), double(i + 1) / double(recipe.size())));
    Evaluation evaluation = run.end(progress);
    progress.report(1);
    return evaluation;
}

} // namespace zl::recipe
