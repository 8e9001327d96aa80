#pragma once
#include <map>
#include <string>

namespace zl::standins::circuit {

/// The settings of materials by name, out of the TOML file beside the car. What is no number is left out;
/// `problem`, when given, receives why it cannot be read.
std::map<std::string, std::map<std::string, float>> readCarSettings(const std::string& text,
                                                                    std::string& problem);

} // namespace zl::standins::circuit
