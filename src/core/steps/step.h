#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"
#include "core/platform/sheet.h"
#include "core/fields/table.h"
#include "core/steps/surroundings.h"

#include <functional>
#include <memory>
#include <optional>

namespace zl::steps {

using fields::Choice;
using fields::describe;
using fields::Field;
using fields::field;
using fields::ModelRef;
using fields::PartNames;
using selection::Selection;

/// The stages of work, in the order in which people go through them.
enum class Stage { Gather, Place, Shape, Surface, Motion, Contact, Deliver };
std::string_view stageName(Stage stage);

struct StepInfo {
    std::string_view id;
    Stage stage;
    std::string_view name;
    std::string_view help;
    bool isLast = false; ///< runs behind the steps of all stages, whatever its own
};

/// What a step reads besides the model and its parameters. What it does not name it is not given, so a result
/// can be found again by these alone, also for another platform.
struct StepInputs {
    bool sheet = false;             ///< StepContext::sheet, be it for the unit of a note only
    std::vector<ModelRef> models{}; ///< StepContext::input; fields that name models are in by themselves
    std::vector<std::string> selections{}; ///< kept ones that a selection uses, by themselves too
    std::vector<std::string> pictures{};   ///< files for StepContext::picture, by themselves too
    bool provenance = false;               ///< Surroundings::provenance
    bool numbers = false;                  ///< Surroundings::numbersOfOthers
};

/// What a step keeps from those within its bracket (Step::covers): nodes of a model, those behind the first
/// `given` made by the step itself.
struct Aside {
    Model model;
    std::size_t given = 0;
    std::vector<int> nodes;
};

/// What a running step may use besides its input.
struct StepContext {
    const Progress& progress;
    const platform::Sheet* sheet = nullptr; ///< the target platform; null outside a crossing
    const Surroundings* around = nullptr;
    std::vector<std::string> notes{};                ///< one short line each: what was done
    nlohmann::json facts = nlohmann::json::object(); ///< measured numbers, for reports
    std::string shortfall{};                         ///< the last note that says what could not be done
    double lost = 0;                      ///< metres: what is smaller than this may be gone or off for good
    std::shared_ptr<const Aside> aside{}; ///< set by a step that has a bracket
    /// Where somebody looks on: gets what a long step has so far, as its result would be. May be empty.
    std::function<void(const Model&)> meanwhile{};

    void note(std::string text) { notes.push_back(std::move(text)); }
    /// Notes what the step could not do, and why not: a plan gives it as the reason where a limit stays
    /// broken.
    void fellShort(std::string text) { note(shortfall = std::move(text)); }
    /// Offers parameters that would change what was noted, in words for a button: `facts["offers"]`.
    void offer(std::string words, nlohmann::json params) {
        facts["offers"].push_back({{"words", std::move(words)}, {"params", std::move(params)}});
    }
    /// The model that `ref` names, which a field of the step or its inputs() must name; throws Error with the
    /// reason when it is not to be had.
    Companion input(const ModelRef& ref) const;
    /// A picture from the file that `ref` names; throws Error when it is not to be had.
    std::shared_ptr<const Image> picture(const fields::PictureRef& ref) const;
    /// The index of a picture in `model`: one of its own by name, or one from a file, which is added unless
    /// the model holds the same bytes already. Throws Error when there is none of the name or the file is not
    /// to be had.
    int imageIn(Model& model, const fields::PictureRef& ref) const;
    /// The triangles that `selection` chooses; throws as selection::chosen does.
    selection::Chosen chosen(const Model& model, const Selection& selection) const;
    /// The same where a selection of nothing means everything.
    selection::Chosen chosenOrAll(const Model& model, const Selection& selection) const;
    /// A length for a note: in the platform's unit where there is one, else in metres, or mm where that is
    /// little.
    std::string showLength(double metres) const {
        if (sheet) return sheet->showLength(metres);
        return metres > 0 && metres < 0.01 ? showMeasure(1000 * metres) + " mm" : showMeasure(metres) + " m";
    }
};

/// A step with its parameters, type-erased. Parameters outside are JSON as the fields' types have it; setting
/// checks kind and range and throws Error naming what was expected.
class Step {
public:
    virtual ~Step() = default;
    virtual const StepInfo& info() const = 0;
    /// With the present parameters.
    StepInputs inputs() const;
    virtual std::span<const Field> fields() const = 0;
    virtual std::unique_ptr<Step> clone() const = 0;
    /// Pure: the same model and parameters give the same result; never changes what others hold.
    virtual Model apply(const Model& in, StepContext& context) const = 0;
    /// The triangles of `in` that it would take away; null when it takes none away.
    virtual std::optional<selection::Chosen> takes(const Model& in, StepContext& context) const = 0;
    /// Whether it is to be looked at before it is turned on.
    virtual bool looksFirst() const = 0;
    /// How many of the next steps run within its bracket; 0 for one that has none.
    virtual int covers() const = 0;
    /// Ends the bracket: what apply() kept aside comes back into what the steps within made.
    virtual Model close(const Aside& aside, const Model& now, StepContext& context) const = 0;

    /// All parameters, in the order of the fields.
    nlohmann::ordered_json params() const { return fields::printed(fields(), data()); }
    /// Sets those that `values` names; refuses names that do not exist, and nothing is changed then.
    void setParams(const nlohmann::json& values) {
        fields::readInto(fields(), data(), values, std::string(info().id));
    }
    /// Whether a field has a meaning with the present choices.
    bool isShown(const Field& field) const { return fields::isShown(fields(), data(), field); }

protected:
    virtual StepInputs ownInputs() const = 0; ///< besides what its fields name
    virtual const void* data() const = 0;
    virtual void* data() = 0;
};

template <class T>
class StepOf final : public Step {
public:
    const StepInfo& info() const override { return T::info; }
    std::span<const Field> fields() const override { return T::fields; }
    std::unique_ptr<Step> clone() const override { return std::make_unique<StepOf>(*this); }
    Model apply(const Model& in, StepContext& context) const override { return step_.apply(in, context); }
    std::optional<selection::Chosen> takes(const Model& in, StepContext& context) const override {
        if constexpr (requires { step_.takes(in, context); })
            return step_.takes(in, context);
        else
            return std::nullopt;
    }
    bool looksFirst() const override {
        if constexpr (requires { T::looksFirst; })
            return T::looksFirst;
        else
            return false;
    }

    int covers() const override {
        if constexpr (requires { step_.covers(); })
            return step_.covers();
        else
            return 0;
    }
    Model close(const Aside& aside, const Model& now, StepContext& context) const override {
        if constexpr (requires { step_.close(aside, now, context); })
            return step_.close(aside, now, context);
        else
            return now;
    }

protected:
    StepInputs ownInputs() const override {
        if constexpr (requires { step_.inputs(); })
            return step_.inputs();
        else
            return {};
    }
    const void* data() const override { return &step_; }
    void* data() override { return &step_; }

private:
    T step_;
};

/// Every step there is, in stage order; see all_steps.cpp.
std::span<const std::unique_ptr<Step>> allSteps();
/// A new step with default parameters; throws Error listing the steps when there is no such id.
std::unique_ptr<Step> makeStep(std::string_view id);
/// The step with parameters set; throws for an unknown step or parameter.
std::unique_ptr<Step> makeStep(std::string_view id, const nlohmann::json& params);
/// What a step says of itself; throws as `makeStep` does.
const StepInfo& infoOf(std::string_view id);

} // namespace zl::steps
