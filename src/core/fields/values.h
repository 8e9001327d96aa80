#pragma once
#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace zl::fields {

/// Which parts of a model are meant: patterns of names (base/pattern.h), none for all.
struct PartNames {
    std::vector<std::string> patterns;

    bool operator==(const PartNames&) const = default;
};

/// sRGB, 8 bits each, as people type it: "#e59a12".
struct Colour {
    std::array<std::uint8_t, 3> rgb{255, 255, 255};

    bool operator==(const Colour&) const = default;
};

/// Another model that a step takes in: a piece of the project as it comes out on the same platform, a
/// yardstick (an empty name is the first), or a file, its path relative to the project's folder.
struct ModelRef {
    enum class Kind { Piece, Yardstick, File } kind = Kind::Piece;
    std::string name;

    bool operator==(const ModelRef&) const = default;
};

/// A picture: one of the model's by its name, or a file.
struct PictureRef {
    enum class Kind { Picture, File } kind = Kind::Picture;
    std::string name;

    bool operator==(const PictureRef&) const = default;
};

/// Something of a model by what it is called there, so that it is found again after the model was read anew.
template <class Of>
struct NameRef {
    std::string name;

    bool operator==(const NameRef&) const = default;
};
using NodeRef = NameRef<struct OfNode>; ///< a node by its path (model/node_path.h)
using BoneRef = NameRef<struct OfBone>; ///< a joint by its name
using ClipRef = NameRef<struct OfClip>;

} // namespace zl::fields
