#include "core/platform/sheet_files.h"

#include "core/base/file_set.h"
#include "core/base/name_styles.h"
#include "core/files/files.h"
#include "core/platform/delivered_path.h"
#include "core/platform/table_reader.h"
#include "core/platform/vocabulary.h"

namespace fs = std::filesystem;

namespace zl::platform {

namespace {

constexpr std::size_t mostTemplateBytes = 1u << 20;

class FilesReader {
public:
    FilesReader(TableReader& root, const fs::path& file, const Vocabulary& words)
        : root_(root), file_(file), words_(words) {}

    SheetFiles read() {
        for (const toml::table* table : root_.tables("ask", false)) readAsk(*table);
        for (const toml::table* table : root_.tables("part", false)) readPart(*table);
        for (const toml::table* table : root_.tables("file", false)) readFile(*table);
        for (const toml::table* table : root_.tables("text", false)) readText(*table);
        for (const toml::table* table : root_.tables("table", false)) readTable(*table);
        for (const toml::table* table : root_.tables("still", false)) readStill(*table);
        for (const auto& [where, text, node] : templates_) try {
                TextTemplate(text, where, out_.parts);
            } catch (const Error& error) {
                root_.fail(node, error.whole(), "a Mustache template");
            }
        return std::move(out_);
    }

private:
    template <class Word>
    Word word(TableReader& reader, const toml::table& table, const std::string& key,
              const std::vector<std::string_view>& known, std::string_view usual) {
        const std::string text = reader.text(key, false, std::string(usual));
        reader.demandWord(table.get(key), key, text, known);
        return Word(std::ranges::find(known, text) - known.begin());
    }

    When when(TableReader& reader, const toml::table& table) {
        const std::string text = reader.text("when", false);
        if (text.empty()) return {};
        const std::size_t at = text.find('=');
        const When out{text.substr(0, at), at == std::string::npos ? "" : text.substr(at + 1)};
        std::vector<std::string_view> known;
        for (const Ask& ask : out_.asks) known.push_back(ask.name);
        if (known.empty())
            reader.fail(table.get("when"), "nothing is asked here", "an [[ask]] section first");
        reader.demandWord(table.get("when"), "question", out.ask, known);
        for (const Ask& ask : out_.asks)
            if (ask.name == out.ask)
                reader.demandWord(table.get("when"), "answer", out.answer,
                                  {ask.options.begin(), ask.options.end()});
        return out;
    }

    /// A path, with every place in it known.
    std::string path(TableReader& reader, const toml::table& table, const std::string& key, Each each,
                     bool required = true) {
        const std::string text = reader.text(key, required);
        std::vector<std::string_view> known{"name", "platform", "size"};
        if (each == Each::Object) known.insert(known.end(), {"object", "n"});
        if (each == Each::Material) known.insert(known.end(), {"material", "n"});
        if (each == Each::Picture) known.insert(known.end(), {"picture", "file", "n"});
        for (const Ask& ask : out_.asks) known.push_back(ask.name);
        std::map<std::string, std::string> values;
        for (const std::string_view name : known) values.emplace(name, "x");
        for (const std::string& place : placesIn(text)) {
            reader.demandWord(table.get(key), "place in a path", nameOfPlace(place), known);
            if (const std::size_t colon = place.find(':'); colon != std::string::npos)
                reader.demandWord(table.get(key), "way to write a name", place.substr(colon + 1),
                                  nameStyleWords());
        }
        try {
            if (!text.empty()) filledPath(text, values);
        } catch (const Error& error) {
            reader.fail(table.get(key), error.what(), "a path below the delivered folder");
        }
        return text;
    }

    void readAsk(const toml::table& table) {
        TableReader reader(table, file_);
        Ask ask;
        ask.name = reader.text("name");
        const bool plain = std::ranges::all_of(
            ask.name, [](unsigned char c) { return std::islower(c) || std::isdigit(c) || c == '-'; });
        static const std::set<std::string> taken{"name",     "platform", "size", "object",
                                                 "material", "picture",  "file", "n"};
        if (!plain || taken.contains(ask.name))
            reader.fail(table.get("name"), fmt::format("no question can be called \"{}\"", ask.name),
                        "small letters, digits and hyphens, and none of " + inARow(taken));
        for (const Ask& other : out_.asks)
            if (other.name == ask.name)
                reader.fail(table.get("name"), fmt::format("\"{}\" is asked twice", ask.name), "each once");
        ask.label = reader.text("label");
        ask.help = reader.text("help", false);
        ask.options = reader.texts("options");
        ask.usual = reader.text("usual", false);
        if (!ask.options.empty() && !ask.usual.empty())
            reader.demandWord(table.get("usual"), "option", ask.usual,
                              {ask.options.begin(), ask.options.end()});
        if (const auto at = std::ranges::find(ask.options, ask.usual); at != ask.options.end())
            std::rotate(ask.options.begin(), at, at + 1); // the usual one comes first
        reader.refuseOthers();
        if (out_.asks.size() == mostAsks)
            reader.fail(nullptr, fmt::format("more than {} questions", mostAsks), "fewer");
        out_.asks.push_back(std::move(ask));
    }

    /// A template: in the sheet, or in a file beside it.
    std::string templateOf(TableReader& reader, const toml::table& table, std::string* from) {
        const std::string file = reader.text("from", false);
        if (from) *from = file;
        if (file.empty()) return reader.text("text");
        if (table.contains("text")) reader.fail(table.get("from"), "it has a text already", "one of both");
        const auto inside = files::normalPath(file);
        if (!inside || fs::path(file).is_absolute())
            reader.fail(table.get("from"), fmt::format("\"{}\" leads out of the sheet's folder", file),
                        "a file beside the sheet");
        out_.beside.insert(*inside);
        try {
            return zl::readText(file_.parent_path() / *inside, mostTemplateBytes);
        } catch (const Error& error) {
            reader.fail(table.get("from"), error.whole(), "a text file beside the sheet");
        }
    }

    void readPart(const toml::table& table) {
        TableReader reader(table, file_);
        const std::string name = reader.text("name");
        if (!out_.parts.emplace(name, templateOf(reader, table, nullptr)).second)
            reader.fail(table.get("name"), fmt::format("the part \"{}\" stands here twice", name),
                        "each once");
        reader.refuseOthers();
    }

    void readFile(const toml::table& table) {
        TableReader reader(table, file_);
        FileOutput out;
        out.when = when(reader, table);
        out.each = word<Each>(reader, table, "each", {"piece", "object", "material"}, "piece");
        out.path = path(reader, table, "path", out.each);
        out.format = reader.text("format");
        reader.demandWord(table.get("format"), "format that can be written", out.format, words_.formats);
        out.what = word<FileOutput::What>(reader, table, "what", whatWords(), "model");
        out.parts = reader.texts("parts");
        out.without = reader.texts("without");
        out.pictures = word<FileOutput::Pictures>(reader, table, "pictures", picturesWords(), "usual");
        out.pictureFolder = path(reader, table, "picture-folder", Each::Piece, false);
        if (!out.pictureFolder.empty() && !out.pictureFolder.ends_with('/')) out.pictureFolder += '/';
        if (reader.get("metres", false)) out.metres = reader.positive("metres");
        if (const toml::node* node = reader.get("multiplies", false)) {
            if (out.metres != 0) reader.fail(node, "\"metres\" says it already", "one of both");
            out.metres = -reader.positive("multiplies"); // of the sheet's unit, which is not known here
        }
        out.up = reader.text("up", false);
        if (!out.up.empty()) reader.demandWord(table.get("up"), "up axis", out.up, {"Y", "Z"});
        out.front = reader.text("front", false);
        if (!out.front.empty())
            reader.demandWord(table.get("front"), "front", out.front, {"+X", "-X", "+Y", "-Y", "+Z", "-Z"});
        out.baked = reader.flag("baked", false);
        out.placedUvs = reader.flag("placed-uvs", false);
        out.still = reader.flag("still", false);
        reader.refuseOthers();
        out_.files.push_back(std::move(out));
    }

    void readText(const toml::table& table) {
        TableReader reader(table, file_);
        TextOutput out;
        out.when = when(reader, table);
        out.each = word<Each>(reader, table, "each", eachWords(), "piece");
        out.path = path(reader, table, "path", out.each);
        out.text = templateOf(reader, table, &out.from);
        out.escaping = escapingFor(out.path);
        if (reader.get("written-as", false))
            out.escaping = word<Escaping>(reader, table, "written-as", escapingNames(), "none");
        out.windowsLines = word<int>(reader, table, "lines", {"unix", "windows"}, "unix") == 1;
        reader.refuseOthers();
        keep(out.from.empty() ? out.path : out.from, out.text, table.get(out.from.empty() ? "text" : "from"));
        out_.texts.push_back(std::move(out));
    }

    void readTable(const toml::table& table) {
        TableReader reader(table, file_);
        TableOutput out;
        out.when = when(reader, table);
        out.each = word<Each>(reader, table, "each", {"piece", "object", "material"}, "piece");
        out.path = path(reader, table, "path", Each::Piece);
        static const std::vector<std::string_view> forms{"csv", "xml", "json"};
        const std::string ending = fs::path(out.path).extension().string();
        out.form = word<TableOutput::Form>(reader, table, "form", forms,
                                           ending == ".xml"    ? "xml"
                                           : ending == ".json" ? "json"
                                                               : "csv");
        out.header = reader.text("header", out.form == TableOutput::Form::Csv);
        out.under = reader.text("under", out.form == TableOutput::Form::Xml);
        if (out.form == TableOutput::Form::Xml && out.under.find_first_not_of('/') == std::string::npos)
            reader.fail(table.get("under"), "an XML has one root, and entries stand below it",
                        "names from the root on, such as \"world/things\"");
        out.key = reader.text("key");
        out.entry = reader.text("entry");
        readNumbers(reader, table, out);
        reader.refuseOthers();
        keep(out.path, out.entry, table.get("entry"));
        out_.tables.push_back(std::move(out));
    }

    void readNumbers(TableReader& reader, const toml::table& table, TableOutput& out) {
        out.numbered = reader.text("number", false);
        const toml::node* numbers = reader.get("numbers", !out.numbered.empty());
        if (!numbers) return;
        if (out.numbered.empty())
            reader.fail(numbers, "nothing says where the numbers stand", "`number = \"id\"` beside them");
        if (out.numbered == out.key)
            reader.fail(table.get("number"), "a number that is free tells no entry from the next",
                        "a `key` that stays the same, such as a name");
        const toml::array* pair = numbers->as_array();
        if (!pair || pair->size() != 2)
            reader.fail(numbers, "\"numbers\" is no range", "the least and the most: [7000, 7999]");
        const double least = reader.number(pair->get(0), "numbers"),
                     most = reader.number(pair->get(1), "numbers");
        if (least != std::floor(least) || most != std::floor(most) || least < 0 || most < least || most > 2e9)
            reader.fail(numbers, fmt::format("\"numbers\" are {} to {}", least, most),
                        "whole numbers, the least first");
        out.numbers = {int(least), int(most)};
    }

    void readStill(const toml::table& table) {
        TableReader reader(table, file_);
        StillOutput out;
        out.when = when(reader, table);
        out.path = path(reader, table, "path", Each::Piece);
        for (const auto& [key, member] :
             {std::pair("width", &StillOutput::width), {"height", &StillOutput::height}})
            if (const toml::node* node = reader.get(key, false)) {
                const double pixels = reader.number(node, key);
                if (pixels < 16 || pixels > 4096)
                    reader.fail(node, fmt::format("\"{}\" is {}", key, pixels), "16 to 4096 pixels");
                out.*member = int(pixels);
            }
        reader.refuseOthers();
        out_.stills.push_back(std::move(out));
    }

    /// Parts may stand below what takes them in: all are looked at when all are known.
    void keep(const std::string& where, const std::string& text, const toml::node* node) {
        templates_.push_back({where, text, node});
    }

    struct Kept {
        std::string where, text;
        const toml::node* node;
    };
    TableReader& root_;
    const fs::path& file_;
    const Vocabulary& words_;
    SheetFiles out_;
    std::vector<Kept> templates_;
};

} // namespace

const std::vector<std::string_view>& eachWords() {
    static const std::vector<std::string_view> words{"piece", "object", "material", "picture"};
    return words;
}
const std::vector<std::string_view>& whatWords() {
    static const std::vector<std::string_view> words{"model", "body"};
    return words;
}
const std::vector<std::string_view>& picturesWords() {
    static const std::vector<std::string_view> words{"usual", "beside", "apart", "packed", "none"};
    return words;
}

SheetFiles readFiles(TableReader& root, const fs::path& file, const Vocabulary& words) {
    return FilesReader(root, file, words).read();
}

std::vector<std::string> SheetFiles::said() const {
    std::vector<std::string> out{name, packed, installed};
    for (const Ask& ask : asks) {
        out.insert(out.end(), {ask.name, ask.label, ask.help, ask.usual, inARow(ask.options)});
    }
    const auto add = [&out](const When& when, Each each) {
        out.insert(out.end(), {when.ask, when.answer, std::to_string(int(each))});
    };
    for (const FileOutput& f : files) {
        add(f.when, f.each);
        out.insert(out.end(),
                   {f.path, f.format, f.pictureFolder, f.up, f.front, inARow(f.parts), inARow(f.without),
                    fmt::format("{} {} {} {}{}{}", int(f.what), int(f.pictures), f.metres, f.baked,
                                f.placedUvs, f.still)});
    }
    for (const TextOutput& t : texts) {
        add(t.when, t.each);
        out.insert(out.end(),
                   {t.path, t.text, t.from, fmt::format("{} {}", int(t.escaping), t.windowsLines)});
    }
    for (const TableOutput& t : tables) {
        add(t.when, t.each);
        out.insert(out.end(), {t.path, t.header, t.under, t.key, t.entry, t.numbered,
                               fmt::format("{} {} {}", int(t.form), t.numbers.first, t.numbers.second)});
    }
    for (const StillOutput& s : stills) {
        add(s.when, Each::Piece);
        out.push_back(fmt::format("{} {} {}", s.path, s.width, s.height));
    }
    for (const auto& [name, text] : parts) out.insert(out.end(), {name, text});
    return out;
}

} // namespace zl::platform
