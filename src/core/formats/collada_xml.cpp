#include "core/formats/collada_xml.h"

#include "core/formats/write_buffer.h"

#include <fmt/format.h>

namespace zl::formats::collada {

namespace {

/// A `<source>` with its array and the accessor that says how to read it.
void addSource(pugi::xml_node parent, const std::string& id, const char* array, const std::string& text,
               std::size_t count, std::size_t stride, std::initializer_list<const char*> params,
               const char* type) {
    auto source = withId(parent, "source", id);
    auto values = withId(source, array, id + "-array");
    values.append_attribute("count") = static_cast<unsigned long long>(count * stride);
    values.text().set(text.c_str());
    auto accessor = source.append_child("technique_common").append_child("accessor");
    accessor.append_attribute("source") = ("#" + id + "-array").c_str();
    accessor.append_attribute("count") = static_cast<unsigned long long>(count);
    accessor.append_attribute("stride") = static_cast<unsigned long long>(stride);
    for (const char* name : params) {
        auto param = accessor.append_child("param");
        param.append_attribute("name") = name;
        param.append_attribute("type") = type;
    }
}

} // namespace

pugi::xml_node child(pugi::xml_node parent, const char* name, const std::string& text) {
    auto made = parent.append_child(name);
    made.text().set(text.c_str());
    return made;
}

pugi::xml_node withId(pugi::xml_node parent, const char* name, const std::string& id) {
    auto made = parent.append_child(name);
    made.append_attribute("id") = id.c_str();
    return made;
}

void addInput(pugi::xml_node parent, const char* semantic, const std::string& source, int offset, int set) {
    auto made = parent.append_child("input");
    made.append_attribute("semantic") = semantic;
    made.append_attribute("source") = ("#" + source).c_str();
    if (offset >= 0) made.append_attribute("offset") = offset;
    if (set >= 0) made.append_attribute("set") = set;
}

void addFloats(pugi::xml_node parent, const std::string& id, std::span<const float> values,
               std::initializer_list<const char*> params) {
    WriteBuffer text;
    text.reserve(values.size() * 10);
    for (const float value : values) text.number(value).text(" ");
    addSource(parent, id, "float_array", text.take(), values.size() / params.size(), params.size(), params,
              "float");
}

void addMatrices(pugi::xml_node parent, const std::string& id, std::span<const glm::dmat4> values,
                 const char* param) {
    std::string text;
    for (const glm::dmat4& matrix : values) text += matrixText(matrix);
    addSource(parent, id, "float_array", text, values.size(), 16, {param}, "float4x4");
}

void addWords(pugi::xml_node parent, const std::string& id, std::span<const std::string> words,
              const char* array, const char* param, const char* type) {
    std::string text;
    for (const std::string& word : words) text += word + " ";
    addSource(parent, id, array, text, words.size(), 1, {param}, type);
}

std::string matrixText(const glm::dmat4& matrix) {
    std::string text;
    for (int r = 0; r < 4; ++r)
        for (int c = 0; c < 4; ++c) text += fmt::format("{} ", matrix[c][r]);
    return text;
}

} // namespace zl::formats::collada
