#pragma once
#include "core/base/file_set.h"
#include "core/formats/format.h"

#include <map>

namespace zl::formats {

/// The pictures of the used materials as files beside a model: a safe name for each, used once, and its
/// bytes. `folder` ("pictures/" or empty) goes in front of every name.
struct WrittenPictures {
    std::map<int, std::string> names; ///< by index into Model::images
    std::vector<OutFile> files;
};
WrittenPictures writtenPictures(const Model& model, const std::string& folder = {});

/// The same as a format without room for pictures writes them beside its file.
WrittenPictures picturesBeside(const Model& model, const WriteOptions& options);

} // namespace zl::formats
