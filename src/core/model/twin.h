#pragma once
#include "core/model/model.h"

namespace zl {

/// One model in several sizes that must stay alike corner for corner, so that a game can blend between them.
struct Sizes {
    struct Twin {
        std::string size; ///< "broad"
        Model model;
    };
    std::string
        first; ///< what the size is called that the others are held against; empty where there are none
    std::vector<Twin> others;
};

} // namespace zl
