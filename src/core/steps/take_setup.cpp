#include "core/steps/take_setup.h"

#include "core/avatar/taken_setup.h"
#include "core/base/words.h"
#include "core/model/avatar.h"

namespace zl::steps {

Model TakeSetup::apply(const Model& in, StepContext& context) const {
    if (from.name.empty()) {
        context.note("no other piece is named");
        return in;
    }
    const Companion other = context.input(from);
    if (!other.model->avatar)
        throw Error("is not set up as an avatar", other.name,
                    "Choose one that is, or set this one up by Avatar set-up.");
    motion::BoneMap map = motion::mappedBones(*other.model, in);
    putByHand(map, pairs, *other.model, in);
    auto taken = avatar::takenSetup(*other.model, in, map);
    const Avatar& theirs = *other.model->avatar;
    context.facts = {{"bones", taken.bones},      {"expressions", taken.expressions},
                     {"springs", taken.springs},  {"materials", taken.materials},
                     {"guessed", taken.guessed},  {"missing", taken.missing},
                     {"leftOver", taken.leftOver}};
    context.note(fmt::format("{} of {} and {} of {} from {}", taken.bones,
                             showCount(long(theirs.bones.size()), "bone", "bones"), taken.expressions,
                             showCount(long(theirs.expressions.size()), "expression", "expressions"),
                             other.name));
    if (taken.springs > 0)
        context.note(showCount(long(taken.springs), "chain swings", "chains swing") + " as there");
    if (taken.materials > 0)
        context.note(
            fmt::format("settings of {}", showCount(long(taken.materials), "material", "materials")));
    if (!taken.guessed.empty()) context.note("look at these first: " + showNames(taken.guessed));
    if (!taken.leftOver.empty()) context.note("used by no expression of it: " + showNames(taken.leftOver));
    if (!taken.missing.empty()) context.fellShort("has nothing here for " + showNames(taken.missing));
    return std::move(taken.model);
}

} // namespace zl::steps
