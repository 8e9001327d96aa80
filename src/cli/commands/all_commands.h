#pragma once
#include "cli/command.h"

// One function a command; each command has a file of its own.
namespace zl::cli {

std::unique_ptr<Command> makeInspect();
std::unique_ptr<Command> makeContents();
std::unique_ptr<Command> makeTakeOut();
std::unique_ptr<Command> makeCatalogue();
std::unique_ptr<Command> makePackage();
std::unique_ptr<Command> makeClipping();
std::unique_ptr<Command> makeInstall();
std::unique_ptr<Command> makeUninstall();
std::unique_ptr<Command> makeWorld();
std::unique_ptr<Command> makeBytes();
std::unique_ptr<Command> makeCost();
std::unique_ptr<Command> makeUvLayout();
std::unique_ptr<Command> makeParts();
std::unique_ptr<Command> makeClips();
std::unique_ptr<Command> makeBlocks();
std::unique_ptr<Command> makeSolids();
std::unique_ptr<Command> makeBake();
std::unique_ptr<Command> makeUpload();
std::unique_ptr<Command> makeServeRegion();
std::unique_ptr<Command> makeHulls();
std::unique_ptr<Command> makeTwins();
std::unique_ptr<Command> makeFigure();
std::unique_ptr<Command> makePlatforms();
std::unique_ptr<Command> makeLearn();
std::unique_ptr<Command> makeSteps();
std::unique_ptr<Command> makeFit();
std::unique_ptr<Command> makeBuild();
std::unique_ptr<Command> makeTry();
std::unique_ptr<Command> makeAnswer();
std::unique_ptr<Command> makeLog();
std::unique_ptr<Command> makeChain();
std::unique_ptr<Command> makeConvert();
std::unique_ptr<Command> makeSnapshot();

} // namespace zl::cli
