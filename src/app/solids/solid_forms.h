#pragma once
#include "core/fields/table.h"
#include "core/solids/scene_fields.h"

namespace zl::app {

// What the side card edits of a scene of solids, as tables of fields. Across, up and ahead are the scene's
// own X, Y and Z, whatever a platform calls them.

/// How a solid is shaped and where it stands.
struct SolidForm {
    std::string name;
    solids::Kind kind = solids::Kind::Box;
    double across = 1, up = 1, along = 1;
    double atAcross = 0, atUp = 0, atAhead = 0;
    double turnAcross = 0, turnUp = 0, turnAhead = 0;
    double hollow = 0;
    solids::Outline outline = solids::Outline::Same;
    double thick = 0.5, gap = 0, gapFrom = 0, twist = 0;
    double footAcross = 1, footAlong = 1, headAcross = 1, headAlong = 1, leanAcross = 0, leanAlong = 0;
    solids::Physics physics = solids::Physics::Stands;

    static constexpr fields::Choice kinds[] = {{"box", "box"},   {"cylinder", "cylinder"}, {"wedge", "wedge"},
                                               {"ball", "ball"}, {"tube", "tube"},         {"ring", "ring"}};
    static constexpr fields::Choice outlines[] = {
        {"same", "as outside"}, {"round", "round"}, {"square", "square"}, {"triangle", "triangle"}};
    static constexpr fields::Choice does[] = {
        {"stands", "stays where it is"}, {"falls", "falls"}, {"lets-through", "lets one through"}};
    static constexpr auto fields = fields::describe(
        fields::field<&SolidForm::name>("name", "Name"),
        fields::field<&SolidForm::kind>("kind", "Kind").oneOf(kinds),
        fields::field<&SolidForm::across>("across", "Across").below("Size").metres().between(0.001, 10000),
        fields::field<&SolidForm::up>("up", "High").metres().between(0.001, 10000),
        fields::field<&SolidForm::along>("along", "Along").metres().between(0.001, 10000),
        fields::field<&SolidForm::atAcross>("at-across", "Across")
            .below("Its middle")
            .metres()
            .between(-1e5, 1e5),
        fields::field<&SolidForm::atUp>("at-up", "Up").metres().between(-1e5, 1e5),
        fields::field<&SolidForm::atAhead>("at-ahead", "Ahead").metres().between(-1e5, 1e5),
        fields::field<&SolidForm::turnAcross>("turn-across", "About across")
            .below("Turned")
            .degrees()
            .between(-360, 360),
        fields::field<&SolidForm::turnUp>("turn-up", "About up").degrees().between(-360, 360),
        fields::field<&SolidForm::turnAhead>("turn-ahead", "About ahead").degrees().between(-360, 360),
        fields::field<&SolidForm::hollow>("hollow", "Hollow")
            .below("Shape")
            .between(0, 0.95)
            .help("Share of its width that is taken out of the middle."),
        fields::field<&SolidForm::outline>("outline", "Hollow's outline").oneOf(outlines),
        fields::field<&SolidForm::thick>("thick", "Wall")
            .between(0.05, 1)
            .when("kind", "tube ring")
            .help("Of a tube or ring: a share of its half width."),
        fields::field<&SolidForm::gap>("gap", "Left out")
            .degrees()
            .between(0, 350)
            .help("So much of the way around."),
        fields::field<&SolidForm::gapFrom>("gap-from", "Left out from").degrees().between(-360, 360),
        fields::field<&SolidForm::twist>("twist", "Twist")
            .degrees()
            .between(-720, 720)
            .help("The head is turned so much further than the foot."),
        fields::field<&SolidForm::footAcross>("foot-across", "Foot across").below("Ends").between(0, 2),
        fields::field<&SolidForm::footAlong>("foot-along", "Foot along").between(0, 2),
        fields::field<&SolidForm::headAcross>("head-across", "Head across").between(0, 2),
        fields::field<&SolidForm::headAlong>("head-along", "Head along").between(0, 2),
        fields::field<&SolidForm::leanAcross>("lean-across", "Sheared across").between(-2, 2),
        fields::field<&SolidForm::leanAlong>("lean-along", "Sheared along").between(-2, 2),
        fields::field<&SolidForm::physics>("physics", "In the world").oneOf(does));

    static SolidForm of(const solids::Solid& solid);
    void to(solids::Solid& solid) const;
};

/// What a solid, or one of its faces, looks like.
struct LookForm {
    solids::Stuff stuff = solids::Stuff::Plain;
    fields::Colour colour;
    double glow = 0;

    static constexpr fields::Choice stuffs[] = {{"plain", "nothing special"}, {"wood", "wood"},
                                                {"stone", "stone"},           {"metal", "metal"},
                                                {"glass", "glass"},           {"cloth", "cloth"}};
    static constexpr auto fields =
        fields::describe(fields::field<&LookForm::stuff>("stuff", "Made of").oneOf(stuffs),
                         fields::field<&LookForm::colour>("colour", "Colour"),
                         fields::field<&LookForm::glow>("glow", "Glow").between(0, 1));

    static LookForm of(const solids::Look& look);
    void to(solids::Look& look) const;
};

/// How a picture lies on a face. Where all faces are edited, on each of them alike.
struct PictureForm {
    double across = 0, down = 0, repeatsAcross = 1, repeatsDown = 1, turn = 0;

    static constexpr auto fields = fields::describe(
        fields::field<&PictureForm::repeatsAcross>("repeats-across", "Repeats across")
            .below("The picture on it")
            .between(-1000, 1000)
            .help("So often it lies along the face; below zero mirrored."),
        fields::field<&PictureForm::repeatsDown>("repeats-down", "Repeats down").between(-1000, 1000),
        fields::field<&PictureForm::across>("across", "Moved across")
            .between(-1000, 1000)
            .help("In widths of the picture."),
        fields::field<&PictureForm::down>("down", "Moved down").between(-1000, 1000),
        fields::field<&PictureForm::turn>("turn", "Turned").degrees().between(-360, 360));

    static PictureForm of(const solids::Look& look);
    void to(solids::Look& look) const;
};

/// What a scene has on the whole.
struct SceneForm {
    int sides = 32;

    static constexpr auto fields =
        fields::describe(fields::field<&SceneForm::sides>("sides", "Edges around what is round")
                             .between(solids::sidesAround.least, solids::sidesAround.most)
                             .help("More are rounder, and more triangles."));

    static SceneForm of(const solids::Scene& scene) { return {scene.sides}; }
    void to(solids::Scene& scene) const { scene.sides = sides; }
};

struct LightForm {
    std::string name;
    solids::LightKind kind = solids::LightKind::Lamp;
    double strength = 1;
    fields::Colour colour;
    double across = 0.1, along = 0.1, wide = 1;
    double atAcross = 0, atUp = 0, atAhead = 0;
    double turnAcross = 0, turnUp = 0, turnAhead = 0;

    static constexpr fields::Choice kinds[] = {{"sun", "sun"}, {"lamp", "lamp"}, {"area", "area"}};
    static constexpr auto fields = fields::describe(
        fields::field<&LightForm::name>("name", "Name"),
        fields::field<&LightForm::kind>("kind", "Kind").oneOf(kinds),
        fields::field<&LightForm::strength>("strength", "Strength")
            .between(0, 1e4)
            .help("Light on what faces it: a sun's anywhere, others' at one metre. 1 makes white as bright "
                  "as it can be."),
        fields::field<&LightForm::colour>("colour", "Colour"),
        fields::field<&LightForm::across>("across", "Across")
            .metres()
            .between(0, 1000)
            .when("kind", "lamp area"),
        fields::field<&LightForm::along>("along", "Along").metres().between(0, 1000).when("kind", "area"),
        fields::field<&LightForm::wide>("wide", "Wide")
            .degrees()
            .between(0, 90)
            .when("kind", "sun")
            .help("As it is seen in the sky: wider, and shadows are softer."),
        fields::field<&LightForm::atAcross>("at-across", "Stands across")
            .metres()
            .between(-1e5, 1e5)
            .when("kind", "lamp area"),
        fields::field<&LightForm::atUp>("at-up", "Stands high")
            .metres()
            .between(-1e5, 1e5)
            .when("kind", "lamp area"),
        fields::field<&LightForm::atAhead>("at-ahead", "Stands ahead")
            .metres()
            .between(-1e5, 1e5)
            .when("kind", "lamp area"),
        fields::field<&LightForm::turnAcross>("turn-across", "Turned about across")
            .degrees()
            .between(-360, 360)
            .when("kind", "sun area"),
        fields::field<&LightForm::turnUp>("turn-up", "Turned about up")
            .degrees()
            .between(-360, 360)
            .when("kind", "sun area"),
        fields::field<&LightForm::turnAhead>("turn-ahead", "Turned about ahead")
            .degrees()
            .between(-360, 360)
            .when("kind", "sun area"));

    static LightForm of(const solids::Light& light);
    void to(solids::Light& light) const;
};

} // namespace zl::app
