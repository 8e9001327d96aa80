#include "app/pages/step_offers.h"

#include "core/planner/planner.h"

namespace zl::app {

std::vector<StepOffer> stepOffers(steps::Stage stage, const CrossingState& state) {
    std::vector<std::pair<int, StepOffer>> offers; // 2 for a limit that must hold, 1 for one that should
    for (const auto& step : steps::allSteps()) {
        if (step->info().stage != stage) continue;
        auto& [wanted, offer] = offers.emplace_back(0, StepOffer{std::string(step->info().id), {}});
        if (state.kind != CrossingState::Kind::Ready) continue;
        for (const auto& rule : state.report.rules) {
            if (rule.state != platform::State::Broken ||
                std::ranges::find(rule.mends, offer.step) == rule.mends.end())
                continue;
            wanted = std::max(wanted, rule.severity == platform::Severity::Must ? 2 : 1);
            offer.mends.push_back(rule);
        }
        std::ranges::stable_sort(offer.mends, {}, &platform::RuleResult::severity);
    }
    std::ranges::stable_sort(offers, std::greater<>(), [](const auto& o) { return o.first; });
    std::vector<StepOffer> out;
    for (auto& [wanted, offer] : offers) out.push_back(std::move(offer));
    return out;
}

nlohmann::json paramsFor(const StepOffer& offer, const Model& model, const platform::Sheet& sheet) {
    for (const auto& rule : offer.mends)
        if (const auto proposed = planner::proposals(offer.step, rule, model, sheet); !proposed.empty())
            return proposed.front();
    return nlohmann::json::object();
}

} // namespace zl::app
