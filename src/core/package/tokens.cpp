#include "core/package/tokens.h"

#include "core/base/letters.h"

#include <algorithm>

namespace zl::package {

namespace {

bool isBetween(char c) {
    return c == '-' || c == '_' || c == '.';
}

char small(char c) {
    return c >= 'A' && c <= 'Z' ? char(c | 0x20) : c;
}

} // namespace

bool isNamePart(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || isBetween(c) ||
           static_cast<unsigned char>(c) >= 0x80;
}

std::string_view nameAt(std::string_view text, std::size_t at) {
    std::size_t end = at;
    while (end < text.size() && isNamePart(text[end])) ++end;
    while (end > at && text[end - 1] == '.') --end;
    return text.substr(at, end - at);
}

void Names::add(std::string_view name, std::string_view with) {
    if (name.empty()) return;
    names_.try_emplace(lowerCase(name), with);
    longest_ = std::max(longest_, name.size());
    begins_[static_cast<unsigned char>(small(name[0]))] = true;
}

std::vector<Names::Found> Names::in(std::string_view text) const {
    std::vector<Found> out;
    if (names_.empty()) return out;
    std::string word; // in small letters, as far as it goes
    std::size_t at = 0;
    while (at < text.size()) {
        const bool starts = begins_[static_cast<unsigned char>(small(text[at]))] &&
                            (at == 0 || !isNamePart(text[at - 1]) || isBetween(text[at - 1]));
        if (!starts) {
            ++at;
            continue;
        }
        std::size_t best = 0;
        std::string_view with;
        word.clear();
        for (std::size_t end = at; end < text.size() && isNamePart(text[end]) && word.size() < longest_;) {
            word += small(text[end++]);
            if (end < text.size() && isNamePart(text[end]) && !isBetween(text[end])) continue;
            if (const auto found = names_.find(word); found != names_.end())
                best = end - at, with = found->second;
        }
        if (best > 0) out.push_back({at, best, with});
        at += std::max<std::size_t>(best, 1);
    }
    return out;
}

std::string Names::replacedIn(std::string_view text, std::size_t* count) const {
    std::string out;
    std::size_t done = 0;
    for (const Found& found : in(text)) {
        out += text.substr(done, found.at - done);
        out += found.with;
        done = found.at + found.size;
        if (count) ++*count;
    }
    return out += text.substr(done);
}

std::vector<StringValue> stringValues(std::string_view json) {
    std::vector<StringValue> out;
    std::string_view key;
    for (std::size_t at = json.find('"'); at != std::string_view::npos; at = json.find('"', at)) {
        const std::size_t start = at + 1;
        std::size_t end = start;
        while (end < json.size() && json[end] != '"') end += json[end] == '\\' ? 2 : 1;
        if (end >= json.size()) break;
        at = end + 1;
        const std::size_t next = json.find_first_not_of(" \t\r\n", at);
        if (next != std::string_view::npos && json[next] == ':') {
            key = json.substr(start, end - start);
        } else {
            out.push_back({start, end - start, key});
            key = {};
        }
    }
    return out;
}

} // namespace zl::package
