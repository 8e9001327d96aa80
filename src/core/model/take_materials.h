#pragma once
#include "core/base/unique_names.h"
#include "core/model/model.h"

namespace zl {

/// Materials of one model brought into another, with their pictures and settings. Pictures with equal bytes
/// are shared; one that is called as another of the model's but has other bytes gets a new name, and so does
/// a material. One that the model has already, to the last value, is shared.
class MaterialsInto {
public:
    /// Both must outlive it.
    MaterialsInto(Model& to, const Model& from);

    /// The index in `to` of a material of `from`; -1 for -1.
    int material(int of);
    /// What was told apart: "rim.png → rim-2.png".
    const std::vector<std::string>& renamed() const { return renamed_; }

private:
    int image(int of);

    Model& to_;
    const Model& from_;
    std::vector<int> materials_, images_; ///< by what they were; -1 for those not brought yet
    UniqueNames materialNames_, imageNames_;
    std::vector<std::string> renamed_;
};

} // namespace zl
