#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Puts the light of a scene of solids into a picture for each of its faces: solids::bakeLight() says how.
/// Works out anew only what a change touches. `facts` has faces, anew, pixels and seconds. Throws Error for a
/// model that is no scene of solids, or has its light in its pictures already.
struct BakeLight {
    enum class Sized { Alike, ByArea };

    Sized sized = Sized::Alike;
    int pixels = 256;
    double perMetre = 128;
    int bounces = 2;
    double sky = 0.3;
    fields::Colour skyColour;
    int fineness = 2;
    int seed = 1;

    static constexpr StepInfo info{"bake-light", Stage::Surface, "Bake light",
                                   "Light and shadow of a scene of solids, in a picture for each face."};
    static constexpr Choice sizings[] = {{"alike", "all alike"}, {"by-area", "by their area"}};
    static constexpr auto fields = describe(
        field<&BakeLight::sized>("sized", "Pictures").oneOf(sizings).help("How large each face's is."),
        field<&BakeLight::pixels>("pixels", "Pixels a side")
            .between(8, 1024)
            .help("By area, no picture has more."),
        field<&BakeLight::perMetre>("per-metre", "Pixels a metre")
            .between(1, 10000)
            .when("sized", "by-area")
            .help("To the next power of two."),
        field<&BakeLight::bounces>("bounces", "Thrown back")
            .between(0, 4)
            .help("How often light goes from face to face."),
        field<&BakeLight::sky>("sky", "Sky")
            .between(0, 10)
            .help("Light from all around above the horizon; 1 alone makes an open floor as bright as it can "
                  "be."),
        field<&BakeLight::skyColour>("sky-colour", "Sky's colour").help("The colour of that light."),
        field<&BakeLight::fineness>("fineness", "Fineness")
            .between(1, 8)
            .help("Rays for soft shadows and for light thrown back; twice as fine takes twice as long."),
        field<&BakeLight::seed>("seed", "Another grain")
            .between(1, 1000000)
            .help("Where the rays go. The same number gives the same pictures."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
