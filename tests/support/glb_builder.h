#pragma once
#include <nlohmann/json.hpp>

#include <cstring>
#include <string>
#include <vector>

/// Puts a GLB together from its JSON and data, with no code of the product's, so that tests can say exactly
/// what is in it, right or wrong.
class GlbBuilder {
public:
    nlohmann::json json{{"asset", {{"version", "2.0"}}}, {"scene", 0}, {"scenes", {{{"nodes", {0}}}}}};

    /// Adds data as a buffer view of its own; returns its number.
    template <class T>
    int view(const std::vector<T>& values, std::size_t stride = 0) {
        while (data_.size() % 4) data_ += '\0';
        nlohmann::json view{
            {"buffer", 0}, {"byteOffset", data_.size()}, {"byteLength", values.size() * sizeof(T)}};
        if (stride) view["byteStride"] = stride;
        const auto at = data_.size();
        data_.resize(at + values.size() * sizeof(T));
        std::memcpy(data_.data() + at, values.data(), values.size() * sizeof(T));
        json["bufferViews"].push_back(view);
        return int(json["bufferViews"].size()) - 1;
    }
    int accessor(const nlohmann::json& accessor) {
        json["accessors"].push_back(accessor);
        return int(json["accessors"].size()) - 1;
    }
    /// Tightly packed values as an accessor.
    template <class T>
    int values(const std::vector<T>& values, int componentType, std::size_t count, const char* type) {
        return accessor({{"bufferView", view(values)},
                         {"componentType", componentType},
                         {"count", count},
                         {"type", type}});
    }
    int floats(const std::vector<float>& numbers, std::size_t count, const char* type) {
        return values(numbers, 5126, count, type);
    }

    /// One right triangle in the plane z = 0 as mesh 0 on node 0.
    void triangle() {
        const int positions = floats({0, 0, 0, 1, 0, 0, 0, 1, 0}, 3, "VEC3");
        json["accessors"][positions]["min"] = {0, 0, 0};
        json["accessors"][positions]["max"] = {1, 1, 0};
        json["meshes"].push_back({{"primitives", {{{"attributes", {{"POSITION", positions}}}}}}});
        json["nodes"].push_back({{"name", "plate"}, {"mesh", 0}});
    }
    nlohmann::json& primitive() { return json["meshes"][0]["primitives"][0]; }

    std::string bytes() const {
        nlohmann::json whole = json;
        std::string data = data_;
        while (data.size() % 4) data += '\0';
        if (!data.empty()) whole["buffers"] = {{{"byteLength", data.size()}}};
        std::string text = whole.dump();
        while (text.size() % 4) text += ' ';
        std::string out = "glTF";
        const auto number = [&](std::size_t n) {
            const auto value = static_cast<std::uint32_t>(n);
            out.append(reinterpret_cast<const char*>(&value), 4);
        };
        number(2), number(12 + 8 + text.size() + (data.empty() ? 0 : 8 + data.size()));
        number(text.size()), out += "JSON" + text;
        if (!data.empty()) number(data.size()), out += std::string("BIN\0", 4) + data;
        return out;
    }

private:
    std::string data_;
};

/// For data within an address.
inline std::string base64(const std::string& bytes) {
    static const char letters[] = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string out;
    for (std::size_t i = 0; i < bytes.size(); i += 3) {
        unsigned three = 0;
        for (std::size_t k = 0; k < 3; ++k)
            three = three << 8 | (i + k < bytes.size() ? static_cast<unsigned char>(bytes[i + k]) : 0);
        for (int k = 0; k < 4; ++k) out += i + k > bytes.size() ? '=' : letters[three >> (18 - 6 * k) & 63];
    }
    return out;
}
