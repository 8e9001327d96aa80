#pragma once
#include "core/platform/check.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

/// A sheet in decimetres, Z up, whose figure is 1.8 m tall, with one rule.
inline zl::platform::Sheet sheetWith(const std::string& rule, const zl::platform::Vocabulary& words = {}) {
    TemporaryFolder folder;
    return zl::platform::readSheet(folder.write("quay.toml", R"(id = "quay"
name = "Quay"
kind = "a harbour"
about = "For tests."
[unit]
name = "dm"
metres = 0.1
[axes]
up = "Z"
front = "+X"
[figure]
height = 18
[[rule]]
label = "The rule"
message = "Because."
)" + rule),
                                   words);
}

/// What that rule says of a model.
inline zl::platform::RuleResult ruleResult(const zl::Model& model, const std::string& rule) {
    const auto report = zl::platform::check(model, sheetWith(rule));
    REQUIRE(report.rules.size() == 1);
    return report.rules[0];
}
