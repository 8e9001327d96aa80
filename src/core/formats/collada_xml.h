#pragma once
#include <glm/glm.hpp>
#include <pugixml.hpp>

#include <initializer_list>
#include <span>
#include <string>
#include <vector>

/// The pieces of XML that every part of a COLLADA 1.4.1 document is made of.
namespace zl::formats::collada {

pugi::xml_node child(pugi::xml_node parent, const char* name, const std::string& text);
pugi::xml_node withId(pugi::xml_node parent, const char* name, const std::string& id);

/// Adds `<input semantic source offset set>`; a negative offset or set is left out.
void addInput(pugi::xml_node parent, const char* semantic, const std::string& source, int offset = -1,
              int set = -1);

/// Adds a `<source>` of numbers; each entry is as wide as there are `params`, or 16 numbers for matrices.
void addFloats(pugi::xml_node parent, const std::string& id, std::span<const float> values,
               std::initializer_list<const char*> params);
void addMatrices(pugi::xml_node parent, const std::string& id, std::span<const glm::dmat4> values,
                 const char* param);
/// Adds a `<source>` of words; `array` is "Name_array" or "IDREF_array", `type` "name" or "IDREF".
void addWords(pugi::xml_node parent, const std::string& id, std::span<const std::string> words,
              const char* array, const char* param, const char* type);

/// The values of vectors one after the other.
template <class Vector>
std::span<const float> numbersOf(const std::vector<Vector>& values) {
    return {reinterpret_cast<const float*>(values.data()), values.size() * Vector::length()};
}

/// Sixteen numbers, row by row, as COLLADA has them.
std::string matrixText(const glm::dmat4& matrix);

} // namespace zl::formats::collada
