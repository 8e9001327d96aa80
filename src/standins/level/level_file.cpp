// The level compiler's own reader of docs/formats/level-text.md.
#include "standins/level/level_file.h"

#include "core/base/plain_number.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <sstream>

namespace zl::standins::level {

namespace {

/// Words of a line; a quoted one keeps its blanks and loses its quotes.
bool wordsOf(const std::string& line, std::vector<std::string>& words) {
    words.clear();
    for (std::size_t i = 0; i < line.size();) {
        if (std::isspace(static_cast<unsigned char>(line[i]))) {
            ++i;
            continue;
        }
        std::string word;
        if (line[i] == '"') {
            for (++i; i < line.size() && line[i] != '"'; ++i) {
                if (line[i] == '\\' && i + 1 < line.size()) ++i;
                word += line[i];
            }
            if (i == line.size()) return false;
            ++i;
        } else {
            while (i < line.size() && !std::isspace(static_cast<unsigned char>(line[i]))) word += line[i++];
        }
        words.push_back(std::move(word));
    }
    return true;
}

bool number(const std::string& word, float& value) {
    value = onlyNumber<float>(word).value_or(std::nanf(""));
    return std::isfinite(value);
}

} // namespace

LevelFile readLevelFile(const std::string& text) {
    LevelFile level;
    std::istringstream in(text);
    std::string line;
    std::vector<std::string> words;
    int row = 0;
    bool headed = false, ended = false;
    const auto fail = [&](const std::string& what) {
        level.problem = fmt::format("line {}: {}", row, what);
        return level;
    };
    while (!ended && std::getline(in, line)) {
        ++row;
        if (!wordsOf(line, words)) return fail("a quotation mark is not closed");
        if (words.empty() || words[0][0] == '#') continue;
        const std::string& key = words[0];
        const std::size_t count = words.size() - 1;
        if (!headed) {
            if (key != "lampwright-level" || count != 1 || words[1] != "1")
                return fail("it is no level text of version 1");
            headed = true;
        } else if (key == "unit") {
            if (count != 1 || !number(words[1], level.unit) || level.unit <= 0)
                return fail("the unit is no length");
        } else if (key == "axes") {
            if (count != 2 || words[1] != "Z" || words[2] != "+X")
                return fail("the engine takes Z up and front +X only");
        } else if (key == "material") {
            if (count != 1) return fail("a material has one name");
            level.materials.push_back({words[1], {}, glm::vec3(0.8f)});
        } else if (key == "colour") {
            if (count != 3 || level.materials.empty())
                return fail("a colour has three numbers, behind a material");
            for (int k = 0; k < 3; ++k)
                if (!number(words[k + 1], level.materials.back().colour[k]))
                    return fail("a colour is no number");
        } else if (key == "picture") {
            if (count != 1 || level.materials.empty())
                return fail("a picture has one name, behind a material");
            level.materials.back().picture = words[1];
        } else if (key == "object") {
            if (count != 1) return fail("an object has one name");
            level.objects.push_back({words[1], {}, {}});
        } else if (key == "end") {
            ended = true;
        } else if (level.objects.empty()) {
            return fail(fmt::format("\"{}\" stands outside an object", key));
        } else if (key == "use") {
            if (count != 1 ||
                std::ranges::find(level.materials, words[1], &LevelMaterial::name) == level.materials.end())
                return fail("it uses a material that is not described");
            auto& used = level.objects.back().materials;
            if (std::ranges::find(used, words[1]) == used.end()) used.push_back(words[1]);
        } else if (key == "corner") {
            auto& shape = level.objects.back().shape;
            float v[8];
            if (count != 3 && count != 6 && count != 8) return fail("a corner has 3, 6 or 8 numbers");
            for (std::size_t k = 0; k < count; ++k)
                if (!number(words[k + 1], v[k])) return fail("a corner is no number");
            // The file is in metres; the importer makes units of them by itself.
            shape.positions.push_back(glm::vec3(v[0], v[1], v[2]) * (level.unit * importerMultiplies));
            if (count >= 6) shape.normals.emplace_back(v[3], v[4], v[5]);
            if (count == 8) shape.uvs.emplace_back(v[6], v[7]);
        } else if (key == "face") {
            auto& shape = level.objects.back().shape;
            if (count != 3) return fail("a face has three corners");
            for (int k = 1; k <= 3; ++k) {
                float corner = -1;
                if (!number(words[k], corner) || corner < 0 || corner >= float(shape.positions.size()) ||
                    corner != std::floor(corner))
                    return fail("a face refers to a corner that is not there");
                shape.indices.push_back(static_cast<std::uint32_t>(corner));
            }
        } else {
            return fail(fmt::format("\"{}\" is not known", key));
        }
    }
    if (!headed) return fail("it is no level text of version 1");
    if (!ended) return fail("it was cut off: there is no \"end\"");
    if (level.objects.empty()) return fail("it holds no object");
    return level;
}

} // namespace zl::standins::level
