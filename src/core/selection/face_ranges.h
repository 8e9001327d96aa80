#pragma once
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace zl::selection {

/// Rising numbers as text: "0-11 14 20-31". What project files hold thousands of faces as.
std::string rangesOf(const std::vector<std::uint32_t>& faces);

/// The other way round, rising and each once. Throws Error for what is no such text, or more than 100 million
/// faces.
std::vector<std::uint32_t> facesFrom(std::string_view ranges);

} // namespace zl::selection
