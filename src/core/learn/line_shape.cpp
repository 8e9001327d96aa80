// A template out of texts that are lines: XML, TOML, INI, CSV, and formats of a game's own.
#include "core/base/plain_number.h"
#include "core/learn/text_shape.h"

#include <algorithm>
#include <cctype>

namespace zl::learn {

namespace {

/// A piece of a line: something that may differ (a quoted text, a number, a word), or what stands between.
struct Token {
    enum class Kind { Between, Quoted, Number, Word } kind = Kind::Between;
    std::string text;

    bool operator==(const Token&) const = default;
};
using Line = std::vector<Token>;

bool isWordLetter(char c) {
    const auto code = static_cast<unsigned char>(c);
    return std::isalnum(code) || c == '_' || c == '-' || c == '.' || c == '/' || code >= 0x80;
}

/// Where a text in quotation marks ends, which begins at `at`.
std::size_t endOfQuoted(const std::string& line, std::size_t at, Escaping as) {
    for (++at; at < line.size() && line[at] != '"'; ++at)
        if (line[at] == '\\' && (as == Escaping::Json || as == Escaping::Toml)) ++at;
    return at < line.size() ? at : std::string::npos;
}

/// The piece's own name is one piece wherever it stands, however many words it is: `names` are the ways in
/// which it can be written here.
Line tokensOf(const std::string& line, const std::vector<std::string>& names, Escaping as) {
    Line out;
    const auto between = [&out](char c) {
        if (out.empty() || out.back().kind != Token::Kind::Between) out.push_back({});
        out.back().text += c;
    };
    for (std::size_t at = 0; at < line.size();) {
        if (line[at] == '"') {
            const std::size_t end = endOfQuoted(line, at, as);
            if (end != std::string::npos) {
                between('"');
                out.push_back({Token::Kind::Quoted, line.substr(at + 1, end - at - 1)});
                between('"');
                at = end + 1;
                continue;
            }
        }
        const auto name = std::ranges::find_if(names, [&](const std::string& n) {
            return n.size() > 2 && line.compare(at, n.size(), n) == 0 &&
                   (at == 0 || !isWordLetter(line[at - 1])) &&
                   (at + n.size() == line.size() || !isWordLetter(line[at + n.size()]));
        });
        if (name != names.end()) {
            out.push_back({Token::Kind::Word, *name});
            at += name->size();
            continue;
        }
        if (!isWordLetter(line[at])) {
            between(line[at++]);
            continue;
        }
        std::size_t end = at;
        while (end < line.size() && isWordLetter(line[end])) ++end;
        std::string word = line.substr(at, end - at);
        const bool number = onlyNumber<double>(word).has_value();
        out.push_back({number ? Token::Kind::Number : Token::Kind::Word, std::move(word)});
        at = end;
    }
    return out;
}

std::vector<Line> linesOf(const std::string& text, const std::string& name, Escaping as) {
    const std::vector<std::string> names{escaped(name, as), name};
    std::vector<Line> out;
    for (std::size_t start = 0; start < text.size();) {
        const std::size_t end = std::min(text.find('\n', start), text.size());
        out.push_back(tokensOf(text.substr(start, end - start), names, as));
        start = end + 1;
    }
    return out;
}

/// What lines of a list have in common: what stands between, and the first word.
std::string wordsShape(const Line& line) {
    std::string out;
    bool first = true;
    for (const Token& token : line) {
        if (token.kind == Token::Kind::Between)
            out += token.text;
        else if (token.kind == Token::Kind::Word && first)
            out += token.text, first = false;
        else
            out += '\x01', first = false;
    }
    return out;
}

/// Lines of one shape that follow one another.
struct Run {
    std::string shape;
    std::vector<const Line*> lines;
};
std::vector<Run> runsOf(const std::vector<Line>& lines) {
    std::vector<Run> out;
    for (const Line& line : lines) {
        const std::string shape = wordsShape(line);
        if (out.empty() || out.back().shape != shape || shape.find('\x01') == std::string::npos)
            out.push_back({shape, {}});
        out.back().lines.push_back(&line);
    }
    return out;
}

class LineShape {
public:
    explicit LineShape(Escaping as) : as_(as) {}

    TextShape out;

    /// One line of each sample (or entry) as a template.
    std::string line(const std::vector<const Line*>& lines, const Places& places) {
        std::string made, key;
        for (std::size_t k = 0; k < lines[0]->size(); ++k) {
            std::vector<std::string> values;
            for (const Line* one : lines) values.push_back((*one)[k].text);
            const Token& first = (*lines[0])[k];
            const bool equal = std::ranges::all_of(values, [&](const auto& v) { return v == values[0]; });
            if (first.kind == Token::Kind::Word && key.empty()) key = first.text;
            if (first.kind == Token::Kind::Between) {
                made += literally(first.text);
                continue;
            }
            std::vector<std::string> said;
            for (const std::string& value : values) said.push_back(unescaped(value, as_));
            std::vector<double> numbers;
            for (const std::string& value : values)
                if (const auto number = onlyNumber<double>(value)) numbers.push_back(*number);
            if (numbers.size() == values.size()) {
                if (const std::string found = places.explainedNumber(numbers); !found.empty()) {
                    made += found;
                    continue;
                }
            } else if (const std::string found = places.explained(said); !found.empty()) {
                made += asWritten(found, as_);
                continue;
            }
            made += equal ? literally(values[0]) : open(values, said, key, places.inList());
        }
        return made;
    }

private:
    /// What nothing explains is asked: `said` are the values, `values` as they are written.
    std::string open(const std::vector<std::string>& values, const std::vector<std::string>& said,
                     const std::string& key, bool inList) {
        constexpr std::size_t mostAsked = 6;
        Unexplained ask{askName(key.empty() ? "value" : key), {}, {}};
        ask.usual = commonest(said, &ask.seen);
        const bool taken =
            std::ranges::any_of(out.asks, [&](const Unexplained& o) { return o.name == ask.name; });
        if (inList || taken || out.asks.size() >= mostAsked) {
            out.guessed.push_back(key), out.isWhole = false;
            return literally(commonest(values));
        }
        out.asks.push_back(ask);
        return "{{answers." + ask.name + "}}";
    }

    Escaping as_;
};

} // namespace

TextShape lineShape(const std::vector<Sample>& samples, Escaping as) {
    std::vector<std::vector<Line>> all;
    std::vector<const nlohmann::json*> data;
    for (const Sample& sample : samples) {
        all.push_back(linesOf(sample.text->text, sample.data->at("name").get<std::string>(), as));
        data.push_back(sample.data);
    }
    const Places places(data);
    std::vector<std::vector<Run>> runs;
    for (const auto& lines : all) runs.push_back(runsOf(lines));
    // Texts that differ in more than their lists: the commonest order of runs stands for all.
    const auto orderOf = [](const std::vector<Run>& some) {
        std::string order;
        for (const Run& run : some) order += run.shape + "\n";
        return order;
    };
    std::vector<std::string> orders;
    for (const auto& some : runs) orders.push_back(orderOf(some));
    const std::string usual = commonest(orders);
    LineShape shape(as);
    std::vector<std::size_t> kept;
    for (std::size_t i = 0; i < orders.size(); ++i)
        if (orders[i] == usual) kept.push_back(i);
    if (kept.size() < orders.size())
        shape.out.isWhole = false, shape.out.guessed.emplace_back("order of lines");
    std::vector<const nlohmann::json*> keptData;
    for (const std::size_t i : kept) keptData.push_back(data[i]);
    const Places own(keptData);
    for (std::size_t r = 0; r < runs[kept[0]].size(); ++r) {
        std::vector<std::size_t> counts;
        std::vector<const Line*> lines;
        for (const std::size_t i : kept) {
            counts.push_back(runs[i][r].lines.size());
            lines.insert(lines.end(), runs[i][r].lines.begin(), runs[i][r].lines.end());
        }
        const bool single = std::ranges::all_of(counts, [](std::size_t n) { return n == 1; });
        const bool equalCounts = std::ranges::all_of(counts, [&](std::size_t n) { return n == counts[0]; });
        std::string list;
        TextShape listOut;
        if (!single)
            for (const std::string& name : own.listsOf(counts)) {
                LineShape inside(as);
                const std::string made =
                    "{{#" + name + "}}\n" + inside.line(lines, own.within(name)) + "\n{{/" + name + "}}\n";
                if (list.empty() || inside.out.guessed.size() < listOut.guessed.size())
                    list = made, listOut = inside.out;
                if (listOut.guessed.empty()) break;
            }
        if (!list.empty() && (listOut.guessed.empty() || !equalCounts)) {
            shape.out.text += list;
            shape.out.guessed.insert(shape.out.guessed.end(), listOut.guessed.begin(), listOut.guessed.end());
            continue;
        }
        if (!equalCounts) { // nothing is there as often: as the first has it
            shape.out.guessed.push_back(runs[kept[0]][r].shape), shape.out.isWhole = false;
            for (const Line* one : runs[kept[0]][r].lines) {
                for (const Token& token : *one) shape.out.text += token.text;
                shape.out.text += "\n";
            }
            continue;
        }
        for (std::size_t k = 0; k < counts[0]; ++k) {
            std::vector<const Line*> rows;
            for (const std::size_t i : kept) rows.push_back(runs[i][r].lines[k]);
            shape.out.text += shape.line(rows, own) + "\n";
        }
    }
    if (!samples[kept[0]].text->text.ends_with('\n') && !shape.out.text.empty()) shape.out.text.pop_back();
    return std::move(shape.out);
}

TextShape shapeOf(const std::vector<Sample>& samples, Escaping as) {
    const bool json =
        std::ranges::all_of(samples, [](const Sample& s) { return s.text->form == TextFacts::Form::Json; });
    return json ? jsonShape(samples) : lineShape(samples, as);
}

} // namespace zl::learn
