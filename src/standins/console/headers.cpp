#include "standins/console/headers.h"

#include "standins/world/files.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <fstream>
#include <map>
#include <sstream>

namespace zl::standins::console {

namespace {

constexpr std::uintmax_t mostBytes = 16u << 20;

/// Everything that a header may say which is not a number or a name of the piece's own.
constexpr std::array known{
    "static",  "const",    "typedef",       "struct",       "union",      "enum",           "char",
    "int",     "int8_t",   "uint8_t",       "int16_t",      "uint16_t",   "uint32_t",       "uint64_t",
    "place",   "uv",       "normal",        "first_corner", "corners",    "first_triangle", "triangles",
    "picture", "colour",   "bone",          "first_batch",  "batches",    "above",          "turn",
    "ticks",   "value",    "kind",          "first_key",    "keys",       "first_track",    "tracks",
    "shift",   "segments", "segment_count", "bones",        "bone_count", "clips",          "clip_count",
    "way",     "format",   "alpha",         "width",        "height",     "offset",         "bytes",
    "whole",   "byte",     "align"};

bool isWord(char c) {
    return std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '_';
}

std::string upper(std::string text) {
    for (char& c : text)
        if (c >= 'a' && c <= 'z') c = char(c - 32);
    return text;
}

bool isOwn(std::string_view word, const std::string& name) {
    return word.starts_with(name + "_") || word.starts_with(upper(name) + "_") ||
           word.starts_with("brindle_") || word.starts_with("BRINDLE_");
}

/// One line of the preprocessor.
bool isHarmless(const std::string& line, const std::string& name) {
    std::istringstream words(line);
    std::string what, first, second, more;
    words >> what >> first >> second >> more;
    if (what == "#endif") return first.empty();
    if (what == "#ifndef") return isOwn(first, name) && second.empty();
    if (what == "#include")
        return second.empty() && (first == "<stdint.h>" || first == "\"" + name + "_names.h\"");
    if (what != "#define" || !isOwn(first, name) || !more.empty() || !std::ranges::all_of(first, isWord))
        return false;
    return std::ranges::all_of(second, [](char c) { return c >= '0' && c <= '9'; });
}

/// The enumerators PREFIX_WHAT_NAME = K, by K.
std::vector<std::string> enumerated(const std::string& text, const std::string& name, const char* what) {
    const std::string begins = upper(name) + "_" + what + "_";
    std::map<int, std::string> found;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) {
        std::istringstream words(line);
        std::string word, equals;
        int number = -1;
        if (!(words >> word >> equals >> number) || !word.starts_with(begins) || equals != "=") continue;
        std::string rest = word.substr(begins.size());
        for (char& c : rest) c = char(std::tolower(static_cast<unsigned char>(c)));
        if (rest != "count") found[number] = rest;
    }
    std::vector<std::string> out;
    for (auto& [number, word] : found) out.push_back(std::move(word));
    return out;
}

std::optional<std::string> textOf(const std::filesystem::path& file, TryReport& report) {
    std::error_code error;
    const auto size = std::filesystem::file_size(file, error);
    const std::string called = file.filename().string();
    if (error || size > mostBytes) {
        report.messages.push_back({Message::Kind::Refused, called,
                                   error ? "The file is not there" : "The file is too large",
                                   "A piece is three headers, each of at most 16 MB."});
        return std::nullopt;
    }
    std::ifstream in(file, std::ios::binary);
    std::ostringstream bytes;
    bytes << in.rdbuf();
    return std::move(bytes).str();
}

} // namespace

std::optional<std::string> notData(const std::string& text, const std::string& name) {
    int line = 1, brackets = 0;
    const auto at = [&](const std::string& what) { return fmt::format("line {}: {}", line, what); };
    bool begins = true;
    for (std::size_t i = 0; i < text.size();) {
        const char c = text[i];
        if (c == '\n') {
            ++line, ++i, begins = true;
        } else if (c == ' ' || c == '\t' || c == '\r') {
            ++i;
        } else if (c == '/' && i + 1 < text.size() && text[i + 1] == '*') {
            const auto end = text.find("*/", i + 2);
            if (end == std::string::npos) return at("a comment has no end");
            line += int(std::count(text.begin() + long(i), text.begin() + long(end), '\n'));
            i = end + 2;
        } else if (c == '#') {
            const auto end = std::min(text.find('\n', i), text.size());
            const std::string directive = text.substr(i, end - i);
            if (!begins || directive.find('\\') != std::string::npos || !isHarmless(directive, name))
                return at("\"" + directive.substr(0, 40) + "\"");
            i = end;
        } else if (isWord(c)) {
            std::size_t end = i;
            while (end < text.size() && isWord(text[end])) ++end;
            const std::string word = text.substr(i, end - i);
            const bool number = std::ranges::all_of(word, [](char d) { return d >= '0' && d <= '9'; });
            if (!number && !isOwn(word, name) && std::ranges::find(known, word) == known.end())
                return at("\"" + word.substr(0, 40) + "\"");
            i = end, begins = false;
        } else {
            if (c == '[') ++brackets;
            if (c == ']') --brackets;
            // Round ones are for conditions on counts alone: outside of them they would be functions.
            const bool round = c == '(' || c == ')' || c == '?' || c == ':' || c == '&';
            if (std::string_view("{}[](),;=*?:&-").find(c) == std::string_view::npos ||
                (round && brackets <= 0))
                return at(fmt::format("\"{}\"", c));
            ++i, begins = false;
        }
    }
    return std::nullopt;
}

std::optional<Headers> readHeaders(const std::filesystem::path& folder, TryReport& report) {
    std::vector<std::string> found;
    std::error_code error;
    for (const auto& entry : std::filesystem::directory_iterator(folder, error)) {
        const std::string file = entry.path().filename().string();
        if (file.ends_with("_model.h")) found.push_back(file.substr(0, file.size() - 8));
    }
    if (found.size() != 1 || !std::ranges::all_of(found[0], isWord) || found[0].empty()) {
        report.messages.push_back(
            {Message::Kind::Refused, "",
             found.empty() ? "There is no piece in the folder" : "It is not one piece alone",
             "The console is compiled with one NAME_model.h and what belongs to it."});
        return std::nullopt;
    }
    Headers out{.name = found[0]};
    bool fine = true;
    for (const auto& [ending, text] :
         {std::pair{"_names.h", &out.names}, {"_model.h", &out.model}, {"_pictures.h", &out.pictures}}) {
        const std::string file = out.name + ending;
        auto read = textOf(folder / file, report);
        if (!read) {
            fine = false;
            continue;
        }
        if (const auto problem = notData(*read, out.name)) {
            report.messages.push_back({Message::Kind::Refused, file, "It holds something that is no data",
                                       *problem + ". The console compiles numbers and names alone."});
            fine = false;
        }
        *text = std::move(*read);
    }
    if (!fine) return std::nullopt;
    out.clips = enumerated(out.names, out.name, "CLIP");
    out.segments = enumerated(out.names, out.name, "SEGMENT");
    return out;
}

} // namespace zl::standins::console
