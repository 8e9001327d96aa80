#include "core/avatar/roles.h"

#include "core/base/letters.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <map>
#include <vector>

namespace zl::avatar {

namespace {

/// Roles of both sides: "UpperArm" is "leftUpperArm" and "rightUpperArm".
struct Sided {
    std::string_view name, above; ///< above "." is the middle's
    bool required = false;
};

std::vector<Role> made() {
    std::vector<Role> out{{"hips", "", true},      {"spine", "hips", true}, {"chest", "spine"},
                          {"upperChest", "chest"}, {"neck", "spine"},       {"head", "spine", true},
                          {"leftEye", "head"},     {"rightEye", "head"},    {"jaw", "head"}};
    static constexpr std::array sided{Sided{"UpperLeg", "hips", true},
                                      Sided{"LowerLeg", "UpperLeg", true},
                                      Sided{"Foot", "LowerLeg", true},
                                      Sided{"Toes", "Foot"},
                                      Sided{"Shoulder", "spine"},
                                      Sided{"UpperArm", "spine", true},
                                      Sided{"LowerArm", "UpperArm", true},
                                      Sided{"Hand", "LowerArm", true},
                                      Sided{"ThumbMetacarpal", "Hand"},
                                      Sided{"ThumbProximal", "ThumbMetacarpal"},
                                      Sided{"ThumbDistal", "ThumbProximal"},
                                      Sided{"IndexProximal", "Hand"},
                                      Sided{"IndexIntermediate", "IndexProximal"},
                                      Sided{"IndexDistal", "IndexIntermediate"},
                                      Sided{"MiddleProximal", "Hand"},
                                      Sided{"MiddleIntermediate", "MiddleProximal"},
                                      Sided{"MiddleDistal", "MiddleIntermediate"},
                                      Sided{"RingProximal", "Hand"},
                                      Sided{"RingIntermediate", "RingProximal"},
                                      Sided{"RingDistal", "RingIntermediate"},
                                      Sided{"LittleProximal", "Hand"},
                                      Sided{"LittleIntermediate", "LittleProximal"},
                                      Sided{"LittleDistal", "LittleIntermediate"}};
    for (const char* side : {"left", "right"})
        for (const Sided& role : sided)
            out.push_back({side + std::string(role.name),
                           (std::islower(static_cast<unsigned char>(role.above[0])) ? "" : side) +
                               std::string(role.above),
                           role.required});
    return out;
}

} // namespace

std::span<const Role> allRoles() {
    static const std::vector<Role> roles = made();
    return roles;
}

const Role* roleNamed(std::string_view name) {
    const auto found = std::ranges::find(allRoles(), name, &Role::name);
    return found == allRoles().end() ? nullptr : &*found;
}

std::span<const StandardExpression> standardExpressions() {
    using enum StandardExpression::For;
    static constexpr std::array<StandardExpression, 18> all{{{Feeling, "happy"},
                                                             {Feeling, "angry"},
                                                             {Feeling, "sad"},
                                                             {Feeling, "relaxed"},
                                                             {Feeling, "surprised"},
                                                             {Talking, "aa"},
                                                             {Talking, "ih"},
                                                             {Talking, "ou"},
                                                             {Talking, "ee"},
                                                             {Talking, "oh"},
                                                             {Blinking, "blink"},
                                                             {Blinking, "blinkLeft"},
                                                             {Blinking, "blinkRight"},
                                                             {Looking, "lookUp"},
                                                             {Looking, "lookDown"},
                                                             {Looking, "lookLeft"},
                                                             {Looking, "lookRight"},
                                                             {Rest, "neutral"}}};
    return all;
}

const StandardExpression* standardExpressionNamed(std::string_view name) {
    const auto found = std::ranges::find(standardExpressions(), name, &StandardExpression::name);
    return found == standardExpressions().end() ? nullptr : &*found;
}

std::optional<std::string_view> expressionMeantBy(std::string_view morph) {
    std::string plain;
    for (const char letter : morph)
        if (std::isalnum(static_cast<unsigned char>(letter)))
            plain += char(std::tolower(static_cast<unsigned char>(letter)));
    // What programs put before the name of what moves.
    for (const std::string_view before :
         {"face", "mouth", "vowel", "viseme", "expression", "exp", "eyes", "eye"})
        if (plain.size() > before.size() && plain.starts_with(before)) {
            plain.erase(0, before.size());
            break;
        }
    static const std::map<std::string_view, std::string_view> meant{{"a", "aa"},
                                                                    {"ah", "aa"},
                                                                    {"i", "ih"},
                                                                    {"u", "ou"},
                                                                    {"e", "ee"},
                                                                    {"eh", "ee"},
                                                                    {"o", "oh"},
                                                                    {"joy", "happy"},
                                                                    {"smile", "happy"},
                                                                    {"anger", "angry"},
                                                                    {"sorrow", "sad"},
                                                                    {"sadness", "sad"},
                                                                    {"fun", "relaxed"},
                                                                    {"calm", "relaxed"},
                                                                    {"surprise", "surprised"},
                                                                    {"wide", "surprised"},
                                                                    {"closed", "blink"},
                                                                    {"close", "blink"},
                                                                    {"shut", "blink"},
                                                                    {"blinkl", "blinkLeft"},
                                                                    {"blinkr", "blinkRight"},
                                                                    {"leftblink", "blinkLeft"},
                                                                    {"rightblink", "blinkRight"},
                                                                    {"winkleft", "blinkLeft"},
                                                                    {"winkright", "blinkRight"},
                                                                    {"closeleft", "blinkLeft"},
                                                                    {"closeright", "blinkRight"},
                                                                    {"up", "lookUp"},
                                                                    {"down", "lookDown"}};
    if (const auto found = meant.find(plain); found != meant.end()) return found->second;
    for (const StandardExpression& e : standardExpressions()) {
        std::string own;
        for (const char letter : e.name) own += char(std::tolower(static_cast<unsigned char>(letter)));
        if (own == plain) return e.name;
    }
    return std::nullopt;
}

} // namespace zl::avatar
