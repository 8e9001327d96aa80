#pragma once
#include "app/session.h"
#include "app/view/camera.h"
#include "app/view/overlay.h"
#include "app/view/picking.h"

#include <QOpenGLFramebufferObject>
#include <QOpenGLWidget>
#include <QTimer>

#include <optional>

namespace zl::app {

/// A point on a collider that can be dragged along an axis.
struct Handle {
    QString id;
    glm::dvec3 at;   ///< world
    glm::dvec3 axis; ///< unit length, outward
    QString label;
};

/// The workbench's view of one piece: model, collider, figure, floor, comparison, measuring and picking.
class ModelView : public QOpenGLWidget {
    Q_OBJECT
public:
    /// With Look, a left click picks a part and a left drag selects the parts within it.
    enum class Tool { Look, Measure };

    explicit ModelView(QWidget* parent = nullptr);
    ~ModelView() override;

    void setSheet(SheetPointer sheet);
    /// `before` may be null. Keeps the camera unless `frame`.
    void setScenes(std::shared_ptr<const Scene> after, std::shared_ptr<const Scene> before, bool frame);
    void setHeat(std::shared_ptr<const Scene> heated, double hottestMetres);
    void setColliders(const std::vector<Collider>& colliders, std::vector<Handle> handles);
    void setHighlight(LitFaces lit, const QString& label);
    void select(std::set<int> nodes);
    const std::set<int>& selected() const { return selected_; }
    void setCaptions(const QString& before, const QString& after);
    /// Which way the front points, as an arrow on the floor: known, guessed (with why), or not at all.
    struct Front {
        double angle = 0; ///< radians from +Z towards +X
        QString words;
        bool known = false;
    };
    void setFront(std::optional<Front> front);
    /// An object of known size to stand beside; null for none.
    void setYardstick(std::shared_ptr<const Scene> scene, const QString& caption);
    void setMessage(const QString& text); ///< shown over an empty view
    void setNodeNames(std::vector<QString> names) { nodeNames_ = std::move(names); }

    bool solid = true, wire = false, showCollider = true, showFigure = true, deviation = false, wipe = false,
         stack = false, showYardstick = false;
    /// What keys do wherever the focus is on the page: F, M, Esc, and B while it is held. True when it was
    /// one of these.
    bool pressKey(const QKeyEvent& event);
    bool releaseKey(const QKeyEvent& event);
    void setTool(Tool tool);
    Tool tool() const { return tool_; }
    void frameAll();
    std::optional<std::pair<glm::dvec3, glm::dvec3>> measured() const;
    Camera& camera() { return camera_; }
    const Camera& camera() const { return camera_; }
    /// Milliseconds that the last frame took while moving; for tests and benchmarks.
    double lastFrameMillis() const { return frameMillis_; }
    /// The camera is at rest and the full model is on screen.
    bool isResting() const { return resting_ && (stillReady_ || !isHeavy()); }

Q_SIGNALS:
    void measuredChanged();
    void toolChanged();
    void selectionChanged();
    /// A handle moved by `delta` metres along its axis since the drag began.
    void handleDragged(const QString& id, double delta, bool finished);
    void viewFailed(const QString& why);

protected:
    void initializeGL() override;
    void paintGL() override;
    void resizeGL(int, int) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;

private:
    struct Drawn {
        std::shared_ptr<const Scene> scene;
        std::unique_ptr<GlMesh> full, light;
    };
    void upload(Drawn& drawn);
    void moved();
    void drawStep();
    void drawModel(Drawn& drawn, bool light, std::size_t first = 0, std::size_t count = ~std::size_t(0));
    void drawFloor();
    void drawBeside();
    glm::dvec3 besideFoot() const;
    int stackCount() const;
    void drawOver();
    void drawLabels(QPainter& painter);
    glm::mat4 toClip() const;
    glm::dvec3 figureFoot() const;
    std::optional<Pick> pick(QPointF pixel) const;
    glm::dvec3 measuringPoint(QPointF pixel, const Pick& pick) const;
    int handleAt(QPointF pixel) const;
    const Handle* draggedHandle() const;
    double wipeX() const { return wipeShare_ * width(); }
    bool beforeShown() const { return (wipe || holdingBefore_) && before_.scene; }
    bool isHeavy() const;
    Drawn& afterDrawn() { return deviation && heated_.scene ? heated_ : after_; }

    GlPainter painter_;
    Overlay* overlay_;
    bool failed_ = false, resting_ = false, holdingBefore_ = false;
    Drawn after_, before_, heated_, yardstick_;
    std::optional<Front> front_;
    QString yardstickCaption_;
    std::unique_ptr<QOpenGLFramebufferObject> still_;
    std::size_t stillDone_ = 0;
    bool stillReady_ = false;
    QTimer restTimer_, drawTimer_;
    SheetPointer sheet_;
    Camera camera_;
    Tool tool_ = Tool::Look;
    std::vector<Collider> colliders_;
    std::vector<Handle> handles_;
    std::vector<std::unique_ptr<GlMesh>> colliderMeshes_;
    std::vector<glm::vec3> colliderEdges_, highlightCorners_, highlightEdges_, selectedCorners_;
    LitFaces lit_;
    std::set<int> selected_;
    std::optional<glm::dvec3> hovered_; ///< where a click would measure from
    QRectF band_;                       ///< of a selection being drawn
    std::vector<glm::dvec3> points_;
    std::vector<QString> nodeNames_;
    QString message_, captionBefore_, captionAfter_, highlightLabel_;
    double hottest_ = 0, wipeShare_ = 0.5, frameMillis_ = 0;
    QPointF pressedAt_, lastAt_;
    QString draggedHandle_; ///< id of the handle that is held; empty for none
    bool draggingWipe_ = false;
};

} // namespace zl::app
