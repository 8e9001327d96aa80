#pragma once
#include <QWidget>

#include <map>
#include <vector>

class QGridLayout;
class QLabel;
class QSlider;

namespace zl::app {

/// Sliders one below the other, each with its name and how much it says in percent.
class SliderRows : public QWidget {
    Q_OBJECT
public:
    explicit SliderRows(QWidget* parent = nullptr);

    struct Row {
        QString id, label;
        double value = 0; ///< 0 to 1
        bool operator==(const Row&) const = default;
    };
    /// Rows that are there already stay; sliders of others come and go.
    void show(const std::vector<Row>& rows);
    /// Sets one without a signal.
    void set(const QString& id, double value);

Q_SIGNALS:
    void moved(const QString& id, double value);

private:
    struct Own {
        QSlider* slider;
        QLabel* says;
    };
    QGridLayout* grid_;
    std::vector<std::pair<QString, QString>> shown_; ///< ids and labels
    std::map<QString, Own> own_;
};

} // namespace zl::app
