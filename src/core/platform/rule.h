#pragma once
#include "core/platform/measures.h"
#include "core/platform/sheet.h"

#include <limits>
#include <span>

namespace zl::platform {

enum class State { Fits, Tight, Broken };

/// One triangle of one node's mesh.
struct FaceRef {
    int node = -1;
    std::uint32_t triangle = 0;
};

/// What a rule found on one model.
struct Finding {
    bool holds = true;
    double value = 0;       ///< the measured value, for sorting and gauges, in the unit that is shown
    std::string measured;   ///< the value in words, with its unit
    std::string limit;      ///< the limit in words, e.g. "of 40 000"
    bool canBeTight = true; ///< false where being at the limit is the usual thing, as 1 of 1
    double share = 0; ///< measured / limit; above 1 is broken for "at most" rules; 0 where it makes no sense
    double low = std::numeric_limits<double>::quiet_NaN(); ///< for rules with a range
    double high = std::numeric_limits<double>::quiet_NaN();
    std::string note;       ///< what was found, one sentence
    std::vector<int> nodes; ///< to highlight
    std::vector<int> materials;
    std::vector<std::string> names; ///< of these nodes and materials, each once; filled in by check()
    std::vector<FaceRef> faces; ///< single faces to highlight, where not whole nodes or materials are meant
};

/// A limit of a kind of rule, as sheets call it, and in which unit it is ("px", "units" for the platform's).
struct LimitName {
    std::string_view name;
    bool required = true;
    std::string_view unit = {};
};

/// A kind of rule: one file in platform/rules, one line in all_rules.cpp.
struct RuleKind {
    std::string_view check;
    std::string_view name;               ///< for people: "Triangles"
    std::string_view holds;              ///< when it holds: "no picture in use is larger"
    std::vector<std::string_view> mends; ///< steps that usually make it hold, best first
    std::vector<LimitName> limits;
    Finding (*measure)(const Measures& measures, const Sheet& sheet, const RuleSpec& rule) = nullptr;
    std::vector<LimitName> texts{}; ///< limits that are words
    bool together = false; ///< several mends may have to come together, each bringing the value nearer
};

std::span<const RuleKind> allRuleKinds();
/// Null when there is none of that name.
const RuleKind* ruleKind(std::string_view check);

/// A finding of the "at most" sort: value against `most`, both counted in `noun`s.
Finding atMost(double value, double most, std::string_view singular, std::string_view plural);

/// The same for bytes that are estimated; the value is in megabytes.
Finding atMostBytes(double bytes, double most);

} // namespace zl::platform
