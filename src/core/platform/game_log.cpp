#include "core/platform/game_log.h"

#include "core/base/utf8.h"
#include "core/platform/name_pattern.h"

#include <algorithm>
#include <map>

namespace zl::platform {

namespace {

constexpr std::size_t mostLines = 20'000, longestLine = 2'000;

std::string filledWords(const std::string& words, const std::vector<std::string>& matched) {
    std::string out;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const bool place = words[i] == '{' && i + 2 < words.size() && words[i + 1] >= '1' &&
                           words[i + 1] <= '9' && words[i + 2] == '}';
        if (!place) {
            out += words[i];
            continue;
        }
        out += matched[std::size_t(words[i + 1] - '0')];
        i += 2;
    }
    return out;
}

} // namespace

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
    const auto plain = [](std::string_view part) {
        std::string out;
        for (const char c : part) {
            if (std::string_view(".[]{}()*+?^$|\\").find(c) != std::string_view::npos) out += '\\';
            out += c;
        }
        return out;
    };
    std::string out = "^";
    std::size_t at = 0;
    for (const Range& range : changing) {
        const std::size_t from = std::min(std::max(range.from, at), line.size()),
                          to = std::min(range.to, line.size());
        if (to <= from) continue;
        if (from > at || out == "^") out += plain(line.substr(at, from - at)) + "(.+)";
        at = to;
    }
    return out + plain(line.substr(at)) + "$";
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
