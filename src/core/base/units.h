#pragma once
#include <span>
#include <string>
#include <string_view>

namespace zl {

/// A unit of length: `id` as people type it ("mm"), `name` as it is shown, `metres` in one of it.
struct Unit {
    std::string id;
    std::string name;
    double metres = 1.0;
};

/// Which axis of a file points up.
enum class Up { Y, Z };

/// The units that files come in, in the order in which they are offered.
std::span<const Unit> knownUnits();
/// The unit called `idOrName` ("mm", "millimetres", "in"); throws Error listing those that exist.
const Unit& unitNamed(std::string_view idOrName);
/// The known unit nearest to `metres` within 0.1 %, else one named after the number ("0.1 m").
Unit unitOfMetres(double metres);

/// "y"/"z" in any case; throws Error otherwise.
Up upNamed(std::string_view name);
std::string_view upName(Up up);

/// A number for people: at most `decimals` places, no trailing zeros, thin spaces between thousands.
std::string showNumber(double value, int decimals = 2);
/// Whether numbers are shown with thin spaces between thousands (they are, unless the user turned it off).
void setThousandsGap(bool gap);
/// A number at a sensible precision for its size (three to four significant figures).
std::string showMeasure(double value);
/// "4.1 MB" (1 MB = 1 000 000 bytes).
std::string showBytes(double bytes);
/// "1.2 s", "3 min".
std::string showSeconds(double seconds);
/// "1 object", "3 objects".
std::string showCount(long long count, std::string_view singular, std::string_view plural);

} // namespace zl
