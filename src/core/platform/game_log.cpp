#include "core/platform/game_log.h"

#include "core/base/error.h"
#include "core/base/utf8.h"
#include "core/platform/name_pattern.h"

#include <algorithm>
#include <fstream>
#include <map>

namespace zl::platform {

namespace {

constexpr std::size_t mostLines = 20'000, longestLine = 2'000;

std::string filledWords(const std::string& words, const std::vector<std::string>& matched) {
    std::string out;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const bool place = words[i] == '{' && i + 2 < words.size() && words[i + 1] >= '1' &&
                           words[i + 1] <= '9' && words[i + 2] == '}' &&
                           std::size_t(words[i + 1] - '0') < matched.size();
        if (!place) {
            out += words[i];
            continue;
        }
        out += matched[std::size_t(words[i + 1] - '0')];
        i += 2;
    }
    return out;
}

/// UTF-16 as UTF-8; a letter that is cut is left out.
std::string fromUtf16(std::string_view bytes, bool bigEndian) {
    std::string out;
    const auto unit = [&](std::size_t at) {
        const auto low = static_cast<unsigned char>(bytes[at + (bigEndian ? 1 : 0)]),
                   high = static_cast<unsigned char>(bytes[at + (bigEndian ? 0 : 1)]);
        return char32_t(high * 256 + low);
    };
    for (std::size_t at = 0; at + 1 < bytes.size(); at += 2) {
        char32_t letter = unit(at);
        if (letter >= 0xD800 && letter < 0xDC00 && at + 3 < bytes.size()) {
            letter = 0x10000 + (letter - 0xD800) * 0x400 + (unit(at + 2) - 0xDC00) % 0x400;
            at += 2;
        }
        if (letter < 0xD800 || letter > 0xDFFF) appendUtf8(out, letter);
    }
    return out;
}

} // namespace

std::string endOfLog(const std::filesystem::path& file, std::size_t mostBytes) {
    std::ifstream in(file, std::ios::binary);
    if (!in || std::filesystem::is_directory(file))
        throw Error("cannot be read", file.string(), "Choose the file that the game writes its log into.");
    std::string mark(2, '\0');
    in.read(mark.data(), 2);
    mark.resize(std::size_t(in.gcount()));
    in.clear();
    in.seekg(0, std::ios::end);
    const auto size = std::size_t(std::max<std::streamoff>(in.tellg(), 0));
    const std::size_t from = size > mostBytes ? (size - mostBytes) / 2 * 2 : 0;
    in.seekg(std::streamoff(from));
    std::string out(size - from, '\0');
    in.read(out.data(), std::streamsize(out.size()));
    out.resize(std::size_t(in.gcount())); // it may have become shorter since
    const bool little = mark == "\xFF\xFE", big = mark == "\xFE\xFF";
    if (little || big) out = fromUtf16(std::string_view(out).substr(from == 0 ? 2 : 0), big);
    if (from > 0) out.erase(0, out.find('\n') + 1); // of the first line only the end is there
    return out;
}

std::vector<LogLine> readLog(std::string_view text, const Sheet& sheet) {
    std::vector<NamePattern> patterns;
    for (const LogPattern& pattern : sheet.log) patterns.emplace_back(pattern.pattern);
    std::vector<LogLine> out;
    std::size_t number = 0;
    const auto all = std::size_t(std::count(text.begin(), text.end(), '\n')) + 1;
    for (std::size_t start = 0; start < text.size();) {
        const std::size_t end = std::min(text.find('\n', start), text.size());
        std::string line(text.substr(start, std::min(end - start, longestLine)));
        start = end + 1;
        ++number;
        while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.pop_back();
        std::erase(line, '\0');
        if (line.empty() || all - number > mostLines) continue;
        LogLine one{number, asUtf8(line)};
        for (std::size_t k = 0; k < patterns.size() && !one.pattern; ++k)
            if (const auto matched = patterns[k].found(one.text)) {
                one.pattern = &sheet.log[k];
                one.says = filledWords(one.pattern->says, *matched);
            }
        out.push_back(std::move(one));
    }
    return out;
}

std::string patternFor(std::string_view line, std::vector<Range> changing) {
    std::ranges::sort(changing, {}, &Range::from);
    std::string out = "^";
    std::size_t at = 0;
    for (const Range& range : changing) {
        const std::size_t from = std::min(std::max(range.from, at), line.size()),
                          to = std::min(range.to, line.size());
        if (to <= from) continue;
        if (from > at || out == "^") out += patternOf(line.substr(at, from - at)) + "(.+)";
        at = to;
    }
    return out + patternOf(line.substr(at)) + "$";
}

std::vector<Range> changingIn(std::string_view line) {
    std::vector<Range> out;
    for (std::size_t i = 0; i < line.size();) {
        const auto code = static_cast<unsigned char>(line[i]);
        if (line[i] == '"' || line[i] == '\'') {
            const std::size_t end = line.find(line[i], i + 1);
            if (end != std::string_view::npos && end > i + 1) {
                out.push_back({i + 1, end});
                i = end + 1;
                continue;
            }
        }
        const bool begins = i == 0 || !std::isalnum(static_cast<unsigned char>(line[i - 1]));
        if (!begins || (!std::isalnum(code) && code != '/' && code != '-' && code < 0x80)) {
            ++i;
            continue;
        }
        std::size_t end = i;
        bool digit = false, path = false;
        while (end < line.size()) {
            const auto c = static_cast<unsigned char>(line[end]);
            if (!std::isalnum(c) && std::string_view("._/:-").find(line[end]) == std::string_view::npos &&
                c < 0x80)
                break;
            digit |= std::isdigit(c) != 0, path |= c == '/' || c == '.';
            ++end;
        }
        while (end > i + 1 && (line[end - 1] == '.' || line[end - 1] == ':' || line[end - 1] == '-')) --end;
        const std::string_view word = line.substr(i, end - i);
        if (digit || (path && word.find_first_of("/.") != std::string_view::npos && word.size() > 2))
            out.push_back({i, end});
        i = std::max(end, i + 1);
    }
    return out;
}

} // namespace zl::platform
