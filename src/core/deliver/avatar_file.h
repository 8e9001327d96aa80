#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// An avatar as one file NAME.vrm (VRM 1.0) with everything inside.
struct AvatarFile {
    std::string called; ///< empty is the piece's name

    static constexpr DeliverableInfo info{"avatar", "Avatar", "One file NAME.vrm with everything inside."};
    static constexpr auto fields = describe(field<&AvatarFile::called>("called", "Called")
                                                .help("The file is NAME.vrm.")
                                                .leastIs("the piece's name"));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
