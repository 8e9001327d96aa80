#pragma once
#include <nlohmann/json.hpp>

#include <cstdint>
#include <cstring>
#include <string>

/// A GLB's description and its binary part, taken apart and put together again to be tampered with.
struct GlbParts {
    nlohmann::json json;
    std::string binary;

    explicit GlbParts(const std::string& bytes) {
        std::uint32_t length = 0;
        std::memcpy(&length, bytes.data() + 12, 4);
        json = nlohmann::json::parse(bytes.substr(20, length));
        if (bytes.size() > 28 + length) binary = bytes.substr(28 + length);
    }

    std::string bytes() const {
        std::string text = json.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
        return glb(text);
    }
    /// The same with a description that may be no JSON.
    std::string glb(std::string text) const {
        text.resize((text.size() + 3) / 4 * 4, ' ');
        std::string out = "glTF";
        const auto word = [&](std::size_t value) {
            const auto number = std::uint32_t(value);
            out.append(reinterpret_cast<const char*>(&number), 4);
        };
        word(2), word(12 + 8 + text.size() + (binary.empty() ? 0 : 8 + binary.size()));
        word(text.size()), out += "JSON" + text;
        if (!binary.empty()) word(binary.size()), out.append("BIN\0", 4), out += binary;
        return out;
    }
};
