#include "core/steps/avatar_licence.h"

#include "core/avatar/licence.h"
#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/model/avatar.h"

namespace zl::steps {

Model AvatarLicence::apply(const Model& in, StepContext& context) const {
    if (!in.avatar) {
        context.note("it is no avatar yet");
        return in;
    }
    const Provenance known = context.around ? context.around->provenance() : Provenance{};
    Avatar own = *in.avatar;
    auto& licence = own.licence;
    auto names = patternsFrom(authors);
    if (names.empty()) names = known.authors;
    if (!names.empty()) licence["authors"] = names;
    // A set-up that was carried over says the other's name.
    if (!known.name.empty())
        licence["name"] = known.name;
    else if (!licence.contains("name") || licence["name"] == "")
        licence["name"] = in.name;
    if (!address.empty())
        licence["licenseUrl"] = address;
    else if (!licence.contains("licenseUrl"))
        licence["licenseUrl"] = avatar::standardLicence;
    if (wearer == Wearer::Project && !known.licence.empty() && !licence.contains("thirdPartyLicenses"))
        licence["thirdPartyLicenses"] = known.licence;
    // What is the maker's own or not allowed at all is for the author alone until somebody says otherwise.
    const Wearer who = wearer != Wearer::Project                    ? wearer
                       : known.allows == Provenance::Allows::Freely ? Wearer::Everyone
                       : known.allows == Provenance::Allows::Asked  ? Wearer::Asked
                                                                    : Wearer::Author;
    licence["avatarPermission"] = who == Wearer::Everyone ? "everyone"
                                  : who == Wearer::Asked  ? "onlySeparatelyLicensedPerson"
                                                          : "onlyAuthor";
    licence["commercialUsage"] = gain == Gain::Firm  ? "corporation"
                                 : gain == Gain::Own ? "personalProfit"
                                                     : "personalNonProfit";
    licence["creditNotation"] = credit ? "required" : "unnecessary";
    licence["allowRedistribution"] = passOn;
    licence["modification"] = change == Change::Passed ? "allowModificationRedistribution"
                              : change == Change::Yes  ? "allowModification"
                                                       : "prohibited";
    const auto missing = avatar::missingOfLicence(licence);
    context.facts = {{"licence", licence}, {"missing", missing}};
    if (names.empty() && licence.contains("authors"))
        for (const auto& one : licence["authors"]) names.push_back(one);
    if (!names.empty()) context.note("made by " + showNames(names));
    context.note(who == Wearer::Everyone ? "everyone may wear it"
                 : who == Wearer::Asked  ? "whoever was given leave may wear it"
                                         : "its author alone may wear it");
    if (!missing.empty())
        context.fellShort(names.empty() ? "nobody is named as its maker: name one here, or at Gather"
                                        : "does not say its " + showNames(missing));
    Model out = in;
    out.avatar = std::make_shared<const Avatar>(std::move(own));
    return out;
}

} // namespace zl::steps
