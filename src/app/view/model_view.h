#pragma once
#include "app/selected.h"
#include "app/session.h"
#include "app/view/bodies.h"
#include "app/view/body_difference.h"
#include "app/view/camera.h"
#include "app/view/gl_still.h"
#include "app/view/overlay.h"
#include "app/view/picking.h"
#include "app/view/surface_paint.h"
#include "app/view/tools/handle_tool.h"
#include "app/view/tools/look_tool.h"
#include "app/view/tools/spot_tool.h"
#include "app/view/tools/bones_tool.h"
#include "app/view/tools/way_tool.h"
#include "app/view/tools/wipe_tool.h"

#include <QElapsedTimer>
#include <QOpenGLWidget>
#include <QTimer>

#include <optional>

namespace zl::app {

/// The workbench's view of one piece: model, collider, figure, floor, comparison, measuring and picking.
class ModelView : public QOpenGLWidget {
    Q_OBJECT
public:
    explicit ModelView(Selected& selected, QWidget* parent = nullptr);
    ~ModelView() override;

    void setSheet(SheetPointer sheet);
    /// `before` may be null. Keeps the camera unless `frame`.
    void setScenes(std::shared_ptr<const Scene> after, std::shared_ptr<const Scene> before, bool frame);
    /// The same piece in a pose; null for rest.
    void setPosed(std::shared_ptr<const Scene> posed);
    /// Something else that is seen through where it stands; null for nothing.
    void setGhost(std::shared_ptr<const Scene> ghost);
    void setHeat(std::shared_ptr<const Scene> heated, double hottestMetres);
    void setColliders(const std::vector<Collider>& colliders);
    void setBodiesApart(float apart); ///< 0 where they are
    const Bodies& bodies() const { return bodies_; }
    /// What faces are made of, painted over them; in place of bodies, which lie on them.
    void setSurfaces(SurfacePaint surfaces);
    const SurfacePaint& surfaces() const { return surfaces_; }
    /// What bodies and the piece differ by, in place of both; null for nothing.
    void setDifference(std::shared_ptr<const BodyDifference> difference);
    const std::shared_ptr<const BodyDifference>& difference() const { return difference_; }
    HandleTool& handles() { return handles_; }
    SpotTool& spots() { return spots_; }
    WayTool& ways() { return ways_; }
    BonesTool& bones() { return bones_; }
    void setHighlight(LitFaces lit, const QString& label);
    const LitFaces& litFaces() const { return lit_; }
    /// Nodes that stand for others beside them, as another size does: what is selected of the one is shown on
    /// both, and what is picked on a node that stands for another is picked on that.
    void setEchoes(std::map<int, int> echoes);
    int standsFor(int node) const;
    /// Triangles, in the world, that are seen through whatever is before them: what lies inside something.
    void setSeenThrough(std::vector<glm::vec3> corners);
    void setCaptions(const QString& before, const QString& after);
    /// Which way the front points, as an arrow on the floor: known, guessed (with why), or not at all.
    struct Front {
        double angle = 0; ///< radians from +Z towards +X
        QString words;
        bool known = false;
    };
    void setFront(std::optional<Front> front);
    const std::optional<Front>& front() const { return front_; }
    /// An object of known size to stand beside; null for none.
    void setYardstick(std::shared_ptr<const Scene> scene, const QString& caption);
    void setMessage(const QString& text); ///< shown over an empty view

    bool solid = true, wire = false, showCollider = true, showFigure = true, deviation = false, wipe = false,
         stack = false, showYardstick = false;
    Faces faces = Faces::Pictured;
    /// How much of the piece is there to be seen, 0 to 1, so that its bodies are.
    void setSeeThrough(float opacity);
    /// What keys do wherever the focus is on the page: those of the tools, F, Esc, and B while it is held.
    /// True when it was one of these.
    bool pressKey(const QKeyEvent& event);
    bool releaseKey(const QKeyEvent& event);
    /// Takes a tool in hand, which must outlive the view; null for the usual one, which picks parts.
    void setTool(ViewTool* tool);
    ViewTool* tool() const { return tool_ == &look_ ? nullptr : tool_; }
    void frameAll();
    /// Brings a place into the middle, with so many metres around it in sight.
    void frame(const glm::dvec3& place, double around);
    /// Looks level from ahead, level from the side, or down; once more from the other side.
    enum class From { Ahead, Side, Above };
    void lookFrom(From from);
    Camera& camera() { return camera_; }
    const Camera& camera() const { return camera_; }
    /// Milliseconds that the last frame took while moving; for tests and benchmarks.
    double lastFrameMillis() const { return frameMillis_; }
    /// Milliseconds of the longest go at the picture at rest since the view last moved.
    double longestStepMillis() const { return longestStepMillis_; }
    /// The camera is at rest and the full model is on screen.
    bool isResting() const { return resting_ && (stillReady_ || !after_.scene || failed_); }

    // What tools see and do.
    /// What stands there, in the pose that it is shown in.
    std::shared_ptr<const Scene> scene() const { return posed_.scene ? posed_.scene : after_.scene; }
    std::shared_ptr<const Scene> restScene() const { return after_.scene; }
    std::shared_ptr<const Scene> ghost() const { return ghost_.scene; }
    /// What it is compared with; null for nothing.
    std::shared_ptr<const Scene> beforeScene() const { return before_.scene; }
    const SheetPointer& sheet() const { return sheet_; }
    std::optional<Pick> pick(QPointF pixel) const;
    /// The corner near a pixel, else the point on the model under it.
    std::optional<glm::dvec3> pointNear(QPointF pixel) const;
    QPointF onScreen(const glm::dvec3& world) const;
    bool isComparing() const { return wipe && before_.scene; }
    const QString& captionBefore() const { return captionBefore_; }
    const QString& captionAfter() const { return captionAfter_; }
    void repaintOver() { overlay_->update(); }
    /// Pixels along the top edge that buttons cover.
    int takenAbove() const;
    /// Something that OpenGL draws has changed.
    void moved();
    /// Has the view painted, and its labels with it: each by itself would put the whole window together anew.
    void redraw();

Q_SIGNALS:
    void toolChanged();
    void looked();       ///< from elsewhere
    void sceneChanged(); ///< another shape, or the same in another pose
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
    void showSelected();
    /// One go at the picture at rest: some triangles, or some rows of it brought down to size.
    void drawStep();
    void drawSome();
    void finishStep();
    void drawModel(Drawn& drawn, bool light, std::size_t first = 0, std::size_t count = ~std::size_t(0));
    void drawFloor();
    void drawGhost();
    GlPainter::Look look() const;
    void drawBeside();
    glm::dvec3 besideFoot() const;
    int stackCount() const;
    /// What stands around the model: copies, a known object, the figure, the front's arrow.
    void drawStanding();
    void drawOver();
    /// Whether what is posed is drawn by a stand-in, for another pose soon follows.
    bool playsLighter() const;
    void drawLabels(QPainter& painter);
    /// Those that answer to the hand, first come first served.
    std::vector<ViewTool*> tools();
    glm::mat4 toClip() const;
    glm::dvec3 figureFoot() const;
    bool beforeShown() const { return (wipe || holdingBefore_) && before_.scene; }
    bool isHeavy() const;
    Drawn& afterDrawn() { return posed_.scene ? posed_ : deviation && heated_.scene ? heated_ : after_; }

    GlPainter painter_;
    Overlay* overlay_;
    bool failed_ = false, resting_ = false, holdingBefore_ = false;
    Drawn after_, before_, heated_, posed_, ghost_, yardstick_;
    std::optional<Front> front_;
    QString yardstickCaption_;
    std::unique_ptr<GlStill> still_;
    std::size_t stillDone_ = 0;
    std::optional<int> stillRows_; ///< rows that are finished, once all is drawn
    bool stillReady_ = false;
    QTimer restTimer_, drawTimer_;
    QElapsedTimer overlaid_; ///< since labels were painted
    SheetPointer sheet_;
    Camera camera_;
    Selected& selected_;
    WipeTool wipe_;
    HandleTool handles_;
    SpotTool spots_;
    WayTool ways_;
    BonesTool bones_;
    LookTool look_{selected_};
    ViewTool *tool_ = &look_, *holding_ = nullptr; ///< in hand; that has the press
    Bodies bodies_;
    SurfacePaint surfaces_;
    std::shared_ptr<const BodyDifference> difference_;
    float seeThrough_ = 1;
    std::vector<glm::vec3> highlightCorners_, highlightEdges_, selectedCorners_, seenThrough_;
    LitFaces lit_;
    std::map<int, int> echoes_; ///< from a node to the one that it stands for
    QString message_, captionBefore_, captionAfter_, highlightLabel_;
    double hottest_ = 0, frameMillis_ = 0, longestStepMillis_ = 0;
    QPointF pressedAt_, lastAt_;
};

} // namespace zl::app
