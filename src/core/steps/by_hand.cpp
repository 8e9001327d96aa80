#include "core/steps/by_hand.h"

#include "core/blocks/greedy_mesh.h"
#include "core/blocks/laid_over.h"

namespace zl::steps {

Model ByHand::apply(const Model& in, StepContext& context) const {
    const std::string where(info.id);
    const blocks::Hull* below = blocks::hullOf(in);
    if (!below) throw Error("the model is not built of blocks here", where, "Add Build of blocks before it.");
    const Companion companion = context.input(document);
    if (!companion.model->blocks)
        throw Error(companion.name + " is no document of blocks", where, "Choose one, or begin another.");
    blocks::LaidOver laid = blocks::laidOver(*below, *companion.model->blocks);
    laid.hull.below = in.blocks;
    if (laid.hull.build.count() == 0)
        throw Error("everything is taken away by hand", where, "Leave a block.");
    const std::size_t done = laid.put + laid.taken + laid.other;
    if (done == 0 && laid.idle.empty())
        context.note("nothing yet: put, take away or turn blocks in the view");
    else
        context.note(fmt::format(
            "{} put, {} taken away, {} made another; {}", laid.put, laid.taken, laid.other,
            laid.idle.empty()
                ? std::string("all of them still touch the build")
                : fmt::format("{} nothing any more", showCount(long(laid.idle.size()), "does", "do"))));
    auto idle = nlohmann::json::array();
    const glm::dmat4 place = worldMatrices(in)[std::size_t(shownNodes(in)[0])];
    for (const glm::ivec3& cell : laid.idle) {
        const glm::dvec4 at =
            place * glm::dvec4(laid.hull.cornerOf(cell) + glm::dvec3(laid.hull.edge / 2), 1);
        idle.push_back({at.x, at.y, at.z});
    }
    context.facts = {
        {"put", laid.put}, {"taken", laid.taken}, {"turned", laid.other}, {"idle", std::move(idle)}};

    return blocks::showing(std::move(laid.hull), in);
}

} // namespace zl::steps
