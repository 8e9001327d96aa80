#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Makes a figure an avatar: which bone does what, faces of morph targets, and where its eyes look from.
struct AvatarSetup {
    struct RoleRow {
        std::string role;
        fields::BoneRef bone;

        static std::vector<std::string> roles(const platform::Sheet& sheet);
        static constexpr auto fields =
            describe(field<&RoleRow::role>("role", "Role")
                         .offeredBySheet(&RoleRow::roles)
                         .help("What the bone does, by the standard's name."),
                     field<&RoleRow::bone>("bone", "Bone").leastIs("none").help("The one that does it."));
    };
    struct FaceRow {
        std::string expression, morph;
        double weight = 1;

        static std::vector<std::string> expressions(const platform::Sheet& sheet);
        static constexpr auto fields =
            describe(field<&FaceRow::expression>("expression", "Expression")
                         .offeredBySheet(&FaceRow::expressions)
                         .help("One of the standard's, or a name of your own."),
                     field<&FaceRow::morph>("morph", "Morph target").leastIs("none").help("By its name."),
                     field<&FaceRow::weight>("weight", "How much")
                         .share()
                         .between(0, 1)
                         .help("Of the target, in the whole expression."));
    };
    enum class Eyes { Between, Place };
    enum class Look { Usual, Bones, Expressions };

    std::vector<RoleRow> bones;
    bool guess = true;
    std::vector<FaceRow> faces;
    Look look = Look::Usual;
    Eyes eyes = Eyes::Between;
    glm::dvec3 place{0, 0.06, 0.08};

    static constexpr StepInfo info{
        "avatar-setup", Stage::Motion, "Avatar set-up",
        "Say which bone does what, which faces it makes, and how its eyes follow."};
    static constexpr Choice looks[] = {{"usual", "as it is set up, or by its eye bones"},
                                       {"bones", "by its eye bones"},
                                       {"expressions", "by expressions"}};
    static constexpr Choice eyePlaces[] = {{"between", "between its eyes"}, {"place", "at a place"}};
    static constexpr auto fields =
        describe(field<&AvatarSetup::bones>("bones", "Bones").help("Those that names do not tell rightly."),
                 field<&AvatarSetup::guess>("guess", "Required bones by shape where names do not tell")
                     .help("They are listed, to be looked at."),
                 field<&AvatarSetup::faces>("faces", "Expressions")
                     .help("Where a morph target's name does not say which it is."),
                 field<&AvatarSetup::look>("look", "Its eyes follow")
                     .oneOf(looks)
                     .help("What moves when it looks at somebody."),
                 field<&AvatarSetup::eyes>("eyes", "It looks from")
                     .oneOf(eyePlaces)
                     .help("Drag the point on its face to put it elsewhere."),
                 field<&AvatarSetup::place>("place", "From its head bone")
                     .when("eyes", "place")
                     .help("Metres to its left, up and to the front."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
