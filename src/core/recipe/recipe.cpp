#include "core/recipe/recipe.h"

#include "core/base/clock.h"
#include "core/base/json_text.h"
#include "core/model/promises.h"

#include <algorithm>
#include <cassert>
#include <set>
#include <unistd.h>

namespace zl::recipe {

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

std::shared_ptr<const EvaluationCache::Result> run(const steps::Step& step, const Model& in,
                                                   const Setting& setting, const Progress& progress,
                                                   OnProblem onProblem) {
    auto result = std::make_shared<EvaluationCache::Result>();
    result->outcome.step = step.info().id;
    const Stopwatch watch;
    try {
        steps::StepContext context{progress, step.inputs().sheet ? setting.sheet : nullptr, setting.around};
        progress.report(0, step.info().name);
        result->model = step.apply(in, context);
        assert(brokenPromise(result->model).empty());
        result->outcome.notes = std::move(context.notes);
        result->outcome.shortfall = std::move(context.shortfall);
        result->outcome.facts = std::move(context.facts);
        result->bytes = bytesMade(result->model, in);
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

Evaluation evaluateFrom(const Model& model, Hash key, const Recipe& recipe, const Setting& setting,
                        EvaluationCache* cache, const Progress& progress, OnProblem onProblem) {
    Evaluation evaluation;
    evaluation.model = model;
    for (std::size_t i = 0; i < recipe.size(); ++i) {
        const Entry& entry = recipe[i];
        if (!entry.on) {
            evaluation.outcomes.push_back({entry.step});
        } else {
            const auto step = steps::makeStep(entry.step, entry.params);
            key = keyBehind(key, entry, step->inputs(), setting);
            auto result = cache ? cache->find(key) : nullptr;
            const bool cached = result != nullptr;
            if (!cached) {
                result = run(*step, evaluation.model, setting,
                             progress.between(double(i) / recipe.size(), double(i + 1) / recipe.size()),
                             onProblem);
                if (cache && result->outcome.problem.empty()) cache->store(key, result);
            }
            evaluation.model = result->model;
            evaluation.outcomes.push_back(result->outcome);
            evaluation.outcomes.back().fromCache = cached;
            evaluation.outcomes.back().ran = !cached;
        }
        evaluation.after.push_back(evaluation.model);
    }
    evaluation.key = key;
    progress.report(1);
    return evaluation;
}

} // namespace zl::recipe
