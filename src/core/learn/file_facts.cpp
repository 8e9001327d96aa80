#include "core/learn/file_facts.h"

#include "core/base/error.h"
#include "core/base/file_bytes.h"
#include "core/base/file_set.h"
#include "core/formats/file_kind.h"

#include <algorithm>
#include <mutex>

namespace zl::learn {

namespace {

/// A text larger than this is data, and says nothing of how one is to be written.
constexpr std::uint64_t mostTextBytes = 1u << 20;
constexpr std::uint64_t largeModel = 64u << 20;

bool looksLikeText(std::string_view bytes) {
    const std::string_view start = bytes.substr(0, 4096);
    const auto odd = std::ranges::count_if(
        start, [](unsigned char c) { return c == 0 || (c < 0x20 && c != '\n' && c != '\r' && c != '\t'); });
    return !start.empty() && odd == 0;
}

} // namespace

FileFacts factsOf(const std::filesystem::path& root, const std::string& path, const Progress& progress) {
    FileFacts out;
    out.path = path;
    const std::filesystem::path file = root / std::filesystem::path(path);
    std::error_code problem;
    out.bytes = std::filesystem::file_size(file, problem);
    if (problem) {
        out.problem = "is gone";
        return out;
    }
    try {
        switch (formats::kindOf(path)) {
        case formats::FileKind::Model:
            // Several large ones at once would take more memory than a look is worth.
            if (static std::mutex oneLarge; out.bytes > largeModel) {
                const std::lock_guard lock(oneLarge);
                out.model = modelFacts(file, progress.silent());
            } else {
                out.model = modelFacts(file, progress.silent());
            }
            if (out.model->triangles == 0 && path.ends_with(".xml")) out.model.reset();
            break;
        case formats::FileKind::Picture: {
            const FileBytes bytes(file);
            out.picture = pictureFacts(bytes.text());
            break;
        }
        case formats::FileKind::Archive:
            break;
        default:
            if (path.ends_with(".mtl") || out.bytes > mostTextBytes) break; // a model's own, or data
            if (std::string text = readText(file, mostTextBytes); looksLikeText(text))
                out.text = textFacts(std::move(text), path);
        }
        if (path.ends_with(".xml") && !out.model && !out.text && out.bytes <= mostTextBytes)
            out.text = textFacts(readText(file, mostTextBytes), path);
    } catch (const Error& error) {
        out.problem = error.what();
        if (path.ends_with(".xml")) try { // most are no models
                out.text = textFacts(readText(file, mostTextBytes), path);
                out.problem.clear();
            } catch (const Error& again) {
                out.problem = again.what();
            }
    }
    return out;
}

} // namespace zl::learn
