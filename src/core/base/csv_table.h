#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace zl {

/// A table of text as people and programs leave it: with commas or semicolons, quotes, a byte-order mark, any
/// ends of lines, and perhaps none behind the last. Fields in quotes may hold the separator, doubled quotes
/// and ends of lines (RFC 4180).
struct CsvTable {
    struct Row {
        std::size_t line = 0; ///< counted from 1, where it begins
        std::vector<std::string> cells;
        std::size_t from = 0; ///< the byte of the text at which it begins
        /// The cell of a column; empty where the row is too short or there is no such column.
        std::string_view at(int column) const {
            return column < 0 || std::size_t(column) >= cells.size() ? std::string_view()
                                                                     : cells[std::size_t(column)];
        }
    };
    char separator = ',';
    std::string lineEnd = "\n";
    bool endsLine = true;             ///< the last line has an end
    std::vector<std::string> columns; ///< of the first line, in small letters and without blanks around
    std::vector<Row> rows;            ///< below it; empty lines are none
    std::vector<std::string> problems;

    int column(std::string_view name) const;
};

/// Reads a whole table. What is wrong with single lines is a problem of the table, and the others are read.
CsvTable readCsv(std::string_view text);

/// One line for a table, without its end: cells in the order of its columns, quoted where they must be.
/// Columns that `cells` does not name stay empty.
std::string csvLine(const CsvTable& table,
                    const std::vector<std::pair<std::string_view, std::string>>& cells);

/// What has to be put behind a table's text to add a line.
std::string csvAddition(const CsvTable& table, const std::string& line);

/// The text without one line that was added to it, in whatever surroundings it stands now; nothing when it is
/// not there as it was written.
std::optional<std::string> withoutLine(std::string_view text, const std::string& line);

/// A number that may be written with a point or, where the separator is no comma, with a comma.
std::optional<double> csvNumber(const CsvTable& table, std::string_view cell);

} // namespace zl
