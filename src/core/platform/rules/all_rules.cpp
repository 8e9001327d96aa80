#include "core/platform/rules/all_rules.h"

namespace zl::platform {

std::span<const RuleKind> allRuleKinds() {
    static const std::vector<RuleKind> kinds{
        {"triangles", {{"most"}, {"per-object", false}}, measureTriangles},
        {"corners", {{"most"}}, measureCorners},
        {"objects", {{"most"}}, measureObjects},
        {"materials", {{"most"}, {"per-object", false}}, measureMaterials},
        {"pictures", {{"most"}, {"per-object", false}}, measurePictures},
        {"picture-edge", {{"most"}}, measurePictureEdge},
        {"power-of-two", {}, measurePowerOfTwo},
        {"clipping", {{"within"}}, measureClipping},
        {"slivers", {{"most"}}, measureSlivers},
        {"height", {{"least"}, {"most"}}, measureHeight},
        {"width", {{"least"}, {"most"}}, measureWidth},
        {"length", {{"least"}, {"most"}}, measureLength},
        {"size-beside-figure", {{"least"}, {"most"}}, measureSizeBesideFigure},
        {"stands-on-floor", {{"within"}}, measureStandsOnFloor},
        {"origin-under-foot", {{"within"}}, measureOriginUnderFoot},
        {"unit-known", {}, measureUnitKnown},
        {"heading-known", {}, measureHeadingKnown},
        {"no-transforms", {}, measureNoTransforms},
        {"no-wrappers", {}, measureNoWrappers},
        {"names", {}, measureNames, {{"pattern"}, {"wanted"}}},
        {"names-once", {}, measureNamesOnce},
        {"collider-triangles", {{"most"}}, measureColliderTriangles},
        {"collider-bottom", {{"within"}}, measureColliderBottom},
        {"lean", {{"least"}}, measureLean},
        {"default-box", {{"most"}}, measureDefaultBox},
        {"memory", {{"most-megabytes"}, {"copy-bytes"}, {"picture-edge", false}}, measureMemory},
        {"twins-equal", {}, measureTwinsEqual},
        {"bones", {{"most"}}, measureBones},
        {"nodes-present", {}, measureNodesPresent, {{"names"}}},
        {"centred-on", {{"within"}}, measureCentredOn, {{"parts"}, {"on"}, {"without", false}}},
        {"scale-is-one", {}, measureScaleIsOne},
        {"settings-present", {}, measureSettingsPresent, {{"names"}}},
        {"clearance",
         {{"steering"}, {"travel"}, {"within"}},
         measureClearance,
         {{"wheels"}, {"hubs"}, {"steered"}, {"body"}}},
        {"folder-name", {}, measureFolderName, {{"name"}}},
        {"alpha-unwanted", {}, measureAlphaUnwanted},
        {"alpha-missing", {}, measureAlphaMissing, {{"materials"}}},
        {"channels-say-something", {}, measureChannelsSaySomething},
        {"file-size", {{"most-megabytes"}}, measureFileSize},
    };
    return kinds;
}

} // namespace zl::platform
