#include "core/project/other_sizes.h"

namespace zl::project {

std::vector<deliver::OtherSize> otherSizes(const Project& project, const Piece& piece,
                                           const platform::Sheet& sheet, SourceCache& sources,
                                           recipe::EvaluationCache* cache, const Progress& progress) {
    std::vector<deliver::OtherSize> out;
    const auto sizes = piece.sizes();
    for (std::size_t i = 1; i < sizes.size(); ++i) {
        auto loaded = sources.load(
            project, piece, sizes[i],
            progress.between(double(i - 1) / double(sizes.size() - 1), double(i) / double(sizes.size() - 1)));
        out.push_back({sizes[i], std::move(loaded.model), loaded.hash,
                       std::make_shared<const Companions>(project, piece, sheet, sources, cache,
                                                          progress.silent(), sizes[i])});
    }
    return out;
}

std::vector<std::filesystem::path> filesOf(const std::vector<deliver::OtherSize>& sizes) {
    std::vector<std::filesystem::path> out;
    for (const deliver::OtherSize& size : sizes) {
        const auto files = static_cast<const Companions&>(*size.around).filesWith(size.source);
        out.insert(out.end(), files.begin(), files.end());
    }
    return out;
}

} // namespace zl::project
