#pragma once
#include "core/platform/sheet.h"

class QHBoxLayout;

namespace zl::app {

/// What the game said of a piece: taken or refused, when, because of what, with the note, and to which limit
/// of `sheet` it led.
QHBoxLayout* answerRow(const platform::GameAnswer& answer, const platform::Sheet& sheet);

} // namespace zl::app
