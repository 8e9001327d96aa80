#include "core/base/units.h"
#include "core/base/words.h"

#include "core/base/error.h"
#include "core/base/letters.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>

namespace zl {

namespace {

const std::array<Unit, 6> units{{{"mm", "millimetres", 0.001},
                                 {"cm", "centimetres", 0.01},
                                 {"dm", "decimetres", 0.1},
                                 {"m", "metres", 1.0},
                                 {"in", "inches", 0.0254},
                                 {"ft", "feet", 0.3048}}};

std::atomic<bool> thousandsGap{true};

} // namespace

std::span<const Unit> knownUnits() {
    return units;
}

const Unit& unitNamed(std::string_view idOrName) {
    const std::string wanted = lowerCase(idOrName);
    for (const Unit& unit : units)
        if (wanted == unit.id || wanted == unit.name) return unit;
    throw Error(fmt::format("there is no unit \"{}\"", idOrName), {},
                "Use one of " + inARow(units, &Unit::id) + ".");
}

Unit unitOfMetres(double metres) {
    for (const Unit& unit : units)
        if (std::abs(unit.metres - metres) <= 0.001 * metres) return unit;
    return {showMeasure(metres) + "m", fmt::format("units of {} m", showMeasure(metres)), metres};
}

Up upNamed(std::string_view name) {
    const std::string wanted = lowerCase(name);
    if (wanted == "y") return Up::Y;
    if (wanted == "z") return Up::Z;
    throw Error(fmt::format("\"{}\" is not an up axis", name), {}, "Use y or z.");
}

std::string_view upName(Up up) {
    return up == Up::Y ? "Y" : "Z";
}

void setThousandsGap(bool gap) {
    thousandsGap = gap;
}

std::string showNumber(double value, int decimals) {
    if (!std::isfinite(value)) return "not a number";
    std::string text = fmt::format("{:.{}f}", value, decimals);
    if (text.find('.') != std::string::npos) {
        while (text.back() == '0') text.pop_back();
        if (text.back() == '.') text.pop_back();
    }
    if (text == "-0") text = "0";
    const std::size_t start = text[0] == '-' ? 1 : 0;
    std::size_t end = text.find('.');
    if (end == std::string::npos) end = text.size();
    if (thousandsGap && end - start > 4) // four digits read well without a gap
        for (std::size_t at = end - 3; at > start && at < end; at -= 3) {
            text.insert(at, "\u202f");
            if (at < start + 4) break;
        }
    return text;
}

std::string showMeasure(double value) {
    const double size = std::abs(value);
    const int decimals = size >= 1000    ? 0
                         : size >= 100   ? 1
                         : size >= 10    ? 2
                         : size >= 0.1   ? 3
                         : size >= 0.001 ? 5
                                         : 7;
    return showNumber(value, decimals);
}

std::string showBytes(double bytes) {
    if (bytes < 1000) return fmt::format("{:.0f} bytes", bytes);
    if (bytes < 1e6) return fmt::format("{} kB", showNumber(bytes / 1e3, 1));
    if (bytes < 1e9) return fmt::format("{} MB", showNumber(bytes / 1e6, 1));
    return fmt::format("{} GB", showNumber(bytes / 1e9, 2));
}

std::string showSeconds(double seconds) {
    if (seconds < 0.1) return fmt::format("{:.0f} ms", seconds * 1000);
    if (seconds < 90) return fmt::format("{:.1f} s", seconds);
    return fmt::format("{:.0f} min", seconds / 60);
}

std::string showCount(long long count, std::string_view singular, std::string_view plural) {
    return fmt::format("{} {}", showNumber(static_cast<double>(count), 0), count == 1 ? singular : plural);
}

} // namespace zl
