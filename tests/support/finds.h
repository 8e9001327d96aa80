#pragma once
#include "core/model/promises.h"
#include "core/project/project.h"
#include "core/steps/step.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

/// A step run on a model; what comes out keeps its promises.
inline zl::Model ran(const zl::Model& model, const char* step,
                     const nlohmann::json& params = nlohmann::json::object(),
                     std::vector<std::string>* notes = nullptr, const zl::platform::Sheet* sheet = nullptr) {
    const zl::Progress progress;
    zl::steps::StepContext context{progress, sheet};
    zl::Model out = zl::steps::makeStep(step, params)->apply(model, context);
    if (notes) *notes = context.notes;
    CHECK(brokenPromise(out) == "");
    return out;
}

/// A project of pieces (name and file) that are all on one platform.
inline zl::project::Project projectOf(const TemporaryFolder& folder,
                                      const std::vector<std::pair<std::string, std::string>>& pieces) {
    zl::project::Project project;
    project.file = folder / "fair.zestloom";
    project.platforms = {"playmeadow"};
    for (const auto& [name, file] : pieces) {
        zl::project::Piece piece;
        piece.name = name;
        piece.sources = {{file, "", "", zl::project::Permission::OwnWork}};
        piece.crossings = {{"playmeadow", {}}};
        project.pieces.push_back(piece);
    }
    return project;
}
