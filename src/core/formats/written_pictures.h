#pragma once
#include "core/base/file_set.h"
#include "core/model/model.h"

#include <map>

namespace zl::formats {

/// The pictures of the used materials as files beside a model: a safe name for each, used once, and its
/// bytes. `folder` ("pictures/" or empty) goes in front of every name.
struct WrittenPictures {
    std::map<int, std::string> names; ///< by index into Model::images
    std::vector<OutFile> files;
};
WrittenPictures writtenPictures(const Model& model, const std::string& folder = {});

} // namespace zl::formats
