#pragma once
#include "core/steps/step.h"

/// What a step made of a model, and said.
struct RanStep {
    zl::Model model;
    std::vector<std::string> notes;
    std::string shortfall;
    nlohmann::json facts;
};

inline RanStep ranStep(const zl::Model& model, const char* id, const nlohmann::json& params,
                       const zl::platform::Sheet* sheet = nullptr,
                       const zl::steps::Surroundings* around = nullptr) {
    const zl::Progress progress;
    zl::steps::StepContext context{progress, sheet};
    context.around = around;
    zl::Model out = zl::steps::makeStep(id, params)->apply(model, context);
    return {std::move(out), context.notes, context.shortfall, context.facts};
}
