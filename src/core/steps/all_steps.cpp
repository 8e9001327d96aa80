#include "core/steps/across_seam.h"
#include "core/steps/avatar_licence.h"
#include "core/steps/avatar_setup.h"
#include "core/steps/bake_light.h"
#include "core/steps/bake_placement.h"
#include "core/steps/build_of_blocks.h"
#include "core/steps/by_hand.h"
#include "core/steps/carry_over_placement.h"
#include "core/steps/clip_rate.h"
#include "core/steps/clips_from.h"
#include "core/steps/collider_box.h"
#include "core/steps/collider_cylinder.h"
#include "core/steps/collider_from.h"
#include "core/steps/collision_mesh.h"
#include "core/steps/colour_to_picture.h"
#include "core/steps/convex_pieces.h"
#include "core/steps/corner_weights.h"
#include "core/steps/cut_out.h"
#include "core/steps/engine_version.h"
#include "core/steps/heading.h"
#include "core/steps/hide.h"
#include "core/steps/holder.h"
#include "core/steps/keep_aside.h"
#include "core/steps/leave_out.h"
#include "core/steps/leave_out_bones.h"
#include "core/steps/levels_of_detail.h"
#include "core/steps/loop_clips.h"
#include "core/steps/marks.h"
#include "core/steps/match_yardstick.h"
#include "core/steps/normals.h"
#include "core/steps/number.h"
#include "core/steps/one_material.h"
#include "core/steps/origin.h"
#include "core/steps/part_material.h"
#include "core/steps/picture_alpha.h"
#include "core/steps/picture_bytes.h"
#include "core/steps/picture_kind.h"
#include "core/steps/picture_size.h"
#include "core/steps/place_on_map.h"
#include "core/steps/platform_settings.h"
#include "core/steps/pose.h"
#include "core/steps/reduce_triangles.h"
#include "core/steps/relief.h"
#include "core/steps/rename_clips.h"
#include "core/steps/rename_parts.h"
#include "core/steps/reshape.h"
#include "core/steps/rest_pose.h"
#include "core/steps/stand_still.h"
#include "core/steps/rigid_segments.h"
#include "core/steps/scale_rig.h"
#include "core/steps/seamless.h"
#include "core/steps/set_pictures.h"
#include "core/steps/size.h"
#include "core/steps/slots.h"
#include "core/steps/split_parts.h"
#include "core/steps/stand_on_floor.h"
#include "core/steps/stay_on_the_spot.h"
#include "core/steps/surface_kind.h"
#include "core/steps/take_parts.h"
#include "core/steps/take_setup.h"
#include "core/steps/trim_clips.h"
#include "core/steps/turn.h"
#include "core/steps/turn_channels.h"
#include "core/steps/unit_and_up.h"
#include "core/steps/uv_placement.h"
#include "core/steps/uvs_anew.h"
#include "core/steps/wear.h"
#include "core/steps/weld_and_clean.h"

namespace zl::steps {

namespace {

template <class... Steps>
std::vector<std::unique_ptr<Step>> listOf() {
    std::vector<std::unique_ptr<Step>> list;
    (list.push_back(std::make_unique<StepOf<Steps>>()), ...);
    return list;
}

} // namespace

std::span<const std::unique_ptr<Step>> allSteps() {
    static const auto list =
        listOf<UnitAndUp, Turn, Heading, Size, MatchYardstick, CarryOverPlacement, StandOnFloor, Origin,
               BakePlacement, SetBeside, Number, PlaceOnMap, WeldAndClean, ReduceTriangles, SplitParts,
               JoinParts, RemoveWrappers, RenameParts, CutOut, JoinBack, KeepAside, TakeParts, Reshape,
               LeaveOut, RemoveHidden, LevelsOfDetail, BuildOfBlocks, ByHand, SetPictures, BakeLight,
               PartMaterial, PlatformSettings, OneMaterial, ColourToPicture, PictureToColour, PictureSize,
               PictureKind, PictureBytes, PictureAlpha, TurnChannels, Seamless, ReliefStrength, UvPlacement,
               RunOn, StopAtSeam, UvsAnew, Normals, Wear, Pose, StayOnTheSpot, TrimClips, LoopClips, ClipRate,
               RenameClips, ClipsFrom, Slots, CornerWeights, LeaveOutBones, ScaleRig, RestPose, StandStill,
               RigidSegments, Hide, AvatarSetup, TakeSetup, AvatarLicence, SurfaceKind, ColliderBox,
               ColliderCylinder, ColliderFrom, ConvexPieces, CollisionMesh, Holder, Marks, EngineVersion>();
    return list;
}

} // namespace zl::steps
