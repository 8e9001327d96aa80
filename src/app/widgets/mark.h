#pragma once
#include "core/platform/check.h"

#include <QColor>
#include <QPainter>

class QHBoxLayout;
class QLabel;

namespace zl::app {

/// How something stands, as shown: never by colour alone.
enum class Mark { None, Fits, Tight, Broken, Busy };

Mark markOf(const platform::RuleResult& rule);
Mark markOf(const platform::FitReport& report);
QColor markInk(Mark mark);
QColor markSoft(Mark mark);
/// A tick, an hourglass, an exclamation mark in a square, or three dots, centred at `at`.
void paintMark(QPainter& painter, Mark mark, QPointF at, double size);
/// A mark as a label, `size` pixels.
QLabel* markLabel(Mark mark, int size = 18);
/// A mark with words beside it and a dim second line.
QHBoxLayout* markRow(Mark mark, const QString& words, const QString& detail, bool strong = false);
/// "fits", "tight", "breaks a limit", for people who hear the screen.
QString markText(Mark mark);

} // namespace zl::app
