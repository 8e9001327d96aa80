#pragma once
#include <string_view>

namespace zl::formats {

/// What a file is to this program, by its ending.
enum class FileKind { Model, Picture, Archive, Text, Other };

FileKind kindOf(std::string_view name);
/// "model", "picture", "archive", "text", "file".
std::string_view kindName(FileKind kind);

} // namespace zl::formats
