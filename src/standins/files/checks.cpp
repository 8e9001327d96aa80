#include "standins/files/delivered.h"

#include "standins/world/files.h"

#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/pattern.h"
#include "core/base/units.h"
#include "core/platform/name_pattern.h"

#include <fmt/format.h>
#include <pugixml.hpp>
#include <toml++/toml.h>

#include <bit>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

using Kind = Message::Kind;

class Checks {
public:
    Checks(const Delivered& delivered, const platform::FileTerms& terms, TryReport& report)
        : delivered_(delivered), terms_(terms), report_(report) {}

    void all() {
        presence();
        for (const Read& model : delivered_.models) check(model);
        for (const std::string& path : delivered_.unreadable)
            say(Kind::Odd, path, "Such files are not read here", "Whether the game takes it is seen there");
        for (const auto& [path, sides] : delivered_.pictures) check(path, sides);
        for (const auto& [path, text] : delivered_.texts) check(path, text);
        spelling();
        whole();
    }

private:
    void say(Kind kind, const std::string& file, std::string text, std::string detail) {
        report_.messages.push_back({kind, file, std::move(text), std::move(detail)});
    }
    void most(const std::string& file, const char* what, double value, double limit) {
        if (limit <= 0) return;
        const std::string text = fmt::format("{} {}", showNumber(value, 0), what);
        if (value > limit)
            say(Kind::Refused, file, text, world::over(value, limit));
        else
            say(Kind::Fine, file, text, "takes up to " + showNumber(limit, 0));
    }

    /// Every path that the sheet wants, and nothing that it does not know.
    void presence() {
        std::set<std::string> known;
        for (const auto& wanted : terms_.wanted) {
            std::size_t found =
                !delivered_.archive.empty() && matchPattern(wanted.pattern, delivered_.archive) ? 1 : 0;
            for (const auto& [path, bytes] : delivered_.files)
                if (matchPattern(wanted.pattern, path)) ++found, known.insert(path);
            if (found == 0 && !wanted.optional)
                say(Kind::Refused, wanted.pattern, "The file is missing", "The game's sheet names it");
        }
        for (const Read& model : delivered_.models) known.insert(model.names.begin(), model.names.end());
        if (terms_.wanted.empty() || !delivered_.archive.empty()) return;
        for (const auto& [path, bytes] : delivered_.files)
            if (!known.contains(path) && !delivered_.pictures.contains(path))
                say(Kind::Odd, path, "The sheet does not name this file", "The game may not look at it");
    }

    void check(const Read& model) {
        if (!model.problem.empty()) {
            say(Kind::Refused, model.path, "The model is not readable", model.problem);
            return;
        }
        if (model.triangles == 0) say(Kind::Refused, model.path, "It holds no triangles", "Write it anew");
        if (model.partly)
            say(Kind::Odd, model.path, "It is read here only in part",
                "Faces of more than three corners are not");
        most(model.path, "triangles", double(model.triangles), terms_.triangles);
        most(model.path, "corners", double(model.corners), terms_.corners);
        most(model.path, "materials", double(model.materials.size()), terms_.materials);
        std::set<std::string> shown;
        for (const auto& object : model.objects) shown.insert(object.name);
        most(model.path, "objects", double(shown.size()), terms_.objects);
        for (const std::string& name : model.names)
            if (!delivered_.files.contains(name))
                say(Kind::Refused, model.path, fmt::format("\"{}\" is missing", name), "The model names it");
        if (model.metres > 0 && std::abs(model.metres / terms_.fileMetres - 1) > 1e-6)
            say(Kind::Odd, model.path, fmt::format("states a unit of {} m", model.metres),
                fmt::format("the sheet says {} m", terms_.fileMetres));
        if (!model.up.empty() && (model.up == "Z") != (terms_.up == Up::Z))
            say(Kind::Odd, model.path, fmt::format("states {} up", model.up), "the sheet says the other");
        pictures(model);
        names(model);
    }

    /// Those inside of it, each once.
    void pictures(const Read& model) {
        std::map<const std::string*, std::string> inside;
        for (const Read::Object& object : model.objects)
            if (object.inside) inside.emplace(object.inside.get(), object.material);
        for (const auto& [bytes, material] : inside) {
            const auto judged = world::judgedPicture(
                *bytes, terms_.pictureEdge > 0 ? int(terms_.pictureEdge) : 1 << 15, terms_.powerOfTwo);
            say(judged.picture ? Kind::Fine : Kind::Refused, model.path,
                fmt::format("picture of \"{}\": {}", material, judged.text),
                judged.picture ? "" : judged.detail);
        }
    }

    void names(const Read& model) {
        std::vector<std::string> all = model.nodes;
        all.insert(all.end(), model.materials.begin(), model.materials.end());
        if (!terms_.namePattern.empty()) {
            const platform::NamePattern pattern(terms_.namePattern);
            for (const std::string& name : all)
                if (!pattern.matches(name)) {
                    say(Kind::Refused, model.path, fmt::format("\"{}\" is not a name that it reads", name),
                        "wants " + terms_.nameWords);
                    break;
                }
        }
        if (!terms_.namesOnce) return;
        for (const auto* list : {&model.nodes, &model.materials}) {
            std::set<std::string> taken;
            for (const std::string& name : *list)
                if (!taken.insert(lowerCase(name)).second) {
                    say(Kind::Refused, model.path, fmt::format("\"{}\" is there twice", name),
                        "wants each name once");
                    break;
                }
        }
    }

    void check(const std::string& path, const std::pair<int, int>& sides) {
        if (sides.first <= 0) {
            say(Kind::Refused, path, "The picture is not readable", "Write it anew");
            return;
        }
        const std::string words = fmt::format("{} by {} px", sides.first, sides.second);
        const int edge = std::max(sides.first, sides.second);
        if (terms_.pictureEdge > 0 && edge > terms_.pictureEdge)
            say(Kind::Refused, path, words, world::over(edge, terms_.pictureEdge) + " along an edge");
        else if (terms_.powerOfTwo && (!std::has_single_bit(unsigned(sides.first)) ||
                                       !std::has_single_bit(unsigned(sides.second))))
            say(Kind::Refused, path, words, "takes sides of 2, 4, 8 … pixels only");
        else
            say(Kind::Fine, path, words, {});
        if (terms_.filePattern.empty()) return;
        if (const std::string stem = fs::path(path).stem().string();
            !platform::NamePattern(terms_.filePattern).matches(stem))
            say(Kind::Refused, path, fmt::format("\"{}\" is not a name that it reads", stem),
                "wants " + terms_.fileWords);
    }

    /// That a text is what its ending says, and that the files that it names are there.
    void check(const std::string& path, const std::string& text) {
        const std::string ending = lowerCase(fs::path(path).extension().string());
        std::string fault;
        if (text.empty()) fault = "it is empty";
        if (ending == ".json" && fault.empty())
            if (parsedJson(text, &fault).is_discarded() && !parsedHandJson(text).is_discarded()) {
                fault.clear();
                say(Kind::Odd, path, "JSON with comments, or with a comma behind the last of a list",
                    "Games that read it by the letter refuse it");
            }
        if (ending == ".xml" && fault.empty()) {
            pugi::xml_document document;
            if (const auto read = document.load_buffer(text.data(), text.size()); !read)
                fault = read.description();
        }
        if (ending == ".toml" && fault.empty()) try {
                (void)toml::parse(text);
            } catch (const toml::parse_error& problem) {
                fault = fmt::format("line {}: {}", problem.source().begin.line, problem.description());
            }
        if (!fault.empty()) {
            say(Kind::Refused, path, "The text is not readable", fault);
            return;
        }
        for (const std::string& name : fileNamesIn(text)) {
            const std::string own = (fs::path(path).parent_path() / name).lexically_normal().generic_string();
            if (!delivered_.files.contains(own) && !delivered_.files.contains(name))
                say(Kind::Refused, path, fmt::format("\"{}\" is missing", name), "The text names it");
        }
    }

    /// Words with an ending that some delivered file has.
    std::set<std::string> fileNamesIn(const std::string& text) const {
        std::set<std::string> endings, out;
        for (const auto& [path, bytes] : delivered_.files)
            if (const std::string ending = fs::path(path).extension().string(); ending.size() > 2)
                endings.insert(ending);
        std::string word;
        const auto end = [&] {
            const std::string ending = fs::path(word).extension().string();
            if (endings.contains(ending) && word.size() > ending.size() &&
                word.find("://") == std::string::npos)
                out.insert(word);
            word.clear();
        };
        for (const char c : text) {
            const auto code = static_cast<unsigned char>(c);
            if (std::isalnum(code) || code >= 0x80 ||
                std::string_view("._-/@+").find(c) != std::string_view::npos)
                word += c;
            else
                end();
        }
        end();
        return out;
    }

    /// Names that some disks do not tell apart.
    void spelling() {
        std::map<std::string, std::string> taken;
        for (const auto& [path, bytes] : delivered_.files) {
            const auto [at, isNew] = taken.emplace(lowerCase(path), path);
            if (!isNew)
                say(Kind::Refused, path, fmt::format("differs from \"{}\" in capitals alone", at->second),
                    "some disks do not tell them apart");
            if (bytes == 0) say(Kind::Refused, path, "The file is empty", "Write it anew");
        }
    }

    void whole() {
        double bytes = 0;
        for (const auto& [path, size] : delivered_.files) bytes += double(size);
        if (terms_.bytes > 0)
            say(bytes > terms_.bytes ? Kind::Refused : Kind::Fine, "", showBytes(bytes),
                "takes up to " + showBytes(terms_.bytes));
        const auto [low, high] = shownBox(delivered_, terms_);
        if (low.x > high.x) return;
        const double height = high.y - low.y;
        const std::string words = fmt::format("{} {} tall, {} figures", showMeasure(height), terms_.unitName,
                                              showMeasure(height / terms_.figureHeight));
        if (terms_.mostHeight > 0 && (height < terms_.leastHeight || height > terms_.mostHeight))
            say(Kind::Refused, "", words,
                fmt::format("takes {} to {}", showMeasure(terms_.leastHeight),
                            showMeasure(terms_.mostHeight)));
        else
            say(Kind::Fine, "", words, {});
        if (terms_.floorWithin >= 0 && std::abs(low.y) > terms_.floorWithin + 1e-4 * height)
            say(Kind::Refused, "",
                fmt::format("stands {} {} from the floor", showMeasure(low.y), terms_.unitName),
                fmt::format("takes {}", showMeasure(terms_.floorWithin)));
    }

    const Delivered& delivered_;
    const platform::FileTerms& terms_;
    TryReport& report_;
};

} // namespace

void checkDelivered(const Delivered& delivered, const platform::FileTerms& terms, TryReport& report) {
    Checks(delivered, terms, report).all();
}

} // namespace zl::standins::files
