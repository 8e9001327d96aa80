#include "core/steps/holder.h"

#include "core/base/file_set.h"
#include "core/contact/marks.h"
#include "core/geometry/moving_nodes.h"

namespace zl::steps {

namespace {

/// The model with a node in front of all others, and all that count nodes counting one more.
Model withNodeInFront(const Model& in, const std::string& name) {
    Model out = in;
    out.nodes.clear();
    out.nodes.push_back({name});
    for (Node node : in.nodes) {
        ++node.parent; // those at the top hang on it: -1 becomes 0
        out.nodes.push_back(std::move(node));
    }
    for (Skin& skin : out.skins) {
        for (int& joint : skin.joints) ++joint;
        if (skin.root >= 0) ++skin.root;
    }
    for (auto& held : out.clips) {
        Clip clip = *held;
        for (Channel& channel : clip.channels) ++channel.node;
        held = std::make_shared<const Clip>(std::move(clip));
    }
    return out;
}

} // namespace

Model Holder::apply(const Model& in, StepContext& context) const {
    std::string name = called;
    if (name.empty()) {
        std::string piece = context.around ? context.around->provenance().name : std::string();
        piece = fileNameFrom(piece.empty() ? in.name : piece);
        name = context.sheet && !context.sheet->touch.holderName.empty()
                   ? context.sheet->touch.holderFor(piece)
                   : piece + ".holder";
    }
    if (in.nodes.empty()) {
        context.fellShort("there is nothing to hold");
        return in;
    }
    const auto moving = geometry::movingNodes(in);
    const int top = contact::holderOf(in);
    const bool isOne = top >= 0 && in.nodes[std::size_t(top)].mesh < 0 && !moving[std::size_t(top)];
    Model out = isOne ? in : withNodeInFront(in, name);
    const std::size_t holder = isOne ? std::size_t(top) : 0;
    const std::string before = out.nodes[holder].name;
    out.nodes[holder].name = name;
    // Marks of what was at the top are read from the holder, so they come along.
    if (!isOne)
        for (std::size_t n = 1; n < out.nodes.size(); ++n)
            if (out.nodes[n].parent == 0) out.nodes[0].marks.merge(out.nodes[n].marks);
    const glm::dmat4 stood = out.placement * out.nodes[holder].local;
    bool held = true;
    for (std::size_t n = 0; n < out.nodes.size(); ++n) {
        if (out.nodes[n].parent != int(holder)) continue;
        const std::size_t was = isOne ? n : n - 1;
        if (stood != glm::dmat4(1.0) && moving[was]) held = false;
    }
    if (!held) {
        context.fellShort("a clip or a bone moves what is at the top, so where it stands cannot go into it; "
                          "put Scale the rig or Bake placement before it");
        return in;
    }
    for (Node& node : out.nodes)
        if (node.parent == int(holder)) node.local = stood * node.local;
    out.placement = glm::dmat4(1.0);
    out.nodes[holder].local = glm::dmat4(1.0);
    context.note(isOne && before == name ? fmt::format("\"{}\" holds everything", name)
                 : isOne ? fmt::format("\"{}\" is called \"{}\" and holds everything", before, name)
                         : fmt::format("\"{}\" is around everything", name));
    context.facts = {{"holder", name}};
    return out;
}

} // namespace zl::steps
