#pragma once
#include <QWidget>

class QBoxLayout;
class QLabel;
class QPlainTextEdit;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace zl::app {

/// The text with places where a long word may be broken, so that one word does not push out everything beside
/// it. Words of up to 16 letters stay whole; tags of rich text are left alone.
QString breakable(const QString& text);

/// Small makers for things that every page has; each sets the property that the style sheet goes by.
/// Labels wrap, and their text is breakable().
QLabel* headingLabel(const QString& text, int level = 1);
QLabel* textLabel(const QString& text, const char* tone = nullptr); ///< tone: "dim", "bad", "good", "warn"
QPushButton* button(const QString& text, const char* kind = nullptr,
                    const QString& icon = {}); ///< kind: "main", "strong", "quiet", "dashed"
QToolButton* iconButton(const QString& icon, const QString& tip);
/// A box for text whose lines mean something: letters of one width, nothing wrapped. `heard` is its name for
/// who does not see it.
QPlainTextEdit* codeBox(const char* name, const QString& heard);
QWidget* line();
/// A column at a page's side, as wide as asked; puts the layout to fill into `layout`.
QWidget* sideColumn(int width, QVBoxLayout*& layout);
/// A row of a table of facts in rich text: <table cellspacing='3'>…</table> around them.
QString factRow(const QString& name, const QString& value);
/// Changes a property that the style sheet goes by, and has the style looked at again.
void restyle(QWidget* widget, const char* property, const QVariant& value);
/// Takes everything out of a layout and deletes it. The layout's own widget gets the keyboard where one of
/// them had it: handed on along the window it would end up anywhere, and pages scroll after it.
void clearLayout(QLayout* layout);
/// A scroll area without frame; returns the layout to fill. Sideways it scrolls only where asked to.
QVBoxLayout* scrolled(QWidget* parent, QBoxLayout* into, bool sideways = false);
/// Scrolls what holds `panel` so that a widget in it is in sight, its top before its end. Which one is asked
/// once layouts have placed what was made just now; null for none.
void scrollSoon(QWidget* panel, std::function<QWidget*()> to, int times = 10);

} // namespace zl::app
