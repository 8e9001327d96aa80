// One size out of the text mesh of docs/formats/outfit.md, by the wardrobe's own reader.
#include "standins/wardrobe/outfit_file.h"

#include <fmt/format.h>

#include <charconv>
#include <cmath>

namespace zl::standins::wardrobe {

namespace {

struct BrokenText {
    std::string why;
};

constexpr std::size_t mostLines = 4'000'000;

/// The words of a line, one after the other.
class Words {
public:
    explicit Words(std::string_view line) : rest_(line) { skip(); }

    bool done() const { return rest_.empty(); }
    std::string_view word() {
        const std::size_t end = std::min(rest_.find(' '), rest_.size());
        const auto out = rest_.substr(0, end);
        rest_.remove_prefix(end);
        skip();
        return out;
    }
    std::string name() {
        if (!rest_.starts_with('"')) throw BrokenText{"a name stands without quotation marks"};
        std::string out;
        std::size_t at = 1;
        for (; at < rest_.size() && rest_[at] != '"'; ++at) {
            if (rest_[at] == '\\') ++at;
            if (at < rest_.size()) out += rest_[at];
        }
        if (at >= rest_.size()) throw BrokenText{"a name has no end"};
        rest_.remove_prefix(at + 1);
        skip();
        return out;
    }
    bool isName() const { return rest_.starts_with('"'); }
    template <class T>
    T number() {
        const auto text = word();
        T value{};
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
        if (error != std::errc() || end != text.data() + text.size())
            throw BrokenText{fmt::format("\"{}\" is no number", text.substr(0, 40))};
        if constexpr (std::is_floating_point_v<T>)
            if (!std::isfinite(value)) throw BrokenText{"a number is none"};
        return value;
    }
    glm::vec3 vector() {
        const float x = number<float>(), y = number<float>(), z = number<float>();
        return {x, z, -y}; // Z up, facing -Y, as the shown world has it
    }

private:
    void skip() { rest_.remove_prefix(std::min(rest_.find_first_not_of(' '), rest_.size())); }
    std::string_view rest_;
};

class TextOutfit {
public:
    OutfitFile read(std::string_view text) {
        std::size_t line = 0;
        while (!text.empty()) {
            if (++line > mostLines) throw BrokenText{"it is too long"};
            const std::size_t end = std::min(text.find('\n'), text.size());
            try {
                take(text.substr(0, end), line);
            } catch (const BrokenText& broken) {
                throw BrokenText{fmt::format("line {}: {}", line, broken.why)};
            }
            text.remove_prefix(std::min(end + 1, text.size()));
        }
        if (line == 0) throw BrokenText{"it is empty"};
        return std::move(out_);
    }

private:
    OutfitObject& object() {
        if (out_.objects.empty()) throw BrokenText{"it stands before the first object"};
        return out_.objects.back();
    }
    void take(std::string_view text, std::size_t line) {
        Words words(text);
        if (words.done()) return;
        const auto kind = words.word();
        if (line == 1) {
            if (kind != "outfit" || words.word() != "1") throw BrokenText{"it is no outfit of version 1"};
        } else if (kind == "bone") {
            Bone bone{words.name()};
            bone.above = words.number<int>();
            bone.place = words.vector();
            if (bone.above >= int(out_.bones.size()) || bone.above < -1)
                throw BrokenText{"a bone hangs on one that is not there yet"};
            out_.bones.push_back(std::move(bone));
        } else if (kind == "object") {
            out_.objects.emplace_back().name = words.name();
        } else if (kind == "material") {
            object().material = words.name();
            ++object().materials;
            for (int k = 0; k < 3; ++k) object().colour[k] = std::sqrt(std::max(0.0f, words.number<float>()));
        } else if (kind == "set") {
            const std::string name = words.name();
            if (!words.isName()) object().settings[name] = words.number<float>();
        } else if (kind == "v") {
            corner(words);
        } else if (kind == "t") {
            for (int k = 0; k < 3; ++k) {
                const auto index = words.number<std::uint32_t>();
                if (index >= object().shape.positions.size())
                    throw BrokenText{"a triangle is on a corner that is not there"};
                object().shape.indices.push_back(index);
            }
        } else {
            throw BrokenText{fmt::format("\"{}\" is no kind of line", kind.substr(0, 40))};
        }
    }
    void corner(Words& words) {
        OutfitObject& to = object();
        to.shape.positions.push_back(words.vector());
        to.shape.normals.push_back(words.vector());
        const float u = words.number<float>(), v = words.number<float>();
        to.shape.uvs.emplace_back(u, v);
        Hold hold;
        std::size_t count = 0;
        for (; !words.done(); ++count) {
            const int bone = words.number<int>();
            const float weight = words.number<float>();
            if (bone < 0 || bone >= int(out_.bones.size()))
                throw BrokenText{"a corner hangs on a bone that is not there"};
            if (count < 4) hold.bone[count] = bone, hold.weight[count] = weight;
        }
        to.mostWeights = std::max(to.mostWeights, count);
        to.holds.push_back(hold);
    }

    OutfitFile out_;
};

} // namespace

OutfitFile readTextOutfit(const std::string& text) {
    OutfitFile failed;
    try {
        return TextOutfit().read(text);
    } catch (const BrokenText& broken) {
        failed.problem = broken.why;
    }
    return failed;
}

} // namespace zl::standins::wardrobe
