#include "core/base/csv_table.h"

#include "core/base/letters.h"
#include "core/base/plain_number.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl {

namespace {

constexpr std::string_view byteOrderMark = "\xEF\xBB\xBF";
constexpr std::size_t mostCsvProblems = 20;

std::string_view trimmed(std::string_view text) {
    while (!text.empty() && static_cast<unsigned char>(text.front()) <= ' ') text.remove_prefix(1);
    while (!text.empty() && static_cast<unsigned char>(text.back()) <= ' ') text.remove_suffix(1);
    return text;
}

/// Takes a text apart line by line.
class CsvReader {
public:
    explicit CsvReader(std::string_view text) : text_(text) {
        if (text_.starts_with(byteOrderMark)) at_ = byteOrderMark.size();
    }

    CsvTable read() {
        const std::string_view head = text_.substr(at_, text_.find_first_of("\r\n", at_) - at_);
        out_.separator = std::ranges::count(head, ';') > std::ranges::count(head, ',') ? ';' : ',';
        const std::size_t end = text_.find_first_of("\r\n", at_);
        if (end != std::string_view::npos)
            out_.lineEnd = text_.substr(end).starts_with("\r\n") ? "\r\n" : text_[end] == '\r' ? "\r" : "\n";
        out_.endsLine = text_.size() == at_ || text_.back() == '\n' || text_.back() == '\r';
        bool first = true;
        while (at_ < text_.size()) {
            CsvTable::Row row{line_, {}, at_};
            readRow(row.cells);
            if (row.cells.size() == 1 && trimmed(row.cells[0]).empty()) continue;
            if (first)
                for (const std::string& cell : row.cells) out_.columns.push_back(lowerCase(trimmed(cell)));
            else
                out_.rows.push_back(std::move(row));
            first = false;
        }
        return std::move(out_);
    }

private:
    void readRow(std::vector<std::string>& cells) {
        for (;;) {
            cells.push_back(cell());
            if (at_ >= text_.size()) return;
            const char c = text_[at_++];
            if (c == out_.separator) {
                if (at_ == text_.size()) cells.emplace_back();
                continue;
            }
            if (c == '\r' && at_ < text_.size() && text_[at_] == '\n') ++at_;
            ++line_;
            return;
        }
    }
    /// Up to the separator or the end of the line, which are left.
    std::string cell() {
        if (at_ < text_.size() && text_[at_] == '"') return quoted();
        const std::size_t from = at_;
        while (at_ < text_.size() && text_[at_] != out_.separator && text_[at_] != '\n' && text_[at_] != '\r')
            ++at_;
        return std::string(trimmed(text_.substr(from, at_ - from)));
    }
    std::string quoted() {
        std::string out;
        const std::size_t began = line_;
        for (++at_; at_ < text_.size(); ++at_) {
            if (text_[at_] == '\n') ++line_;
            if (text_[at_] != '"') {
                out += text_[at_];
            } else if (at_ + 1 < text_.size() && text_[at_ + 1] == '"') {
                out += '"', ++at_;
            } else {
                ++at_;
                const std::size_t from =
                    at_; // what stands between the quote and the separator is odd, and kept
                while (at_ < text_.size() && text_[at_] != out_.separator && text_[at_] != '\n' &&
                       text_[at_] != '\r')
                    ++at_;
                return out + std::string(trimmed(text_.substr(from, at_ - from)));
            }
        }
        if (out_.problems.size() < mostCsvProblems)
            out_.problems.push_back(fmt::format("line {}: a quote is opened and never closed", began));
        return out;
    }

    std::string_view text_;
    std::size_t at_ = 0, line_ = 1;
    CsvTable out_;
};

std::string inQuotes(const std::string& cell, char separator) {
    const bool plain = cell.find_first_of("\"\r\n") == std::string::npos &&
                       cell.find(separator) == std::string::npos && trimmed(cell) == cell;
    if (plain) return cell;
    std::string out = "\"";
    for (const char c : cell) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + '"';
}

} // namespace

int CsvTable::column(std::string_view name) const {
    const auto found = std::ranges::find(columns, name);
    return found == columns.end() ? -1 : int(found - columns.begin());
}

CsvTable readCsv(std::string_view text) {
    return CsvReader(text).read();
}

std::string csvLine(const CsvTable& table,
                    const std::vector<std::pair<std::string_view, std::string>>& cells) {
    std::string out;
    for (std::size_t c = 0; c < table.columns.size(); ++c) {
        if (c > 0) out += table.separator;
        const auto given = std::ranges::find(cells, std::string_view(table.columns[c]),
                                             [](const auto& cell) { return cell.first; });
        if (given != cells.end()) out += inQuotes(given->second, table.separator);
    }
    return out;
}

std::string csvAddition(const CsvTable& table, const std::string& line) {
    return (table.endsLine ? "" : table.lineEnd) + line + (table.endsLine ? table.lineEnd : "");
}

std::optional<std::string> withoutLine(std::string_view text, const std::string& line) {
    if (line.empty()) return std::nullopt;
    for (std::size_t at = text.find(line); at != std::string_view::npos; at = text.find(line, at + 1)) {
        const std::size_t end = at + line.size();
        const bool begins = at == 0 || text[at - 1] == '\n' || text[at - 1] == '\r',
                   ends = end == text.size() || text[end] == '\n' || text[end] == '\r';
        if (!begins || !ends) continue;
        if (end < text.size()) {
            const std::size_t behind = text.substr(end).starts_with("\r\n") ? end + 2 : end + 1;
            return std::string(text.substr(0, at)).append(text.substr(behind));
        }
        // It is the last and has no end: the one before it had none either when it was added.
        std::size_t front = at;
        if (front > 0 && text[front - 1] == '\n') --front;
        if (front > 0 && text[front - 1] == '\r') --front;
        return std::string(text.substr(0, front));
    }
    return std::nullopt;
}

std::optional<double> csvNumber(const CsvTable& table, std::string_view cell) {
    std::string text(trimmed(cell));
    if (table.separator != ',') std::ranges::replace(text, ',', '.');
    const auto number = onlyNumber<double>(text);
    return number && std::isfinite(*number) ? number : std::nullopt;
}

} // namespace zl
