#pragma once
#include "core/selection/chosen.h"

#include <QObject>

#include <set>

namespace zl::app {

/// What is selected on the workbench: parts, materials, single faces. One object, shared by the view, the
/// list of parts and the cards. Kept by paths and names, so that it outlasts the model that it was selected
/// on.
class Selected : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    const std::set<NodePath>& parts() const { return parts_; }
    const std::set<std::string>& materials() const { return materials_; }
    bool empty() const { return parts_.empty() && materials_.empty() && faces_.empty(); }

    void clear() { set({}, {}, {}); }
    void setParts(std::set<NodePath> parts) { set(std::move(parts), {}, {}); }
    void setMaterials(std::set<std::string> materials) { set({}, std::move(materials), {}); }
    /// Faces of a model; whole objects among them become parts.
    void setFaces(const Model& model, const selection::Chosen& chosen);

    /// As a step takes it.
    selection::Selection asSelection() const;
    /// Where it lies in a model. What is not there any more is left out.
    selection::Chosen in(const Model& model) const;

Q_SIGNALS:
    void changed();

private:
    void set(std::set<NodePath> parts, std::set<std::string> materials,
             std::vector<selection::StoredFaces> faces);

    std::set<NodePath> parts_;
    std::set<std::string> materials_;
    std::vector<selection::StoredFaces> faces_;
};

} // namespace zl::app
