#pragma once
#include "core/base/file_set.h"
#include "core/model/model.h"

#include <functional>
#include <string>

namespace zl::project {
struct Project;
}
namespace zl::solids {
struct Scene;
}

namespace zl::demo {

/// The demo project, as it lies in `folder`.
project::Project harvestFair(const std::filesystem::path& folder);

/// A bronze bell on a stone foot under a wooden headstock, in millimetres, Y up, standing at the origin.
/// `detail` 1 gives about 0.79 million triangles; the number goes with its square. UVs run once round.
Mesh tideBell(double detail);

/// Binary STL as a scanner's program would leave it: Z up, far from the origin, every triangle with corners
/// of its own, some slivers, doubles and turned triangles among them.
std::string scannedStl(const Mesh& upright);

/// OBJ text with UVs, one object, one material called `material` in `library`.
std::string texturedObj(const Mesh& mesh, const std::string& library, const std::string& material);

/// The fruit-press stall as OBJ and MTL text, in metres, Y up, a little off its place.
struct KioskFiles {
    std::string obj, mtl;
};
KioskFiles pressKiosk();

/// The harbour's five materials, in this order.
enum { Wood, Iron, Cloth, Fruit, Glass };
/// A model that wears nothing yet, with the harbour's materials.
Model withHarbourMaterials();

/// The pergola of the quay's garden: 44 solids in six groups, two lamps and a sun.
solids::Scene pergola();

/// Small things of the harbour as they are handed round: a kit of OBJ files in folders, with an archive in
/// it, and a locked archive of the same with the file that holds its key.
std::vector<OutFile> saltglassKits();
/// The catalogue of sixty items, with `more` generated entries.
std::vector<OutFile> saltglassCatalogue(std::size_t more = 0);
/// A package of one item of the game, and somebody else's copy of it, taller than the original.
std::vector<OutFile> saltglassPackages();

/// A cart of wood with wheels and a bench, six times too large, driving towards -X; its right half is the
/// left one mirrored, in nested groups.
Model haulCart();
/// A hand crane for the quay, concave, of five objects. Metres, Y up.
Model dockHoist();
/// A lamp in a crate, a block wide but drawn a tenth too large and off its place, with marks that are spelt
/// and placed from memory. Metres, Y up.
Model crateLamp();
/// An airship for the fair: eight objects, among them an envelope with holes, fins thinner than a block, an
/// open sail and ropes. Metres, Y up, facing +Z, 7.4 m long; one lamp makes its sides differ.
Model fairAirship();
/// A steam roller of six objects: rolls that stand on the ground, a thin canopy on posts, rods that are too
/// thin for a block, and a flywheel on one side only. Metres, Y up, facing +Z, 5 m long.
Model steamRoller();
/// A clock with four faces on an iron post. Metres, Y up; its faces share a name.
Model quayClock();
/// A small installation of Port Calder, in games/port-calder: tables, an archive, and everything of others.
std::vector<OutFile> portCalderGame();
/// Eight props in nested groups; some wear two materials, two are called "crate".
Model kioskProps();

/// An apron for the fair, slim or broad, alike corner for corner: canvas with quilted pockets, leather loops
/// and straps, a lamp badge; one mesh on seven bones of a grown figure. Metres, Y up, facing +Z.
Model fairApron(bool broad);

/// A cart of the derby with plain wheels, and one with better ones, as Oxbow Circuit names their nodes.
/// Metres, Y up, facing +Z. Both have a "wheel.png", each its own; "iron.png" is the same in both.
Model derbyCart();
Model dandyCart();

/// A wind-up dock hand of painted tin: 22 bones, skinned, eight morph targets for its face, clips idle, walk
/// (drifts) and heave. Metres, Y up, facing +Z, arms level.
Model pipTheWinder();
/// Pip as an avatar: without clips, with a tassel on its cap that swings, and with everything that VRM says
/// set up.
Model olderPip();
/// A fish of paper on ribs, with a seat and a rider: drawn ten times too large on a rig that is scaled back,
/// clips swim (drifts), glide and startle. Y up, facing +Z.
Model lanternFish();

/// A bollard wound with rope, with a picture of its height, and a squared coil beside it. Metres, Y up.
Model ropeBollard();

/// How a material's pictures beside its colour come out.
struct SetLook {
    float depth = 2; ///< how steep its relief is
    float rough = 0.7f;
    bool metal = false; ///< where it is not rust
};
/// Normal, height, and occlusion with roughness and metalness in one, of a colour picture that tiles; in the
/// folder kiosk-sets, `name` with -n, -h and -orm.
std::vector<OutFile> materialSet(const std::string& name, const Pixels& colour, const SetLook& look);

/// A picture of colours (sRGB, 0–1) by where they are on it, from its left and from its top.
Pixels painted(int edge, const std::function<glm::vec3(float u, float v)>& colour);
/// Hand-painted looking pictures, `edge` pixels square, tiling.
Pixels woodPicture(int edge, unsigned seed, float warmth);
Pixels clothPicture(int edge);
Pixels fruitPicture(int edge);
Pixels ironPicture(int edge);
Pixels bronzePicture(int edge);

/// Smooth noise in 0–1 that repeats after `period` cells.
float noise(float x, float y, int period, unsigned seed);
/// Several octaves of it.
float layeredNoise(float x, float y, int period, unsigned seed, int octaves = 4);

} // namespace zl::demo
