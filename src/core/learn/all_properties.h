#pragma once
#include "core/learn/evidence.h"

#include <span>

namespace zl::learn {

/// What several kinds of properties work with.
struct Basis {
    const Evidence& evidence;
    double metresPerUnit = 1; ///< found by the frame's properties, which come first
    int up = 1, front = 2;    ///< axes: 0 to 2
    bool frontIsNegative = false;
    bool unitIsKnown = false;

    /// Whether most pieces are a file for each of their objects.
    bool isByObjects() const;
    /// Whether files are written that keep nodes, and what these carry.
    bool keepsNodes() const;
};

/// A kind of property: one file in learn/properties, one line in all_properties.cpp. Adds what the examples
/// say of it; nothing where they say nothing.
using PropertyKind = void (*)(Basis& basis, std::vector<Property>& out);
std::span<const PropertyKind> allPropertyKinds();

void learnFrame(Basis& basis, std::vector<Property>& out);
void learnPlacing(Basis& basis, std::vector<Property>& out);
void learnCounts(Basis& basis, std::vector<Property>& out);
void learnPictures(Basis& basis, std::vector<Property>& out);
void learnPacking(Basis& basis, std::vector<Property>& out);
void learnNames(Basis& basis, std::vector<Property>& out);
void learnMotion(Basis& basis, std::vector<Property>& out);
void learnFiles(Basis& basis, std::vector<Property>& out);
void learnTexts(Basis& basis, std::vector<Property>& out);

/// "12 of 12 files": how many of those that say something.
std::string shareWords(std::size_t count, std::size_t all, std::string_view one, std::string_view many);

/// The steps that usually mend a kind of rule.
std::vector<std::string> usualMends(std::string_view check);

/// A rule of a kind with its usual words: name, mends, and why.
platform::RuleSpec usualRule(std::string_view check, platform::Severity severity, std::string message);

} // namespace zl::learn
