#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Says what faces are made of, as the platform's physics, sounds and dust have it. Bodies that are there
/// already take after the faces. `facts` has faces by kind, unset, and offers of what materials' names say.
struct SurfaceKind {
    enum class By { Faces, Materials };
    struct OfMaterial {
        std::string material;
        std::string kind;

        static std::vector<std::string> known(const platform::Sheet& sheet);
        static constexpr auto fields =
            describe(field<&OfMaterial::material>("material", "Material"),
                     field<&OfMaterial::kind>("kind", "Is of").offeredBySheet(known));
    };

    By by = By::Faces;
    Selection faces;
    std::string kind;
    std::vector<OfMaterial> materials;

    static constexpr StepInfo info{"surface-kind", Stage::Contact, "Surface kind",
                                   "Say what faces are made of: how it sounds, holds and throws dust."};
    static constexpr Choice ways[] = {{"faces", "one kind for faces"}, {"materials", "by material"}};
    static constexpr auto fields =
        describe(field<&SurfaceKind::by>("by", "Said")
                     .oneOf(ways)
                     .help("For faces that are chosen, or by what they wear."),
                 field<&SurfaceKind::faces>("faces", "Of")
                     .leastIs("everything")
                     .when("by", "faces")
                     .help("The faces that are of it; where nothing is chosen, all."),
                 field<&SurfaceKind::kind>("kind", "Is of")
                     .offeredBySheet(OfMaterial::known)
                     .when("by", "faces")
                     .help("One of the kinds that the platform knows."),
                 field<&SurfaceKind::materials>("materials", "Materials")
                     .when("by", "materials")
                     .help("Names of materials, * for any letters; the first that suits counts."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
