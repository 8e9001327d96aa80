#include "core/contact/marks.h"

#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::contact {

namespace {

/// The code points of UTF-8; a byte that begins none stands for itself.
std::vector<char32_t> codePoints(std::string_view text) {
    std::vector<char32_t> out;
    for (std::size_t i = 0; i < text.size();) {
        const auto first = static_cast<unsigned char>(text[i]);
        const std::size_t length = first < 0x80    ? 1
                                   : first >= 0xF0 ? 4
                                   : first >= 0xE0 ? 3
                                   : first >= 0xC0 ? 2
                                                   : 1;
        if (i + length > text.size()) break;
        char32_t point = length == 1 ? first : first & (0xFF >> (length + 1));
        for (std::size_t k = 1; k < length; ++k)
            point = point << 6 | (static_cast<unsigned char>(text[i + k]) & 0x3F);
        out.push_back(point);
        i += length;
    }
    return out;
}

struct Alike {
    std::u32string_view letters;
    char as;
};
/// Letters that look like a Latin one, in small and in capitals.
constexpr Alike alike[] = {
    {U"аАαΑａＡ", 'a'},        {U"вВβΒｂＢ", 'b'},  {U"сСϲϹｃＣ", 'c'}, {U"ԁｄＤ", 'd'},
    {U"еЕёЁεΕｅＥ", 'e'},      {U"ｆＦ", 'f'},      {U"ɡｇＧ", 'g'},    {U"нНһΗｈＨ", 'h'},
    {U"іІιΙıｉＩｌＬӏ|", 'i'}, {U"јЈｊＪ", 'j'},    {U"кКκΚｋＫ", 'k'}, {U"мМΜｍＭ", 'm'},
    {U"пηΝｎＮ", 'n'},         {U"оОοΟｏＯσ", 'o'}, {U"рРρΡｐＰ", 'p'}, {U"ｑＱ", 'q'},
    {U"гｒＲ", 'r'},           {U"ѕЅｓＳ", 's'},    {U"тТτΤｔＴ", 't'}, {U"υｕＵ", 'u'},
    {U"νｖＶѵ", 'v'},          {U"ԝωｗＷ", 'w'},    {U"хХχΧｘＸ", 'x'}, {U"уУγΥｙＹ", 'y'},
    {U"ｚΖＺ", 'z'},
};

/// What the eye reads: Latin letters in small, and nothing else. Digits and letters that are drawn alike are
/// one.
std::string seen(std::string_view text) {
    std::string out;
    for (const char32_t point : codePoints(text)) {
        char letter = 0;
        if (point < 0x80) {
            const char c = char(point);
            letter = c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c >= 'a' && c <= 'z' ? c : char(0);
            if (c == '0') letter = 'o';
            if (c == '1' || c == '|' || c == 'l' || c == 'L') letter = 'i';
            if (c == '5') letter = 's';
        } else {
            for (const Alike& one : alike)
                if (one.letters.find(point) != std::u32string_view::npos) letter = one.as;
        }
        if (letter != 0) out += letter;
    }
    return out;
}

} // namespace

int holderOf(const Model& model) {
    int found = -1;
    for (int n = 0; n < int(model.nodes.size()); ++n) {
        if (model.nodes[std::size_t(n)].parent >= 0) continue;
        if (found >= 0) return -1;
        found = n;
    }
    return found;
}

const MarkPlace* meantMark(std::string_view name, const Touch& touch) {
    const std::string read = seen(name);
    std::vector<std::string> all;
    for (const MarkPlace& mark : touch.marks) {
        if (!read.empty() && seen(mark.name) == read) return &mark;
        all.push_back(seen(mark.name));
    }
    const std::string_view near = nearestWord(read, {all.begin(), all.end()});
    if (near.empty()) return nullptr;
    return &touch.marks[std::size_t(std::ranges::find(all, near) - all.begin())];
}

std::vector<OddMark> oddMarks(const Model& model, const Touch& touch) {
    std::vector<OddMark> out;
    const int holder = holderOf(model);
    for (int n = 0; n < int(model.nodes.size()); ++n)
        for (const auto& [place, name] : model.nodes[std::size_t(n)].marks) {
            OddMark odd{n, place, name, meantMark(name, touch), {}};
            const bool exact = odd.meant && odd.meant->name == name;
            if (n == holder && exact && odd.meant->place == place) continue;
            std::string does = fmt::format("\"{}\" in place {} does nothing: ", name, place);
            if (!odd.meant)
                does += touch.marks.empty() ? "the platform reads no marks"
                                            : "the platform reads " + inARow(touch.marks, &MarkPlace::name);
            else if (n != holder && exact && odd.meant->place == place)
                does += fmt::format("it is on \"{}\", and the platform reads what is on the holder",
                                    model.nodes[std::size_t(n)].name);
            else
                does +=
                    fmt::format("the platform reads \"{}\" in place {}", odd.meant->name, odd.meant->place);
            odd.why = std::move(does);
            out.push_back(std::move(odd));
        }
    return out;
}

std::vector<const MarkPlace*> marksThatCount(const Model& model, const Touch& touch) {
    std::vector<const MarkPlace*> out;
    const int holder = holderOf(model);
    if (holder < 0) return out;
    const auto& marks = model.nodes[std::size_t(holder)].marks;
    for (const MarkPlace& known : touch.marks)
        if (const auto there = marks.find(known.place); there != marks.end() && there->second == known.name)
            out.push_back(&known);
    std::ranges::sort(out, {}, &MarkPlace::place);
    return out;
}

std::string holderFault(const Model& model, const Touch& touch) {
    const int holder = holderOf(model);
    if (holder < 0) return "There is no one node around everything";
    const Node& node = model.nodes[std::size_t(holder)];
    const std::string name = touch.holderName.empty() ? std::string("{name}") : touch.holderName;
    const std::size_t at = name.find("{name}");
    const std::string_view before = std::string_view(name).substr(0, at),
                           behind = std::string_view(name).substr(at + 6);
    if (node.mesh >= 0) return fmt::format("\"{}\" is the model itself and no node around it", node.name);
    if (!node.name.starts_with(before) || !node.name.ends_with(behind) ||
        node.name.size() <= before.size() + behind.size())
        return fmt::format("the node around everything is called \"{}\" and not {}", node.name,
                           touch.holderFor("NAME"));
    const glm::dmat4 stands = model.placement * node.local;
    for (int c = 0; c < 4; ++c)
        for (int r = 0; r < 4; ++r)
            if (std::abs(stands[c][r] - (c == r ? 1.0 : 0.0)) > 1e-6)
                return fmt::format("\"{}\" {}", node.name,
                                   c == 3   ? "stands off the origin"
                                   : c == r ? "is scaled or turned"
                                            : "is turned");
    return {};
}

} // namespace zl::contact
