// The fields of `meta` of VRMC_vrm 1.0 (its JSON schema).
#include "core/avatar/licence.h"

#include "core/base/utf8.h"

#include <algorithm>
#include <array>
#include <string_view>

namespace zl::avatar {

namespace {

using Json = nlohmann::json;

struct Known {
    std::string_view name;
    enum class Is { Text, Texts, Flag, Word } is = Is::Text;
    std::array<std::string_view, 4> words{};
};

constexpr std::array<Known, 17> known{
    {{"name"},
     {"version"},
     {"authors", Known::Is::Texts},
     {"copyrightInformation"},
     {"contactInformation"},
     {"references", Known::Is::Texts},
     {"thirdPartyLicenses"},
     {"licenseUrl"},
     {"avatarPermission", Known::Is::Word, {"onlyAuthor", "onlySeparatelyLicensedPerson", "everyone"}},
     {"allowExcessivelyViolentUsage", Known::Is::Flag},
     {"allowExcessivelySexualUsage", Known::Is::Flag},
     {"commercialUsage", Known::Is::Word, {"personalNonProfit", "personalProfit", "corporation"}},
     {"allowPoliticalOrReligiousUsage", Known::Is::Flag},
     {"allowAntisocialOrHateUsage", Known::Is::Flag},
     {"creditNotation", Known::Is::Word, {"required", "unnecessary"}},
     {"allowRedistribution", Known::Is::Flag},
     {"modification",
      Known::Is::Word,
      {"prohibited", "allowModification", "allowModificationRedistribution"}}}};

bool isText(const Json& value) {
    return value.is_string() && isUtf8(value.get_ref<const std::string&>());
}

bool isSound(const Known& field, const Json& value) {
    switch (field.is) {
    case Known::Is::Flag:
        return value.is_boolean();
    case Known::Is::Texts:
        return value.is_array() && std::ranges::all_of(value, isText);
    case Known::Is::Word:
        return isText(value) &&
               std::ranges::find(field.words, value.get<std::string>()) != field.words.end() &&
               !value.get<std::string>().empty();
    case Known::Is::Text:
        break;
    }
    return isText(value);
}

bool isFilled(const Json& meta, const char* key) {
    const auto found = meta.find(key);
    if (found == meta.end()) return false;
    if (found->is_array())
        return std::ranges::any_of(*found, [](const Json& one) { return one.is_string() && one != ""; });
    return found->is_string() && *found != "";
}

} // namespace

std::vector<std::string> missingOfLicence(const Json& meta) {
    std::vector<std::string> out;
    for (const char* key : {"name", "authors", "licenseUrl"})
        if (!meta.is_object() || !isFilled(meta, key)) out.emplace_back(key);
    return out;
}

Json soundLicence(const Json& meta, std::vector<std::string>* dropped) {
    Json out = Json::object();
    if (!meta.is_object()) return out;
    for (const auto& [key, value] : meta.items()) {
        if (key == "thumbnailImage") continue;
        const auto field = std::ranges::find(known, std::string_view(key), &Known::name);
        if (key == "otherLicenseUrl" ? isText(value) : field != known.end() && isSound(*field, value))
            out[key] = value;
        else if (dropped)
            dropped->push_back("licence: " + key);
    }
    return out;
}

} // namespace zl::avatar
