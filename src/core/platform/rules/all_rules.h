#pragma once
#include "core/platform/rule.h"

// Every kind of rule; each is described where it is defined.
namespace zl::platform {

Finding measureTriangles(const Measures&, const Sheet&, const RuleSpec&);
Finding measureCorners(const Measures&, const Sheet&, const RuleSpec&);
Finding measureObjects(const Measures&, const Sheet&, const RuleSpec&);
Finding measureMaterials(const Measures&, const Sheet&, const RuleSpec&);
Finding measurePictures(const Measures&, const Sheet&, const RuleSpec&);
Finding measurePictureEdge(const Measures&, const Sheet&, const RuleSpec&);
Finding measurePowerOfTwo(const Measures&, const Sheet&, const RuleSpec&);
Finding measureClipping(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSlivers(const Measures&, const Sheet&, const RuleSpec&);
Finding measureHeight(const Measures&, const Sheet&, const RuleSpec&);
Finding measureWidth(const Measures&, const Sheet&, const RuleSpec&);
Finding measureLength(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSizeBesideFigure(const Measures&, const Sheet&, const RuleSpec&);
Finding measureStandsOnFloor(const Measures&, const Sheet&, const RuleSpec&);
Finding measureOriginUnderFoot(const Measures&, const Sheet&, const RuleSpec&);
Finding measureUnitKnown(const Measures&, const Sheet&, const RuleSpec&);
Finding measureHeadingKnown(const Measures&, const Sheet&, const RuleSpec&);
Finding measureNoTransforms(const Measures&, const Sheet&, const RuleSpec&);
Finding measureNoWrappers(const Measures&, const Sheet&, const RuleSpec&);
Finding measureNames(const Measures&, const Sheet&, const RuleSpec&);
Finding measureNamesOnce(const Measures&, const Sheet&, const RuleSpec&);
Finding measureColliderTriangles(const Measures&, const Sheet&, const RuleSpec&);
Finding measureColliderBottom(const Measures&, const Sheet&, const RuleSpec&);
Finding measureColliderPresent(const Measures&, const Sheet&, const RuleSpec&);
Finding measureColliderPieces(const Measures&, const Sheet&, const RuleSpec&);
Finding measureHollowFilled(const Measures&, const Sheet&, const RuleSpec&);
Finding measureLean(const Measures&, const Sheet&, const RuleSpec&);
Finding measureDefaultBox(const Measures&, const Sheet&, const RuleSpec&);
Finding measureMemory(const Measures&, const Sheet&, const RuleSpec&);
Finding measureTwinsEqual(const Measures&, const Sheet&, const RuleSpec&);
Finding measureBones(const Measures&, const Sheet&, const RuleSpec&);
Finding measureNodesPresent(const Measures&, const Sheet&, const RuleSpec&);
Finding measureCentredOn(const Measures&, const Sheet&, const RuleSpec&);
Finding measureScaleIsOne(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSettingsPresent(const Measures&, const Sheet&, const RuleSpec&);
Finding measureClearance(const Measures&, const Sheet&, const RuleSpec&);
Finding measureFolderName(const Measures&, const Sheet&, const RuleSpec&);
Finding measureAlphaUnwanted(const Measures&, const Sheet&, const RuleSpec&);
Finding measureAlphaMissing(const Measures&, const Sheet&, const RuleSpec&);
Finding measureChannelsSaySomething(const Measures&, const Sheet&, const RuleSpec&);
Finding measureUvInside(const Measures&, const Sheet&, const RuleSpec&);
Finding measureUvOverlap(const Measures&, const Sheet&, const RuleSpec&);
Finding measureTexelDensity(const Measures&, const Sheet&, const RuleSpec&);
Finding measurePictureFormat(const Measures&, const Sheet&, const RuleSpec&);
Finding measureFileNames(const Measures&, const Sheet&, const RuleSpec&);
Finding measureTextureMemory(const Measures&, const Sheet&, const RuleSpec&);
Finding measureTiles(const Measures&, const Sheet&, const RuleSpec&);
Finding measureReliefOnCurves(const Measures&, const Sheet&, const RuleSpec&);
Finding measureLevels(const Measures&, const Sheet&, const RuleSpec&);
Finding measureClipsPresent(const Measures&, const Sheet&, const RuleSpec&);
Finding measureStaysOnSpot(const Measures&, const Sheet&, const RuleSpec&);
Finding measureLoops(const Measures&, const Sheet&, const RuleSpec&);
Finding measureKeys(const Measures&, const Sheet&, const RuleSpec&);
Finding measureWeightsACorner(const Measures&, const Sheet&, const RuleSpec&);
Finding measureOneBoneASegment(const Measures&, const Sheet&, const RuleSpec&);
Finding measureTextureBytes(const Measures&, const Sheet&, const RuleSpec&);
Finding measureRestPose(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSlotsFilled(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSettingsAsWanted(const Measures&, const Sheet&, const RuleSpec&);
Finding measureHiddenKept(const Measures&, const Sheet&, const RuleSpec&);
Finding measureKartBytes(const Measures&, const Sheet&, const RuleSpec&);
Finding measureAvatarBones(const Measures&, const Sheet&, const RuleSpec&);
Finding measureTPose(const Measures&, const Sheet&, const RuleSpec&);
Finding measureExpressions(const Measures&, const Sheet&, const RuleSpec&);
Finding measureOneRoot(const Measures&, const Sheet&, const RuleSpec&);
Finding measureAvatarLicence(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSurfacesSet(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSurfaceKnown(const Measures&, const Sheet&, const RuleSpec&);
Finding measureMarks(const Measures&, const Sheet&, const RuleSpec&);
Finding measureHolderAtRest(const Measures&, const Sheet&, const RuleSpec&);
Finding measureEngineVersion(const Measures&, const Sheet&, const RuleSpec&);
Finding measureWholeBlocks(const Measures&, const Sheet&, const RuleSpec&);
Finding measureNumber(const Measures&, const Sheet&, const RuleSpec&);
Finding measureViewDistance(const Measures&, const Sheet&, const RuleSpec&);
Finding measurePlaced(const Measures&, const Sheet&, const RuleSpec&);
Finding measureBlockCount(const Measures&, const Sheet&, const RuleSpec&);
Finding measureBlockBounds(const Measures&, const Sheet&, const RuleSpec&);
Finding measureBlockKinds(const Measures&, const Sheet&, const RuleSpec&);
Finding measureOnePiece(const Measures&, const Sheet&, const RuleSpec&);
Finding measureCentreLine(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSymmetric(const Measures&, const Sheet&, const RuleSpec&);
Finding measureHollow(const Measures&, const Sheet&, const RuleSpec&);

// solids.cpp
Finding measureSolidsInGroup(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSolidSize(const Measures&, const Sheet&, const RuleSpec&);
Finding measureSolidFaces(const Measures&, const Sheet&, const RuleSpec&);
Finding measureRegionRoom(const Measures&, const Sheet&, const RuleSpec&);
Finding measureLightBaked(const Measures&, const Sheet&, const RuleSpec&);
Finding measureFileSize(const Measures&, const Sheet&, const RuleSpec&);

} // namespace zl::platform
