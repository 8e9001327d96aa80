#pragma once
#include "core/deliver/deliver.h"
#include "core/formats/format.h"

namespace zl::deliver {

/// What one `[[file]]` section writes: the model as far as it is meant, its pictures, and how.
struct Output {
    std::string path; ///< with every place filled in
    Model model;
    formats::WriteOptions options; ///< but for the names of files
    std::string object;            ///< its name, where it is one object's
    int material = -1;             ///< index of the material, where it is one's
};

/// The section's outputs: one, or one for each object or material that its patterns mean, each name once.
/// Empty where nothing of the model is meant (a body of a model that has none). `values` are what places in
/// paths stand for. Throws Error for a path that leads out.
std::vector<Output> outputsOf(const platform::FileOutput& file, const Model& model,
                              const platform::Sheet& sheet, const std::map<std::string, std::string>& values);

/// How lengths and axes are in the section's files.
formats::WriteOptions writeOptionsFor(const platform::FileOutput& file, const platform::Sheet& sheet);

} // namespace zl::deliver
