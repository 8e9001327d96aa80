#pragma once
#include "core/learn/file_facts.h"

namespace zl::learn {

/// What the channels of pictures that are called alike seem to hold, as sheets write it ("normal.red",
/// "1 - normal.green", "roughness", "0.5"); alpha is empty where they have none.
struct Packing {
    std::array<std::string, 4> channels;
    std::vector<std::string> reasons; ///< "alpha goes with the slopes, as height does"
    bool isSure = false;              ///< every channel behaves clearly, or is called so
};

/// `name` is what they are called but for the piece's or the material's name ("-n", "_orm"), for what its
/// ending says. Throws nothing; a picture that says nothing is its constants.
Packing packingOf(const std::vector<const PictureFacts*>& pictures, std::string_view name);

} // namespace zl::learn
