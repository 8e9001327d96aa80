#pragma once
#include "app/view/camera.h"
#include "app/view/overlay.h"
#include "app/view/gl_painter.h"
#include "standins/table/table_tests.h"

#include <QElapsedTimer>
#include <QOpenGLWidget>
#include <QTimer>

namespace zl::app {

/// The table stand-in, live: figures under physics that can be picked up and dropped.
class TryoutView : public QOpenGLWidget {
    Q_OBJECT
public:
    explicit TryoutView(QWidget* parent = nullptr);
    ~TryoutView() override;

    void setFigure(std::shared_ptr<const standins::table::Figure> figure);
    void setMessage(const QString& text);
    void setFinish(const QString& finish);

    /// Arrangements of figures, all with the chosen collider.
    void baseToBase();
    void drop();
    void stack();
    void knockOver();
    void addCopy();
    void setCollider(standins::table::ColliderKind kind);
    bool showColliders = true;
    void frameAll();
    standins::table::World* world() { return world_.get(); }

Q_SIGNALS:
    void stepped();
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

private:
    void upload();
    void clearWorld();
    void step();
    void paintLabels(QPainter& painter);
    float foot() const;
    double figureX() const; ///< where the figure of reference stands
    int quietFrames_ = 0;

    GlPainter painter_;
    Overlay* overlay_;
    bool failed_ = false;
    std::shared_ptr<const standins::table::Figure> figure_;
    std::unique_ptr<standins::table::World> world_;
    std::unique_ptr<GlMesh> model_;
    Camera camera_;
    QTimer timer_;
    QElapsedTimer clock_;
    standins::table::ColliderKind collider_ = standins::table::ColliderKind::Own;
    float gloss_ = 0.15f;
    QString message_;
    enum class Showing { Single, BaseToBase, Stack } showing_ = Showing::Single;
    QPointF lastAt_;
};

} // namespace zl::app
