#include "app/hands/row_values.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace zl::app {

double toTenthMillimetres(double metres) {
    return std::round(metres * 1e4) / 1e4 + 0.0;
}

double toTenthDegrees(double degrees) {
    return std::round(degrees * 10) / 10 + 0.0;
}

nlohmann::json placeIn(const glm::dvec3& metres) {
    return {toTenthMillimetres(metres.x), toTenthMillimetres(metres.y), toTenthMillimetres(metres.z)};
}

glm::dvec3 vectorOf(const nlohmann::json& row, const char* name) {
    const auto value = row.find(name);
    if (value == row.end() || !value->is_array() || value->size() != 3 ||
        !std::ranges::all_of(*value, [](const auto& part) { return part.is_number(); }))
        return glm::dvec3(0);
    return {(*value)[0].get<double>(), (*value)[1].get<double>(), (*value)[2].get<double>()};
}

std::optional<RowHandle> rowHandle(const std::string& id, const nlohmann::json& rows) {
    const auto colon = id.find(':');
    if (colon == std::string::npos) return std::nullopt;
    std::size_t row = rows.size();
    std::from_chars(id.data() + colon + 1, id.data() + id.size(), row);
    if (row >= rows.size()) return std::nullopt;
    return RowHandle{id.substr(0, colon), row};
}

} // namespace zl::app
