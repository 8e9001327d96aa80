#pragma once
#include "app/view/camera.h"

#include <QMouseEvent>
#include <QSize>
#include <QWheelEvent>

namespace zl::app {

// How every view answers to the hand. Each returns whether the camera moved.

/// Right drag turns, middle drag moves; `by` is the pointer's way since the last event in pixels.
bool dragCamera(Camera& camera, Qt::MouseButtons buttons, QPointF by, int viewHeight);
/// Zooms to the pointer.
bool wheelCamera(Camera& camera, const QWheelEvent& event, QSize view);
/// Arrow keys turn, plus and minus zoom.
bool keyCamera(Camera& camera, int key);

} // namespace zl::app
