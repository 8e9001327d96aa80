#pragma once
#include <fmt/format.h>
#include <glm/glm.hpp>
#include <nlohmann/json.hpp>

#include <cstring>
#include <string>
#include <vector>

namespace zl::standins::world {

/// Why a GLB cannot be read.
struct BrokenGlb {
    std::string why;
};

/// A GLB (glTF 2.0) as stand-ins take it apart: its description, and numbers out of plain accessors. Throws
/// BrokenGlb for what is missing, cut off or out of range, also nlohmann::json::exception for a description
/// of another form.
class GlbData {
public:
    using Json = nlohmann::json;

    explicit GlbData(const std::string& bytes);

    /// A list of the description; empty where there is none.
    const Json& list(const char* key) const;
    /// What the description says by an extension; null where it says nothing.
    const Json& extension(const char* name) const;
    static std::size_t number(const Json& json, const char* key);

    /// Vectors of plain floats that an attribute names; empty where it names none.
    template <class T>
    std::vector<T> vectors(const Json& attributes, const char* key) const {
        std::vector<T> out;
        if (!attributes.contains(key)) return out;
        return floats<T>(number(attributes, key));
    }
    template <class T>
    std::vector<T> floats(std::size_t accessor) const {
        if (componentOf(accessor) != 5126) throw BrokenGlb{"plain floats only are read"};
        const View data = view(accessor, sizeof(T));
        std::vector<T> out(data.count);
        for (std::size_t i = 0; i < data.count; ++i)
            std::memcpy(&out[i], data.start + i * data.stride, sizeof(T));
        return out;
    }
    /// What a buffer view holds.
    std::string bytes(const Json& bufferView) const;
    /// How a material looks: its colour as screens show it, and the picture of it, which lies in the file or
    /// beside it.
    struct Look {
        std::string name;
        glm::vec3 colour{0.8f};
        bool hasPicture = false;
        std::string pictureBytes, pictureFile; ///< one of them
    };
    Look look(std::size_t material) const;
    /// Whole numbers of 1, 2 or 4 bytes, `width` of them an element, one after the other.
    std::vector<std::uint32_t> wholes(std::size_t accessor, std::size_t width) const;

private:
    /// Start, stride and count of an accessor whose elements are `size` bytes.
    struct View {
        const char* start;
        std::size_t stride, count;
    };
    View view(std::size_t index, std::size_t size) const;
    int componentOf(std::size_t accessor) const;

    const std::string& bytes_;
    Json root_;
    std::pair<std::size_t, std::size_t> binary_{0, 0};
};

} // namespace zl::standins::world
