#include "core/deliver/console_headers.h"

#include "core/base/unique_names.h"
#include "core/deliver/console_piece.h"
#include "core/deliver/console_text.h"

#include <filesystem>

namespace zl::deliver {

namespace {

/// Compilers tell at least 63 letters apart (C99, 5.2.4.1), and prefix, kind and number come beside it.
constexpr std::size_t longestIdentifier = 40;

} // namespace

std::vector<OutFile> ConsoleHeaders::make(const Model& model, const platform::Sheet& sheet,
                                          const Labels& labels, const Progress& progress) const {
    progress.report(0, "cutting into batches");
    ConsolePiece piece = consolePieceOf(model, sheet, progress);
    UniqueNames segments(
        [](const std::string&name, int number) { return name + "_" + std::to_string(number); }),
        clips = segments, pictures = segments, bones = segments;
    for (auto& segment : piece.segments) segment.name = segments.made(identifierFrom(segment.name));
    for (auto& clip : piece.clips) clip.name = clips.made(identifierFrom(clip.name));
    for (auto& picture : piece.pictures)
        picture.name = pictures.made(identifierFrom(std::filesystem::path(picture.name).stem().string()));
    for (auto& bone : piece.bones) bone.name = bones.made(identifierFrom(bone.name));

    const ConsoleNames names{identifierFrom(called.empty() ? labels.name : called), labels.credit};
    progress.report(0.6, "writing the headers");
    return {{names.prefix + "_names.h", namesHeader(piece, names)},
            {names.prefix + "_model.h", modelHeader(piece, names)},
            {names.prefix + "_pictures.h", picturesHeader(piece, names)},
            {names.prefix + "_example.c", exampleSource(piece, names)}};
}

std::string identifierFrom(std::string_view name) {
    std::string out;
    for (const char c : name) {
        const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'), digit = c >= '0' && c <= '9';
        if (letter || digit)
            out += c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c;
        else if (!out.empty() && out.back() != '_')
            out += '_';
    }
    if (out.size() > longestIdentifier) out.resize(longestIdentifier);
    while (out.ends_with('_')) out.pop_back();
    if (out.empty()) return "piece";
    return out[0] >= '0' && out[0] <= '9' ? "n" + out : out;
}

} // namespace zl::deliver
