#pragma once
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace zl::avatar {

// The words of VRM 1.0 (VRMC_vrm-1.0, "humanoid" and "expressions").

/// What a bone of a human figure does.
struct Role {
    std::string name;  ///< "leftUpperArm"
    std::string above; ///< the nearest role that must stand above it; empty for the hips
    bool required = false;
};
std::span<const Role> allRoles();
/// Null when there is none of that name.
const Role* roleNamed(std::string_view name);

/// An expression that the standard knows, and what it is for.
struct StandardExpression {
    enum class For { Feeling, Talking, Blinking, Looking, Rest } use;
    std::string_view name;
};
std::span<const StandardExpression> standardExpressions();
const StandardExpression* standardExpressionNamed(std::string_view name);

/// The standard expression that a morph target's name means: "A", "Mouth_A" and "aa" are one, "blink.L" is
/// "blinkLeft"; case, separators and what stands before the last point are left aside. Nothing where the name
/// means none.
std::optional<std::string_view> expressionMeantBy(std::string_view morph);

} // namespace zl::avatar
