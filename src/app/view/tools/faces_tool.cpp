#include "app/view/tools/faces_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

#include "core/selection/grown.h"

#include <QCoreApplication>

namespace zl::app {

bool FacesTool::press(ModelView& view, const Hand&) {
    return view.scene() != nullptr;
}

std::optional<Qt::CursorShape> FacesTool::hover(ModelView&, QPointF) {
    return Qt::CrossCursor;
}

void FacesTool::release(ModelView& view, const Hand& hand) {
    const auto scene = view.scene();
    if (!scene || hand.hasMoved()) return;
    const auto under = view.pick(hand.at);
    const bool adds = hand.keys & Qt::ShiftModifier, takesAway = hand.keys & Qt::AltModifier;
    if (!under) {
        if (!adds && !takesAway) selected_.clear();
        return;
    }
    const Model& model = scene->model;
    const auto node = std::size_t(under->node);
    const Mesh& mesh = *model.meshes[std::size_t(model.nodes[node].mesh)];
    std::vector<char> marks(mesh.triangleCount(), 0);
    marks[scene->triangleWithinNode(under->triangle)] = 1;
    marks = hand.keys & Qt::ControlModifier
                ? selection::grownToLooseParts(mesh, std::move(marks))
                : selection::grownToCreases(mesh, std::move(marks), selection::OfRegion{}.angle);
    auto chosen = adds || takesAway ? selected_.in(model)
                                    : selection::Chosen{std::vector<std::vector<char>>(model.nodes.size())};
    chosen.join(node, marks, takesAway);
    selected_.setFaces(model, chosen);
}

void FacesTool::draw(ModelView& view, QPainter&, const Label& label) {
    if (!selected_.empty()) return;
    label(QPointF(view.width() / 2.0, view.height() - 40.0),
          QCoreApplication::translate(
              "FacesTool", "Click faces; Ctrl takes the whole loose part, Shift adds, Alt takes away"),
          tokens().ink, true, Qt::AlignHCenter);
}

} // namespace zl::app
