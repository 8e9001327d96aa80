#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Says in an avatar whose it is and what may be done with it.
struct AvatarLicence {
    enum class Wearer { Project, Author, Asked, Everyone };
    enum class Gain { None, Own, Firm };
    enum class Change { No, Yes, Passed };
    std::string authors, address;
    Wearer wearer = Wearer::Project;
    Gain gain = Gain::None;
    bool credit = true, passOn = false;
    Change change = Change::No;

    static constexpr StepInfo info{"avatar-licence", Stage::Motion, "Avatar licence",
                                   "Say in the avatar itself whose it is, and what others may do with it."};
    static constexpr Choice wearers[] = {{"project", "as its maker allows, from the project"},
                                         {"author", "its author alone"},
                                         {"asked", "whoever was given leave"},
                                         {"everyone", "everyone"}};
    static constexpr Choice gains[] = {
        {"none", "without gain"}, {"own", "persons, also for gain"}, {"firm", "firms too"}};
    static constexpr Choice changes[] = {
        {"no", "no"}, {"yes", "yes, for oneself"}, {"passed", "yes, and passed on"}};
    static constexpr auto fields = describe(
        field<&AvatarLicence::authors>("authors", "Made by")
            .leastIs("who is named at Gather")
            .help("Several with commas between."),
        field<&AvatarLicence::address>("address", "Licence's address")
            .leastIs("the standard's own licence")
            .help("Where its whole text is to be read."),
        field<&AvatarLicence::wearer>("wearer", "Who may wear it")
            .oneOf(wearers)
            .help("Own work is for its author alone until you say otherwise."),
        field<&AvatarLicence::gain>("gain", "Used by").oneOf(gains).help("Whether anybody may earn by it."),
        field<&AvatarLicence::change>("change", "May be changed")
            .oneOf(changes)
            .help("By others than its maker."),
        field<&AvatarLicence::credit>("credit", "Its maker is to be named").help("Wherever it is worn."),
        field<&AvatarLicence::passOn>("pass-on", "May be passed on").help("As a file, to others."));

    StepInputs inputs() const { return {.provenance = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
