#include "measure.h"

#include "demo_data.h"

#include "core/solids/light_bake.h"
#include "core/texture/picture_cache.h"

#include <cmath>

using namespace zl;

namespace bench {

void lightRows() {
    const Model model = solids::modelOf(demo::pergola(), "pergola");
    const solids::Shown& shown = *solids::shownBy(model);
    std::size_t faces = 0;
    const double seconds = middleSeconds([&] {
        solids::LightStore none(0);
        faces = solids::bakeLight(model, shown, {}, none, {}).pictures.size();
    });
    fmt::print("| light of {} faces at 256 px | {:.1f} s | | | 150 faces in 20 s: {:.0f} s |\n", faces,
               seconds, 20.0 * double(faces) / 150);
    std::fflush(stdout);
    solids::LightStore store(1u << 30);
    solids::bakeLight(model, shown, {}, store, {});
    Model moved = model;
    solids::Scene scene = demo::pergola();
    scene.solids.rbegin()->second.at.y += 0.05; // the wreath
    moved = solids::modelOf(std::move(scene), "pergola");
    const Stopwatch watch;
    const std::size_t anew = solids::bakeLight(moved, *solids::shownBy(moved), {}, store, {}).anew;
    fmt::print("| the same after a wreath was moved, {} of them anew | {:.1f} s | | | |\n", anew,
               watch.seconds());
    std::fflush(stdout);

    // What the grain is, at a size at which a reference of 64 times the rays can be waited for.
    solids::BakeSettings settings;
    settings.pixels = 24;
    solids::LightStore none(0);
    const solids::Baked ours = solids::bakeLight(model, shown, settings, none, {});
    settings.samples *= 64, settings.rays *= 64, settings.seed = 2;
    const solids::Baked reference = solids::bakeLight(model, shown, settings, none, {});
    double squares = 0;
    std::size_t count = 0;
    for (std::size_t f = 0; f < ours.pictures.size(); ++f) {
        const auto a = texture::pixelsOf(ours.pictures[f]), b = texture::pixelsOf(reference.pictures[f]);
        for (std::size_t i = 0; i < a->rgba.size(); ++i) {
            if (i % 4 == 3) continue;
            const double off = double(a->rgba[i]) - double(b->rgba[i]);
            squares += off * off, ++count;
        }
    }
    fmt::print("| its grain against 64 times the rays | {:.2f} of 255 | | | 2 of 255 |\n",
               std::sqrt(squares / double(count)));
}

} // namespace bench
