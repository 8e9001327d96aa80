#pragma once
#include "app/pages/contents_tree.h"

namespace zl::app {

/// A small picture out of its file's bytes; null when they are none that can be shown.
QImage thumbnailFrom(std::string_view bytes);

/// Reads a file in an archive and looks: a model's triangles and how it looks, a picture scaled down. What
/// cannot be read comes back with the reason.
Peeked peekAt(const std::filesystem::path& path, formats::FileKind kind, bool dusk, const Progress& progress);

} // namespace zl::app
