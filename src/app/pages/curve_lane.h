#pragma once
#include <QWidget>

#include <vector>

namespace zl::app {

/// Curves over the length of a clip, with the moment that is seen, and two handles for the part that is
/// played. Lines of one unit share a scale. Everything along the clip is a share of it, 0 to 1.
class CurveLane : public QWidget {
    Q_OBJECT
public:
    struct Line {
        enum class Ink { Sea, Leaf, Amber, Clay };
        QString label; ///< with how much it is at most
        Ink ink = Ink::Sea;
        bool dashed = false, degrees = false;
        std::vector<double> values; ///< at even shares
    };

    explicit CurveLane(QWidget* parent = nullptr);

    /// `message` stands there instead of no lines.
    void setLines(std::vector<Line> lines, const QString& message = {});
    const std::vector<Line>& lines() const { return lines_; }
    void setMoment(double share);
    void setRange(double from, double to);
    double from() const { return from_; }
    double to() const { return to_; }
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }
    /// Pixels from the left at which a share of the clip stands.
    double xOf(double share) const;

Q_SIGNALS:
    void pointed(double share);
    void rangeChanged(double from, double to);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent*) override { held_ = Held::Nothing; }

private:
    enum class Held { Nothing, Moment, From, To };
    Held at(double x) const;
    void drag(double x);
    QRectF plot() const;

    std::vector<Line> lines_;
    QString message_;
    double moment_ = 0, from_ = 0, to_ = 1;
    Held held_ = Held::Nothing;
};

} // namespace zl::app
