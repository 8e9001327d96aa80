#include "core/steps/step.h"
#include "core/base/words.h"

namespace zl::steps {

namespace {

const Step& listed(std::string_view id) {
    for (const auto& step : allSteps())
        if (step->info().id == id) return *step;
    throw Error(fmt::format("there is no step \"{}\"", id), {},
                "Use one of " + inARow(allSteps(), [](const auto& step) { return step->info().id; }) + ".");
}

} // namespace

std::string_view stageName(Stage stage) {
    constexpr std::string_view names[] = {"Gather", "Place",   "Shape",  "Surface",
                                          "Motion", "Contact", "Deliver"};
    return names[static_cast<int>(stage)];
}

namespace {

/// Adds what a field's value names; rows of a list are looked through too.
void gather(const Field& field, const nlohmann::json& held, StepInputs& inputs) {
    if (field.isOf(fields::modelRef)) {
        ModelRef ref;
        fields::detail::hold(ref, held);
        if (ref.kind == ModelRef::Kind::Yardstick || !ref.name.empty()) inputs.models.push_back(ref);
    } else if (field.isOf(fields::pictureRef)) {
        fields::PictureRef ref;
        fields::detail::hold(ref, held);
        if (ref.kind == fields::PictureRef::Kind::File && !ref.name.empty())
            inputs.pictures.push_back(ref.name);
    } else if (field.isOf(fields::selection)) {
        for (auto& name : selection::namesIn(selection::fromJson(held)))
            inputs.selections.push_back(std::move(name));
    } else if (field.isOf(fields::list)) {
        for (const auto& row : held)
            for (const Field& f : field.rowFields) gather(f, row.at(std::string(f.name)), inputs);
    }
}

} // namespace

StepInputs Step::inputs() const {
    StepInputs inputs = ownInputs();
    for (const Field& field : fields())
        if (isShown(field)) gather(field, field.get(data()), inputs);
    return inputs;
}

Companion StepContext::input(const ModelRef& ref) const {
    if (ref.name.empty() && ref.kind != ModelRef::Kind::Yardstick)
        throw Error("no other model is named", {}, "Choose a piece, a yardstick or a file.");
    Companion found;
    if (around) found = around->companion(ref);
    if (!found.model)
        throw Error(found.problem.empty() ? fmt::format("\"{}\" is not to be had here", ref.name)
                                          : found.problem,
                    {}, found.mend.empty() ? "Run this in a project." : found.mend);
    return found;
}

std::shared_ptr<const Image> StepContext::picture(const fields::PictureRef& ref) const {
    if (!around)
        throw Error(fmt::format("\"{}\" is not to be had here", ref.name), {}, "Run this in a project.");
    return around->picture(ref.name);
}

int StepContext::imageIn(Model& model, const fields::PictureRef& ref) const {
    const bool own = ref.kind == fields::PictureRef::Kind::Picture;
    const auto wanted = own ? nullptr : picture(ref);
    for (std::size_t i = 0; i < model.images.size(); ++i) {
        const auto& image = model.images[i];
        if (own ? image->name == ref.name : image->name == wanted->name && image->encoded == wanted->encoded)
            return int(i);
    }
    if (own)
        throw Error(fmt::format("the model has no picture \"{}\"", ref.name), {},
                    "Choose another, or a file.");
    model.images.push_back(wanted);
    return int(model.images.size()) - 1;
}

selection::Chosen StepContext::chosen(const Model& model, const Selection& selection) const {
    return selection::chosen(
        model, selection,
        [&](std::string_view name) { return around ? around->keptSelection(name) : nullptr; }, progress);
}

selection::Chosen StepContext::chosenOrAll(const Model& model, const Selection& selection) const {
    return chosen(model, selection.empty() ? selection::everything() : selection);
}

std::unique_ptr<Step> makeStep(std::string_view id) {
    return listed(id).clone();
}

std::unique_ptr<Step> makeStep(std::string_view id, const nlohmann::json& params) {
    auto step = makeStep(id);
    step->setParams(params);
    return step;
}

const StepInfo& infoOf(std::string_view id) {
    return listed(id).info();
}

} // namespace zl::steps
