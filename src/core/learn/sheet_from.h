#pragma once
#include "core/learn/evidence.h"

namespace zl::learn {

/// What a learnt sheet is called.
struct SheetName {
    std::string id, name, kind, about;
};

/// A sheet, in TOML, out of the properties that `taken` names, with the evidence for each in words. Files are
/// delivered as the examples lie. What a sheet must have and no property says is as most games have it.
std::string sheetFrom(const Evidence& evidence, const SheetName& name, const std::set<std::string>& taken);

/// The ids of properties whose offer is sure.
std::set<std::string> sureOffers(const Evidence& evidence);

/// One rule as a section of a sheet.
std::string ruleSection(const platform::RuleSpec& rule);

} // namespace zl::learn
