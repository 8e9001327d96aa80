#include "core/project/put_on.h"

#include "core/steps/wear.h"

#include <algorithm>

namespace zl::project {

void putOn(Piece& figure, const std::string& item, const Worn& worn) {
    const bool hangs = !worn.bone.empty();
    const steps::StepInfo& info = hangs ? steps::Wear::info : steps::SetBeside::info;
    nlohmann::json row{{"item", {{"piece", item}}}};
    if (hangs) row["bone"] = worn.bone, row["place"] = worn.place;
    const auto addTo = [&](recipe::Entry& entry) {
        auto step = steps::makeStep(info.id, entry.params);
        nlohmann::json rows = step->params()["items"];
        const auto same = [&](const nlohmann::json& other) { return other["item"] == row["item"]; };
        if (std::ranges::any_of(rows, same)) return;
        rows.push_back(row);
        step->setParams({{"items", rows}});
        entry.params = step->params();
    };
    bool any = false;
    const auto addToAll = [&](recipe::Recipe& recipe) {
        for (recipe::Entry& entry : recipe)
            if (entry.step == info.id) addTo(entry), any = true;
    };
    addToAll(figure.recipe);
    for (Crossing& crossing : figure.crossings) addToAll(crossing.recipe);
    if (any) return;
    auto& recipe = figure.recipe;
    const auto at = std::ranges::find_if(
        recipe, [&](const recipe::Entry& entry) { return steps::infoOf(entry.step).stage > info.stage; });
    addTo(*recipe.insert(at, {std::string(info.id), true, steps::makeStep(info.id)->params()}));
}

} // namespace zl::project
