#pragma once
#include <glm/glm.hpp>
#include <nlohmann/json.hpp>

#include <optional>
#include <string>

/// What hands write into the rows of a step's lists, and read out of them. Rows that are not whole give
/// nothing or zero; none of these throws.
namespace zl::app {

double toTenthMillimetres(double metres); ///< as near as a hand drags; never minus zero
double toTenthDegrees(double degrees);
nlohmann::json placeIn(const glm::dvec3& metres); ///< to a tenth of a millimetre
glm::dvec3 vectorOf(const nlohmann::json& row, const char* name);

/// Which handle of which row an id such as "turn:3" is of.
struct RowHandle {
    std::string what;
    std::size_t row;
};
std::optional<RowHandle> rowHandle(const std::string& id, const nlohmann::json& rows);

} // namespace zl::app
