#pragma once
#include "app/view/tools/view_tool.h"

#include "core/model/model.h"
#include "standins/world/physics.h"

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include <memory>

namespace zl::app {

/// Tries the bodies that physics uses where they are: a ball, an arrow or somebody walking is sent along the
/// pointer, and stops at a body or goes through.
class ProbeTool final : public QObject, public ViewTool {
    Q_OBJECT
public:
    enum class Sends { Ball, Arrow, Walker };

    ProbeTool();
    ~ProbeTool() override;
    void setSends(Sends sends) { sends_ = sends; }
    /// The bodies as they are now; `figureMetres` sets what is fast and heavy.
    void setBodies(const std::vector<Collider>& bodies, double figureMetres);
    /// What the last one met, in words; empty before the first.
    const QString& told() const { return told_; }
    bool isMoving() const { return timer_.isActive(); }

    bool press(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;
    void putDown(ModelView& view) override;

private:
    struct Body {
        standins::world::Shape shape; ///< in the world
        bool hollow = false;
    };
    /// Where along a ray a body is met first, and which.
    struct Met {
        float far = 1e30f;
        int body = -1;
    };
    Met meet(const glm::vec3& from, const glm::vec3& way) const;
    void sendBall(const glm::vec3& from, const glm::vec3& way);
    void sendArrow(ModelView& view, const glm::vec3& from, const glm::vec3& way);
    void sendWalker(ModelView& view, const glm::vec3& from, const glm::vec3& way);
    QString bodyWords(int body) const;
    void step();

    Sends sends_ = Sends::Ball;
    std::vector<Body> bodies_;
    double figure_ = 1.8;
    std::unique_ptr<standins::world::Physics> physics_;
    struct Flight {
        glm::vec3 from{0}, to{0};
    };
    std::optional<Flight> arrow_, walk_;
    double gone_ = 0; ///< seconds since it was sent
    QString told_;
    QTimer timer_;
    QElapsedTimer clock_;
    ModelView* view_ = nullptr;
};

} // namespace zl::app
