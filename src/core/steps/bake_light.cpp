#include "core/steps/bake_light.h"

#include "core/base/words.h"
#include "core/solids/light_bake.h"
#include "core/texture/colour_transfer.h"

namespace zl::steps {

Model BakeLight::apply(const Model& in, StepContext& context) const {
    const std::string where(info.id);
    const solids::Shown* shown = solids::shownBy(in);
    if (!shown)
        throw Error("the model is no scene of solids here", where,
                    in.solids ? "Bake before the step that changes its shape."
                              : "Bring a scene of solids in.");
    if (shown->lit) throw Error("its light is in its pictures already", where, "Bake it once.");
    solids::BakeSettings settings;
    settings.pixels = pixels;
    settings.perMetre = sized == Sized::ByArea ? perMetre : 0;
    settings.bounces = bounces;
    for (int k = 0; k < 3; ++k)
        settings.sky[k] = texture::lightOf(skyColour.rgb[std::size_t(k)]) * float(sky);
    settings.samples = 64 * fineness, settings.rays = 256 * fineness;
    settings.seed = std::uint64_t(seed);
    solids::LightStore& store = solids::LightStore::shared();
    if (context.meanwhile && solids::facesToBake(in, *shown, settings, store) > 0)
        for (const int part : {8, 2}) { // in a fraction of the time, then half as fine
            solids::BakeSettings rough = settings;
            rough.pixels = std::max(8, pixels / part);
            rough.samples = std::max(16, settings.samples / part);
            rough.rays = std::max(32, settings.rays / part);
            const Progress beginning =
                part == 8 ? context.progress.between(0, 0.05) : context.progress.between(0.05, 0.2);
            context.meanwhile(
                solids::litModel(in, *shown, solids::bakeLight(in, *shown, rough, store, beginning)));
        }
    const solids::Baked baked = solids::bakeLight(
        in, *shown, settings, store, context.meanwhile ? context.progress.between(0.2, 1) : context.progress);
    const auto faces =
        std::ranges::count_if(baked.pictures, [](const auto& picture) { return bool(picture); });
    context.note(
        fmt::format("{} lit{} in {}\u202fs", showCount(long(faces), "face", "faces"),
                    baked.anew < std::size_t(faces) ? fmt::format(", {} of them anew,", baked.anew) : "",
                    showMeasure(baked.seconds)));
    if (shown->scene.lights.empty() && sky <= 0) context.fellShort("no light is in the scene: all is dark");
    context.facts = {{"faces", faces}, {"anew", baked.anew}, {"pixels", pixels}, {"seconds", baked.seconds}};
    return solids::litModel(in, *shown, baked);
}

} // namespace zl::steps
