#include "core/recipe/recipe.h"

#include "core/base/clock.h"

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
    results_[key] = {std::move(result), recent_.begin()};
    while (results_.size() > most_) {
        results_.erase(recent_.back());
        recent_.pop_back();
    }
}

namespace {

/// Steps may ask the sheet for its limits, so a changed sheet must not find old results.
Hash sheetHash(const platform::Sheet* sheet) {
    if (!sheet) return 1;
    Hash hash = hashText(sheet->id + sheet->unitName);
    hash = hashBytes(&sheet->metresPerUnit, sizeof sheet->metresPerUnit, hash);
    for (const auto& rule : sheet->rules) {
        hash = hashText(rule.id, hash);
        for (const auto& [name, value] : rule.limits)
            hash = hashBytes(&value, sizeof value, hashText(name, hash));
        for (const auto& [name, text] : rule.texts) hash = hashText(text, hashText(name, hash));
    }
    return hash;
}

std::shared_ptr<const EvaluationCache::Result> run(const Entry& entry, const Model& in,
                                                   const platform::Sheet* sheet, const Progress& progress,
                                                   OnProblem onProblem) {
    auto result = std::make_shared<EvaluationCache::Result>();
    result->outcome.step = entry.step;
    const Stopwatch watch;
    try {
        const auto step = steps::makeStep(entry.step);
        step->setParams(entry.params);
        steps::StepContext context{progress, sheet};
        progress.report(0, step->info().name);
        result->model = step->apply(in, context);
        result->outcome.notes = std::move(context.notes);
        result->outcome.facts = std::move(context.facts);
    } catch (const Error& error) {
        if (onProblem == OnProblem::Throw) throw;
        result->model = in;
        result->outcome.problem = error.whole();
    }
    result->outcome.ran = true;
    result->outcome.seconds = watch.seconds();
    return result;
}

} // namespace

Evaluation evaluate(const Model& source, Hash sourceHash, const Recipe& recipe, const platform::Sheet* sheet,
                    EvaluationCache* cache, const Progress& progress, OnProblem onProblem) {
    return evaluateFrom(source, hashBytes(&sourceHash, sizeof sourceHash, sheetHash(sheet)), recipe, sheet,
                        cache, progress, onProblem);
}

Evaluation evaluateFrom(const Model& model, Hash key, const Recipe& recipe, const platform::Sheet* sheet,
                        EvaluationCache* cache, const Progress& progress, OnProblem onProblem) {
    Evaluation evaluation;
    evaluation.model = model;
    for (std::size_t i = 0; i < recipe.size(); ++i) {
        const Entry& entry = recipe[i];
        if (!entry.on) {
            evaluation.outcomes.push_back({entry.step});
        } else {
            key = hashText(entry.params.dump(), hashText(entry.step, key));
            if (model.yardsticks && steps::infoOf(entry.step).usesYardsticks)
                for (const Yardstick& yardstick : *model.yardsticks)
                    key = hashBytes(&yardstick.hash, sizeof yardstick.hash, key);
            auto result = cache ? cache->find(key) : nullptr;
            const bool cached = result != nullptr;
            if (!cached) {
                result =
                    run(entry, evaluation.model, sheet,
                        progress.part(double(i) / recipe.size(), double(i + 1) / recipe.size()), onProblem);
                if (cache && result->outcome.problem.empty()) cache->store(key, result);
            }
            evaluation.model = result->model;
            evaluation.model.yardsticks = model.yardsticks; // a result from the cache may hold older ones
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
