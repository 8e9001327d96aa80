#include "core/formats/file_kind.h"

#include "core/base/letters.h"
#include "core/files/contents.h"
#include "core/formats/format.h"
#include "core/texture/picture_format.h"

#include <algorithm>
#include <array>

namespace zl::formats {

FileKind kindOf(std::string_view name) {
    const std::string small = lowerCase(name);
    const std::size_t slash = small.rfind('/'), dot = small.rfind('.');
    if (dot == std::string::npos || (slash != std::string::npos && dot < slash)) return FileKind::Other;
    const std::string_view ending = std::string_view(small).substr(dot);
    if (files::isContainer(small)) return FileKind::Archive;
    for (const Format& format : allFormats())
        if (format.read && std::ranges::find(format.extensions, ending.substr(1)) != format.extensions.end())
            return FileKind::Model;
    if (ending == ".jpeg" || std::ranges::any_of(texture::allPictureFormats(), [&](const auto& format) {
            return format.extension == ending;
        }))
        return FileKind::Picture;
    static constexpr std::array<std::string_view, 8> texts{".txt", ".md",  ".json", ".csv",
                                                           ".xml", ".ini", ".toml", ".mtl"};
    return std::ranges::find(texts, ending) != texts.end() ? FileKind::Text : FileKind::Other;
}

std::string_view kindName(FileKind kind) {
    switch (kind) {
    case FileKind::Model:
        return "model";
    case FileKind::Picture:
        return "picture";
    case FileKind::Archive:
        return "archive";
    case FileKind::Text:
        return "text";
    case FileKind::Other:
        break;
    }
    return "file";
}

} // namespace zl::formats
