#pragma once
#include "core/files/source_file.h"
#include "core/model/model.h"

namespace zl::formats {

/// Turns the material resources that a row mesh refers to into materials of its model.
class RowMaterials {
public:
    RowMaterials(files::SourceFile& source, Model& model) : source_(source), model_(model) {}

    /// The index of the material resource that `key` (a key as text, or "03@name") names; a plain material
    /// called `name`, and a warning, where there is none.
    int use(const std::string& key, const std::string& name);

private:
    int picture(const std::string& key);

    files::SourceFile& source_;
    Model& model_;
    std::map<std::string, int> used_, pictures_;
};

/// A material resource's JSON. `pictureKeys` are what it refers to, by role; empty for none.
std::string rowMaterialText(const Material& material,
                            const std::array<std::string, pictureRoles>& pictureKeys);

} // namespace zl::formats
