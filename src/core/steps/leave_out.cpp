#include "core/steps/leave_out.h"

#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/geometry/hidden_faces.h"
#include "core/selection/left_out.h"

namespace zl::steps {

namespace {

/// "3 parts and 120 triangles of others".
void noteTaken(const Model& in, const selection::Chosen& chosen, StepContext& context,
               const std::string& nothing) {
    std::vector<std::string> whole;
    std::size_t single = 0;
    for (std::size_t n = 0; n < in.nodes.size(); ++n) {
        if (chosen.isWhole(in, n))
            whole.push_back(in.nodes[n].name);
        else
            single += chosen.countOf(n);
    }
    context.facts = {{"parts", whole.size()}, {"triangles", chosen.count()}};
    if (chosen.count() == 0) return context.note(nothing);
    std::string text = showCount(static_cast<long long>(chosen.count()), "triangle", "triangles");
    if (!whole.empty()) text += fmt::format(", with all of {}", showNames(whole));
    context.note(text);
}

} // namespace

selection::Chosen LeaveOut::takes(const Model& in, StepContext& context) const {
    return context.chosen(in, faces);
}

Model LeaveOut::apply(const Model& in, StepContext& context) const {
    const auto chosen = takes(in, context);
    noteTaken(in, chosen, context, "nothing is chosen");
    return selection::leftOut(in, chosen);
}

selection::Chosen RemoveHidden::takes(const Model& in, StepContext& context) const {
    selection::Chosen chosen{geometry::hiddenFaces(in, what == What::Parts, rays, context.progress)};
    const NamePatterns wanted(parts.patterns);
    for (std::size_t n = 0; n < chosen.faces.size(); ++n)
        if (!wanted.match(in.nodes[n].name)) chosen.faces[n].clear();
    return chosen;
}

Model RemoveHidden::apply(const Model& in, StepContext& context) const {
    const auto chosen = takes(in, context);
    noteTaken(in, chosen, context, "everything can be seen from outside");
    return selection::leftOut(in, chosen);
}

} // namespace zl::steps
