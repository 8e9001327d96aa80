#pragma once
#include <nlohmann/json.hpp>

#include <string>
#include <vector>

namespace zl::avatar {

/// Where the standard's own licence for avatars is to be read.
inline constexpr const char* standardLicence = "https://vrm.dev/licenses/1.0/";

/// What the standard demands of `meta` and is not there or not a word of its own: "name", "authors",
/// "licenseUrl", or a permission with what it says. Empty when all is in order.
std::vector<std::string> missingOfLicence(const nlohmann::json& meta);

/// `meta` with values of types and words that the standard knows, and nothing else; what goes is said.
nlohmann::json soundLicence(const nlohmann::json& meta, std::vector<std::string>* dropped = nullptr);

} // namespace zl::avatar
