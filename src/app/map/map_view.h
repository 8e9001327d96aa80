#pragma once
#include "app/map/map_world.h"
#include "app/view/camera.h"
#include "app/view/overlay.h"
#include "app/view/scene.h"

#include "core/model/on_map.h"

#include <QElapsedTimer>
#include <QOpenGLFramebufferObject>
#include <QOpenGLWidget>

namespace zl::app {

/// A game's world with what others have there in grey, and our piece where it is to stand: it is put down by
/// a click, and moved, turned and lifted by handles. What stands still is drawn once and kept as a picture
/// with its depths, so that moving the piece costs the piece alone.
class MapView : public QOpenGLWidget {
    Q_OBJECT
public:
    explicit MapView(QWidget* parent = nullptr);
    ~MapView() override;

    void setSheet(std::shared_ptr<const platform::Sheet> sheet) { sheet_ = std::move(sheet); }
    void setWorld(std::shared_ptr<const MapWorld> world);
    void setPiece(std::shared_ptr<const Scene> piece);
    /// Places in a model's axes, and which of them is in hand.
    void setPlaces(std::vector<MapPlace> places, int chosen);
    /// Shown over an empty map.
    void setMessage(const QString& text);
    const std::vector<MapPlace>& places() const { return places_; }
    int chosen() const { return chosen_; }
    const std::shared_ptr<const MapWorld>& world() const { return world_; }

    bool others = true, districts = true, figure = true, standsOnBelow = true;
    /// Something of these was changed.
    void lookAgain();
    void frameChosen();
    void lookFromAbove();
    const Camera& camera() const { return camera_; }
    /// Milliseconds that the last picture took; for tests and benchmarks.
    double lastFrameMillis() const { return frameMillis_; }
    QPointF onScreen(const glm::dvec3& at) const;
    /// Where its handles are: its foot, what turns and what lifts it. On the map.
    struct Grips {
        glm::dvec3 foot{0}, turn{0}, lift{0};
    };
    std::optional<Grips> grips() const;

Q_SIGNALS:
    /// A place was changed by hand; the last of the list may be new.
    void changed(int place, const zl::MapPlace& to);
    void chose(int place);
    void viewFailed(const QString& why);

protected:
    void initializeGL() override;
    void paintGL() override;
    void resizeGL(int w, int h) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    static constexpr double lowestPitch = 0.03; ///< not below the ground
    static constexpr double lookDown = 0.85;    ///< pitch at which streets are seen between houses
    enum class Hold { None, Click, Move, Turn, Lift };

    void upload();
    void drawStill(const glm::mat4& toClip);
    void drawDistricts(const glm::mat4& toClip);
    void paintLabels(QPainter& painter);
    void cameraMoved();
    void redraw();
    glm::dmat4 poseOf(const MapPlace& place) const;
    glm::dvec3 rayAt(QPointF pixel) const;
    /// Where the pointer meets the level at a height.
    std::optional<glm::dvec3> onLevel(QPointF pixel, double height) const;
    /// What the pointer meets of the world: ground, or the foot of a wall.
    std::optional<glm::dvec3> onWorld(QPointF pixel) const;
    int placeAt(QPointF pixel) const;
    void putAt(const glm::dvec3& at);
    double size() const; ///< of the piece, across

    GlPainter painter_;
    Overlay* overlay_;
    bool failed_ = false, uploaded_ = false, stillFresh_ = false;
    std::shared_ptr<const platform::Sheet> sheet_;
    std::shared_ptr<const MapWorld> world_;
    std::shared_ptr<const Scene> piece_;
    struct Squares {
        std::unique_ptr<GlMesh> near, far;
    };
    std::vector<Squares> squares_;
    std::unique_ptr<GlMesh> pieceMesh_;
    std::unique_ptr<QOpenGLFramebufferObject> still_;
    std::vector<MapPlace> places_;
    int chosen_ = -1;
    Camera camera_;
    bool framed_ = false;
    QString message_;
    Hold hold_ = Hold::None;
    QPointF pressedAt_, lastAt_;
    MapPlace start_;
    glm::dvec3 grabbed_{0};
    double frameMillis_ = 0;
};

} // namespace zl::app
