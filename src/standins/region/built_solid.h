#pragma once
#include <glm/glm.hpp>

#include <map>
#include <string>
#include <string_view>

namespace zl::standins::region {

/// A solid as the region has it: what it takes from the XML of one, in its own words and by its own reader.
struct BuiltSolid {
    int number = 0;
    int group = 0;
    std::string name, kind, physics, outline;
    glm::dvec3 at{0}, turn{0}, size{1};
    std::map<std::string, double> shape; ///< the other numbers that shape it
    std::map<int, std::string> pictures; ///< by face; −1 for all others
    std::map<int, glm::vec3> colours;
    bool isShaped = false; ///< hollow, with a gap or twisted, which takes more room
};

/// Reads `<solid …>` with its `<look>` and `<face>`s. Throws Error with what the region does not take.
BuiltSolid readSolid(std::string_view xml);

} // namespace zl::standins::region
