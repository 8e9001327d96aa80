#pragma once
#include "app/pages/crossing_button.h"

#include <QTimer>

class QGridLayout;
class QLabel;
class QToolButton;

namespace zl::app {

/// Pieces as rows, platforms as columns. Rows beyond the first screenful are made in the moments when nothing
/// else is to do, so that a large project is there at once.
class LoomTable : public QWidget {
    Q_OBJECT
public:
    explicit LoomTable(Session& session, QWidget* parent = nullptr);
    /// Makes rows and columns anew where the project has others; repaints the verdicts.
    void rebuild();
    void select(const QString& piece, const QString& platform);
    void forgetPictures();
    /// The table is seen from `left` on: the pieces' names stay in sight.
    void keepNamesAt(int left);
    /// Gives the keyboard to the selected crossing.
    void focusSelected();

Q_SIGNALS:
    void chosen(const QString& piece, const QString& platform);
    void opened(const QString& piece, const QString& platform);
    void bringInAsked();
    void platformsAsked();

protected:
    void resizeEvent(QResizeEvent* event) override;
    bool event(QEvent* event) override;

private:
    void shareWidth();
    void placeNames();
    void makeHead();
    QToolButton* platformChooser();
    void makeRows(int upTo);
    void makeRow(const project::Piece& piece, int row);
    void makeLegend(int row);
    void makeEmpty(int row);
    void showCrossing(const QString& piece, const QString& platform);
    void showCounts();
    void thumbnail(const QString& piece);

    Session& session_;
    QGridLayout* grid_;
    QString layoutKey_;
    int rowsMade_ = 0, left_ = 0;
    std::vector<std::pair<int, QWidget*>> names_; ///< of the first column, by row
    std::pair<QString, QString> selected_;
    std::map<std::pair<QString, QString>, CrossingButton*> crossings_;
    std::map<QString, QLabel*> pictures_, size_, facts_, counts_;
    std::map<QString, QPixmap> thumbnails_;
    std::map<QString, Hash> thumbnailOf_;
    QTimer countTimer_, rowTimer_;
};

} // namespace zl::app
