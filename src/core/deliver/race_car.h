#pragma once
#include "core/deliver/deliver.h"
#include "core/deliver/showcase.h"

namespace zl::deliver {

/// A car in a folder of its own: NAME.glb with its nodes as they are, the pictures in `skins`, the settings
/// of its materials in NAME.materials.toml, preview.png, and NAME.car.json that says what belongs together
/// (docs/formats/race-car.md). The showcase pose reaches the preview alone.
struct RaceCar : Showcase {
    static constexpr DeliverableInfo info{
        "race-car", "Car in its folder", "GLB, a folder of pictures, the materials' settings and a preview."};
    static constexpr auto fields =
        describe(field<&RaceCar::steering>("steering", "Steered")
                     .below("Showcase pose, for the preview alone")
                     .degrees()
                     .between(-60, 60)
                     .help("The wheels in front turned to the left; to the right below 0."),
                 field<&RaceCar::camber>("camber", "Camber")
                     .degrees()
                     .between(-30, 30)
                     .help("The wheels' tops leaning outward; inward below 0."),
                 field<&RaceCar::rideHeight>("ride-height", "Body higher")
                     .metres()
                     .between(-2, 2)
                     .help("How much higher the body stands over its wheels; lower below 0."),
                 field<&RaceCar::offset>("wheel-offset", "Wheels out")
                     .metres()
                     .between(-1, 1)
                     .help("How much further out each wheel stands; further in below 0."),
                 field<&RaceCar::cameraTurn>("camera-turn", "Seen from")
                     .degrees()
                     .between(-180, 180)
                     .help("From straight ahead, round to the car's left."),
                 field<&RaceCar::cameraAbove>("camera-above", "Seen from above")
                     .degrees()
                     .between(0, 80)
                     .help("0 is level with the ground."),
                 field<&RaceCar::closeness>("closeness", "Closer")
                     .between(0.5, 3)
                     .help("2 takes it from half as far."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
