#pragma once
#include "app/view/camera.h"
#include "app/view/gl_painter.h"
#include "app/view/overlay.h"
#include "app/view/shaded_painter.h"
#include "standins/world/arena.h"

#include <QElapsedTimer>
#include <QOpenGLWidget>
#include <QTimer>

#include <set>

namespace zl::app {

/// A stand-in's arena, live: things under physics that can be picked up and dropped, the figure beside them.
class TryoutView : public QOpenGLWidget {
    Q_OBJECT
public:
    explicit TryoutView(QWidget* parent = nullptr);
    ~TryoutView() override;

    void setArena(std::shared_ptr<standins::world::Arena> arena);
    void setMessage(const QString& text);
    /// Does something on the arena and lets time pass until all is still again.
    void act(const QString& action);
    void slide(const QString& slider, double value);
    void choose(const QString& choice, int option);
    /// Puts a picture on an item, or on what is chosen where that is below 0.
    void dress(const QString& file, int item = -1);
    void frameAll();
    const Camera& camera() const { return camera_; }
    standins::world::Arena* arena() { return arena_.get(); }
    standins::world::Physics* world() { return arena_ ? &arena_->physics() : nullptr; }

Q_SIGNALS:
    void stepped();
    void viewFailed(const QString& why);
    void refusedPicture(const QString& why);
    void dressed(); ///< or clicked: a choice may stand elsewhere now

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
    void focusOutEvent(QFocusEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void redraw(); ///< labels with it: each by itself would put the whole window together anew
    void upload();
    void wake();
    void makeRoom();
    void step();
    /// A key that walks goes down or up; false for any other.
    bool walkKey(int key, bool down);
    void walk();
    void drawItems(const std::vector<standins::world::Drawn>& drawn, const glm::mat4& toClip);
    void drawGround(const glm::mat4& toClip);
    void drawShadows(const std::vector<standins::world::Drawn>& drawn, const glm::mat4& toClip);
    void drawMarks(const glm::mat4& toClip);
    void paintLabels(QPainter& painter);

    GlPainter painter_;
    Overlay* overlay_;
    bool failed_ = false;
    int uploadedRevision_ = -1; ///< of the arena's items
    std::shared_ptr<standins::world::Arena> arena_;
    std::vector<std::unique_ptr<GlMesh>> meshes_; ///< of the arena's items
    std::unique_ptr<ShadedPainter> shaded_;       ///< in their place where the arena has a shader of its own
    Camera camera_;
    std::pair<glm::vec3, glm::vec3> framed_{}; ///< the space that the camera was set up to show
    QTimer timer_;
    QElapsedTimer clock_;
    QString message_;
    QPointF lastAt_, pressedAt_;
    std::set<int> walkKeys_; ///< that are down
    int quietFrames_ = 0;
};

} // namespace zl::app
