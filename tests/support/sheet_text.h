#pragma once
#include "core/deliver/deliver.h"
#include "support/temporary_folder.h"

/// A sheet in centimetres, Z up, with what `sections` add to it; `root` stands above the first section.
inline std::string sheetText(const std::string& sections, const std::string& root = {}) {
    return R"(id = "weir"
name = "Weir"
kind = "a garden"
)" + root + R"([unit]
name = "cm"
metres = 0.01
[axes]
up = "Z"
front = "+X"
[figure]
height = 170
)" + sections +
           R"(
[[rule]]
id = "triangles"
label = "Triangles"
most = 9000
message = "Because."
)";
}

inline zl::platform::Sheet readSheetText(const std::string& text) {
    const TemporaryFolder folder;
    return zl::platform::readSheet(folder.write("weir.toml", text), zl::deliver::sheetWords({"files"}));
}
