#include "core/deliver/deliver.h"

#include "core/base/clock.h"
#include "core/formats/format.h"
#include "core/geometry/levels.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

namespace zl::deliver {

std::unique_ptr<Deliverable> deliverableFor(const platform::Sheet& sheet, const nlohmann::json& params) {
    for (const auto& deliverable : allDeliverables()) {
        if (deliverable->info().id != sheet.deliverable) continue;
        auto made = deliverable->clone();
        made->forSheet(sheet);
        made->setParams(params);
        return made;
    }
    throw Refused(fmt::format("{} can be checked but nothing can be delivered for it yet", sheet.name), {},
                  "Use `convert` to write a plain model file.");
}

std::string manual() {
    std::string out = "# Deliverables\n\nMade from their own tables by `zest-loom-cli platforms --manual`.\n";
    for (const auto& deliverable : allDeliverables()) {
        const auto& info = deliverable->info();
        out += fmt::format("\n## {}\n`{}`: {}\n", info.name, info.id, info.help);
        out += fields::manualTable(deliverable->fields(), deliverable->params());
    }
    return out;
}

platform::Vocabulary sheetWords(std::vector<std::string_view> standIns) {
    platform::Vocabulary words;
    words.standIns = std::move(standIns);
    for (const auto& step : steps::allSteps()) words.steps.push_back(step->info().id);
    for (const auto& deliverable : allDeliverables()) words.deliverables.push_back(deliverable->info().id);
    for (const auto& format : formats::allFormats())
        if (format.write) words.formats.push_back(format.id);
    for (const auto& format : texture::allPictureFormats())
        if (format.write) words.pictureFormats.push_back(format.id);
    for (const formats::Aspect aspect : formats::allAspects())
        words.aspects.push_back(formats::aspectId(aspect));
    return words;
}

Sizes madeSizes(const std::string& first, const std::vector<OtherSize>& others, const recipe::Recipe& recipe,
                const platform::Sheet& sheet, recipe::EvaluationCache* cache, const Progress& progress) {
    Sizes out{first, {}};
    for (std::size_t i = 0; i < others.size(); ++i) {
        const OtherSize& other = others[i];
        try {
            out.others.push_back(
                {other.size,
                 recipe::evaluate(other.source, other.hash, recipe, {&sheet, other.around.get()}, cache,
                                  progress.between(double(i) / double(others.size()),
                                                   double(i + 1) / double(others.size())))
                     .model});
        } catch (const Error& error) {
            throw Error(
                error.what(),
                fmt::format("the {} size{}{}", other.size, error.where().empty() ? "" : ", ", error.where()),
                error.mend());
        }
    }
    return out;
}

BuildResult build(const Model& source, Hash sourceHash, const recipe::Recipe& recipe,
                  const platform::Sheet& sheet, const std::filesystem::path& folder, const Labels& labels,
                  const nlohmann::json& params, recipe::EvaluationCache* cache, const Progress& progress,
                  const steps::Surroundings* around, const std::vector<OtherSize>& others) {
    const Stopwatch watch;
    const auto deliverable = deliverableFor(sheet, params);
    BuildResult result;
    auto evaluation =
        recipe::evaluate(source, sourceHash, recipe, {&sheet, around}, cache, progress.between(0, 0.6));
    result.steps = std::move(evaluation.outcomes);
    Labels all = labels;
    all.sizes = madeSizes(labels.sizes.first, others, recipe, sheet, cache, progress.between(0.6, 0.7));
    result.report = platform::check(evaluation.model, sheet, progress.between(0.7, 0.8), all.sizes);
    result.fits = result.report.fits();
    if (result.fits) {
        const Model& made = evaluation.model;
        const auto files =
            deliverable->make(deliverable->info().takesLevels ? made : geometry::withoutLevels(made), sheet,
                              all, progress.between(0.8, 0.95));
        progress.report(0.95, "writing");
        writeAllOrNone(folder, files);
        for (const OutFile& file : files)
            result.files.emplace_back((folder / file.name).string(), file.bytes.size());
    }
    result.seconds = watch.seconds();
    return result;
}

} // namespace zl::deliver
