#include "cli/commands/all_commands.h"

namespace zl::cli {

std::vector<std::unique_ptr<Command>> allCommands() {
    std::vector<std::unique_ptr<Command>> list;
    list.push_back(makeInspect());
    list.push_back(makeContents());
    list.push_back(makeTakeOut());
    list.push_back(makeCatalogue());
    list.push_back(makePackage());
    list.push_back(makeClipping());
    list.push_back(makeInstall());
    list.push_back(makeUninstall());
    list.push_back(makeWorld());
    list.push_back(makeCost());
    list.push_back(makeBytes());
    list.push_back(makeUvLayout());
    list.push_back(makeParts());
    list.push_back(makeClips());
    list.push_back(makeHulls());
    list.push_back(makeBlocks());
    list.push_back(makeSolids());
    list.push_back(makeBake());
    list.push_back(makeUpload());
    list.push_back(makeServeRegion());
    list.push_back(makeTwins());
    list.push_back(makeFigure());
    list.push_back(makePlatforms());
    list.push_back(makeLearn());
    list.push_back(makeSteps());
    list.push_back(makeFit());
    list.push_back(makeBuild());
    list.push_back(makeTry());
    list.push_back(makeAnswer());
    list.push_back(makeLog());
    list.push_back(makeChain());
    list.push_back(makeConvert());
    list.push_back(makeSnapshot());
    return list;
}

} // namespace zl::cli
