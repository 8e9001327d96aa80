#pragma once
#include "core/chain/facts.h"
#include "core/formats/format.h"
#include "core/platform/sheet.h"

namespace zl::chain {

/// One leg as it is run or shown.
struct LegPlan {
    platform::Leg leg;
    const formats::Format* format = nullptr;
    formats::WriteOptions options;
};

struct LegResult {
    std::string format;
    std::string file;  ///< path of the main file
    Verdicts keeps;    ///< as expected from the format and the sheet
    Verdicts measured; ///< as read back, with what was put back
    std::vector<std::string> dropped;
};

struct Result {
    std::vector<LegResult> legs;
    Model model; ///< as it stands behind the last leg
};

/// The legs of `chain` as plans for a platform (null outside one), files named `name`. Throws Error naming
/// the formats there are for one that is unknown or cannot be written, and for an aspect that does not exist.
std::vector<LegPlan> planned(const std::vector<platform::Leg>& chain, const platform::Sheet* sheet,
                             const std::string& name);
/// "dae,obj" as legs.
std::vector<platform::Leg> legsFrom(const std::string& list);

/// What a leg is expected to do to a model with these facts, before anything is written.
Verdicts expected(const LegPlan& leg, const Facts& before);

/// Writes the model through every leg into `folder`/1-glb, 2-dae …, reading each file back as the next leg's
/// input, with what can be put back put back. All files of a leg are written, or none.
Result run(const Model& model, const std::vector<LegPlan>& legs, const std::filesystem::path& folder,
           const Progress& progress = {});

} // namespace zl::chain
