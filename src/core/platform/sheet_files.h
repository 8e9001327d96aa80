#pragma once
#include "core/base/text_template.h"

#include <array>
#include <filesystem>
#include <set>
#include <string>
#include <vector>

namespace zl::platform {

class TableReader;
struct Vocabulary;

/// What one file, or one text, is written for.
enum class Each { Piece, Object, Material, Picture };

/// Something that is asked at every delivery and stands in paths and texts under its name.
struct Ask {
    std::string name, label, help;
    std::vector<std::string> options; ///< empty: any text
    std::string usual;                ///< where there are no options
};
/// Questions that a sheet may have.
inline constexpr std::size_t mostAsks = 8;

/// An answer that something is only written with: `files=obj`.
struct When {
    std::string ask, answer;
};

/// A model file. Lengths and axes are the sheet's where it says none of its own.
struct FileOutput {
    enum class What { Model, Body };
    enum class Pictures {
        Usual,  ///< inside where the format holds them, else beside
        Beside, ///< in `pictureFolder`, and named in the file
        Apart,  ///< there too, and the file says nothing of them
        Packed, ///< as the sheet's `[[picture]]` sections want them, and the file says nothing of them
        None
    };
    std::string path;   ///< with places such as {name} (docs/sheets.md), its ending included
    std::string format; ///< id of a format that can be written
    Each each = Each::Piece;
    What what = What::Model;
    std::vector<std::string> parts, without; ///< patterns of objects' names; none: all of them, and none
    Pictures pictures = Pictures::Usual;
    std::string pictureFolder; ///< with its '/'
    double metres = 0;         ///< of one unit in the file; 0: the sheet's
    std::string up, front;
    bool baked = false;     ///< nothing is left on nodes
    bool placedUvs = false; ///< how pictures lie is in the UVs
    bool still = false;     ///< as it stands at rest, without bones, clips and morphs
    When when;
};

/// A text made from a template over what is known of the piece (docs/templates.md).
struct TextOutput {
    std::string path;
    std::string text; ///< the template
    std::string from; ///< the file that it came from, beside the sheet; empty where it stands in it
    Escaping escaping = Escaping::None;
    bool windowsLines = false; ///< its lines end in CR and LF, where the template has LF alone
    Each each = Each::Piece;
    When when;
};

/// A line or an element that the game's table gets, kept in order.
struct TableOutput {
    enum class Form { Csv, Xml, Json };
    std::string path; ///< of the table, below the game's folder
    Form form = Form::Csv;
    std::string header;   ///< of a table that is not there yet: CSV's first line
    std::string under;    ///< where entries stand: names from the root on, with '/' between; of XML and JSON
    std::string key;      ///< what tells entries apart: a column's, attribute's or member's name
    std::string entry;    ///< its template
    std::string numbered; ///< where an entry's number stands, such as `key`; empty: nowhere
    std::pair<int, int> numbers{0, 0}; ///< the least and the most; each entry gets one that is free
    Each each = Each::Piece;
    When when;
};

/// A picture of the piece, drawn.
struct StillOutput {
    std::string path;
    int width = 800, height = 500;
    When when;
};

/// What a sheet of `[deliver] kind = "files"` has written.
struct SheetFiles {
    std::string name;      ///< of what is delivered, for people: "Figure for the table"
    std::string packed;    ///< path of the archive that all goes into, .zip or .7z; empty: a folder
    std::string installed; ///< the folder of the game that it all goes into, {name} in it; empty: its root
    std::vector<Ask> asks;
    std::vector<FileOutput> files;
    std::vector<TextOutput> texts;
    std::vector<TableOutput> tables;
    std::vector<StillOutput> stills;
    TextTemplate::Parts parts;    ///< texts that templates take in
    std::set<std::string> beside; ///< files that texts and parts came from, relative to the sheet's folder

    bool empty() const { return files.empty() && texts.empty() && tables.empty() && stills.empty(); }
    /// Every text of it, in order: what changes when anything of it does.
    std::vector<std::string> said() const;
};

/// Reads `[[ask]]`, `[[file]]`, `[[text]]`, `[[table]]`, `[[still]]` and `[[part]]` sections, with templates
/// from files beside the sheet. Throws Error with file and line.
SheetFiles readFiles(TableReader& root, const std::filesystem::path& file, const Vocabulary& words);

/// The same with the words of enums as sheets write them.
const std::vector<std::string_view>& eachWords();
const std::vector<std::string_view>& whatWords();
const std::vector<std::string_view>& picturesWords();

} // namespace zl::platform
