#pragma once
#include "core/model/image.h"

#include <QImage>

namespace zl::app {

/// The core's pixels as Qt's picture, with bytes of its own.
inline QImage imageOf(const Pixels& pixels) {
    return QImage(pixels.rgba.data(), pixels.width, pixels.height, QImage::Format_RGBA8888).copy();
}

} // namespace zl::app
