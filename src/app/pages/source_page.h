#pragma once
#include "app/session.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QVBoxLayout;

namespace zl::app {

/// A page on which somebody looks into a file that holds many things and takes some of them into the project:
/// finding on the left, what is found in the middle, the facts of what is chosen on the right.
class SourcePage : public QWidget {
    Q_OBJECT
public:
    const QString& file() const { return file_; }

Q_SIGNALS:
    void left();
    void itemsAsked(const std::vector<ItemSource>& items);

protected:
    SourcePage(Session& session, QWidget* parent);

    /// A column that begins with a field to find by and how many were found; both are called by what the page
    /// is about, such as "contents" ("contentsWords", "contentsCount").
    QWidget* makeFinding(const QString& about, const QString& placeholder, int width, QVBoxLayout*& column);
    /// Leaves the page, as Escape does.
    QWidget* makeBack(const QString& name);
    /// The three columns; the right one is for the page to fill.
    QVBoxLayout* layOut(QWidget* finding, QWidget* found);
    void keyPressEvent(QKeyEvent* event) override;

    Session& session_;
    QString file_;
    QPointer<Job> reading_;
    QLineEdit* words_ = nullptr;
    QLabel* count_ = nullptr;
};

} // namespace zl::app
