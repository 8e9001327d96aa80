#pragma once
#include "app/session.h"
#include "app/widgets/mark.h"

#include <QAbstractButton>

#include <map>

class QGridLayout;
class QLabel;
class QVBoxLayout;

namespace zl::app {

/// A piece on a platform: says in words and shape whether it fits, and which limit is tightest.
class CrossingButton : public QAbstractButton {
    Q_OBJECT
public:
    CrossingButton(QString piece, QString platform, QWidget* parent);
    void show(const CrossingState& state, bool setUp);
    const QString& piece() const { return piece_; }
    const QString& platform() const { return platform_; }
    QSize sizeHint() const override { return {118, 62}; }

Q_SIGNALS:
    void opened();

protected:
    void paintEvent(QPaintEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override { Q_EMIT opened(); }
    void keyPressEvent(QKeyEvent* event) override;

private:
    QString piece_, platform_, words_;
    Mark mark_ = Mark::None;
};

/// First screen of a project: pieces as rows, platforms as columns.
class LoomPage : public QWidget {
    Q_OBJECT
public:
    LoomPage(Session& session, QWidget* parent = nullptr);
    void select(const QString& piece, const QString& platform);

Q_SIGNALS:
    void openAsked(const QString& piece, const QString& platform);
    void suggestAsked(const QString& piece, const QString& platform);
    void bringInAsked();

private:
    void rebuild();
    void showCrossing(const QString& piece, const QString& platform);
    void showSide();
    void thumbnail(const QString& piece);
    Session& session_;
    QGridLayout* grid_;
    QWidget* table_;
    QVBoxLayout* side_;
    QString piece_, platform_, layoutKey_;
    std::map<std::pair<QString, QString>, CrossingButton*> crossings_;
    std::map<QString, QLabel*> pictures_, facts_, counts_;
    std::map<QString, QPixmap> thumbnails_;
    std::map<QString, Hash> thumbnailOf_;
};

} // namespace zl::app
