#include "app/view/tools/faces_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

#include "core/selection/grown.h"

#include <QCoreApplication>

namespace zl::app {

namespace {

const Mesh& meshOf(const Model& model, std::size_t node) {
    return *model.meshes[std::size_t(model.nodes[node].mesh)];
}

selection::Chosen nothingIn(const Model& model) {
    return {std::vector<std::vector<char>>(model.nodes.size())};
}

/// The bone that a triangle hangs on most; empty when it hangs on none.
std::string boneOf(const Model& model, std::size_t node, std::size_t triangle) {
    const Mesh& mesh = meshOf(model, node);
    if (model.nodes[node].skin < 0 || mesh.weights.empty()) return {};
    std::map<std::uint16_t, float> weight;
    for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t corner = mesh.indices[3 * triangle + k];
        for (int j = 0; j < 4; ++j) weight[mesh.joints[corner][j]] += mesh.weights[corner][j];
    }
    const auto most = std::ranges::max_element(weight, {}, [](const auto& entry) { return entry.second; });
    const auto& joints = model.skins[std::size_t(model.nodes[node].skin)].joints;
    return most == weight.end() || most->first >= joints.size()
               ? std::string()
               : model.nodes[std::size_t(joints[most->first])].name;
}

} // namespace

void FacesTool::setAngle(ModelView& view, double angle) {
    angle_ = angle;
    if (last_ && last_->takes == Takes::Region && last_->scene == view.scene()) take(*last_);
}

bool FacesTool::press(ModelView& view, const Hand&) {
    return view.scene() != nullptr;
}

void FacesTool::putDown(ModelView&) {
    last_.reset();
}

std::optional<Qt::CursorShape> FacesTool::hover(ModelView&, QPointF) {
    return Qt::CrossCursor;
}

void FacesTool::move(ModelView& view, const Hand& hand) {
    if (line_.isEmpty() && !hand.hasMoved()) return;
    if (line_.isEmpty()) line_ << hand.pressedAt;
    line_ << hand.at;
    view.repaintOver();
}

selection::Chosen FacesTool::before(const Model& model, const Hand& hand) const {
    return hand.keys & (Qt::ShiftModifier | Qt::AltModifier) ? selected_.in(model) : nothingIn(model);
}

void FacesTool::release(ModelView& view, const Hand& hand) {
    const QPolygonF line = std::exchange(line_, {});
    const auto scene = view.scene();
    if (!scene) return;
    const bool takesAway = hand.keys & Qt::AltModifier;
    if (line.size() > 2) {
        last_.reset();
        const auto within = facesWithin(*scene, view.camera(), view.size(), line, goesThrough);
        auto chosen = before(scene->model, hand);
        for (std::size_t n = 0; n < within.faces.size(); ++n)
            if (!within.faces[n].empty())
                chosen.join(std::size_t(view.standsFor(int(n))), within.faces[n], takesAway);
        selected_.setFaces(scene->model, chosen);
        return view.repaintOver();
    }
    const auto under = view.pick(hand.at);
    if (!under) {
        last_.reset();
        if (!takesAway && !(hand.keys & Qt::ShiftModifier)) selected_.clear();
        return;
    }
    last_ = Click{scene,
                  std::size_t(view.standsFor(under->node)),
                  scene->triangleWithinNode(under->triangle),
                  takesAway,
                  hand.keys & Qt::ControlModifier ? Takes::LoosePart : takes_,
                  before(scene->model, hand)};
    take(*last_);
}

selection::Chosen FacesTool::found(const Click& click) const {
    const Model& model = click.scene->model;
    const Mesh& mesh = meshOf(model, click.node);
    auto out = nothingIn(model);
    const auto byTerm = [&](selection::What what) {
        return selection::chosen(model, {{{std::move(what), false}}});
    };
    std::vector<char> marks(mesh.triangleCount(), 0);
    marks[click.triangle] = 1;
    switch (click.takes) {
    case Takes::Face:
        break;
    case Takes::Region:
        marks = selection::grownToCreases(mesh, std::move(marks), angle_);
        break;
    case Takes::LoosePart:
        marks = selection::grownToLooseParts(mesh, std::move(marks));
        break;
    case Takes::Object:
        std::ranges::fill(marks, 1);
        break;
    case Takes::Island:
        marks = selection::grownToIslands(mesh, std::move(marks));
        break;
    case Takes::Material: {
        const int worn = triangleMaterials(mesh)[click.triangle];
        for (std::size_t n = 0; n < model.nodes.size(); ++n) {
            if (model.nodes[n].mesh < 0) continue;
            const auto materials = triangleMaterials(meshOf(model, n));
            std::vector<char> same(materials.size(), 0);
            for (std::size_t t = 0; t < same.size(); ++t) same[t] = materials[t] == worn;
            out.join(n, same);
        }
        return out;
    }
    case Takes::Bone:
        if (const std::string bone = boneOf(model, click.node, click.triangle); !bone.empty())
            return byTerm(selection::OnBone{bone, 0.5});
        break;
    }
    out.join(click.node, marks);
    return out;
}

void FacesTool::take(const Click& click) {
    auto chosen = click.before;
    const auto more = found(click);
    for (std::size_t n = 0; n < more.faces.size(); ++n) chosen.join(n, more.faces[n], click.takesAway);
    selected_.setFaces(click.scene->model, chosen);
}

void FacesTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    if (line_.size() > 1) {
        QColor fill = tokens().zest;
        fill.setAlphaF(0.16f);
        painter.setPen(QPen(tokens().zest, 1.5, Qt::DashLine));
        painter.setBrush(fill);
        painter.drawPolygon(line_);
    }
    if (!selected_.empty()) return;
    label(QPointF(view.width() / 2.0, view.height() - 72.0),
          QCoreApplication::translate("FacesTool",
                                      "Click faces or draw around them; Shift adds, Alt takes away"),
          tokens().ink, true, Qt::AlignHCenter);
}

} // namespace zl::app
