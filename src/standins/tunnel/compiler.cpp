// The engine's compiler: reads a prop's texts line by line and complains as compilers do.
#include "standins/tunnel/compiler.h"

#include "standins/tunnel/parcel.h"
#include "standins/world/colour_blocks.h"

#include "core/base/child_process.h"
#include "core/base/error.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fstream>
#include <map>
#include <sstream>

namespace fs = std::filesystem;

namespace zl::standins::tunnel {

namespace {

// The engine's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostTriangles = 24000, mostPieces = 10, mostCorners = 64, mostBytes = 64u << 20,
                      mostErrors = 12, mostNumbers = 1u << 20;
constexpr int mostEdge = 4096;
constexpr double
    unit = 0.02,
    sticksOut = 0.05,
    thinnest = 0.2; ///< metres; engine units: that a corner may stand out of a piece, and of a face's height

constexpr Surface surfaces[] = {{"metal", "ring", "sparks", {0.29f, 0.33f, 0.37f}},
                                {"wood", "hollow knock", "splinters", {0.65f, 0.46f, 0.24f}},
                                {"stone", "dry knock", "chips", {0.55f, 0.56f, 0.53f}},
                                {"cloth", "flap", "lint", {0.78f, 0.35f, 0.29f}},
                                {"glass", "clink", "shards", {0.62f, 0.82f, 0.84f}},
                                {"water_thin", "splash", "spray", {0.31f, 0.53f, 0.66f}}};

/// From the engine's axes (Z up, front +X) to the shown world's (Y up, front +Z).
glm::vec3 shown(const glm::vec3& v) {
    return {v.y, v.z, v.x};
}

struct Stop {};

class Compiler {
public:
    explicit Compiler(fs::path folder) : folder_(std::move(folder)) {}

    Compiled run() {
        try {
            compileScript();
        } catch (const Stop&) {
        }
        return std::move(out_);
    }

private:
    void complain(std::string text, bool isError = true) {
        out_.complaints.push_back({file_, line_, isError, std::move(text)});
        if (isError && ++errors_ >= mostErrors) {
            out_.complaints.push_back({file_, 0, true, "too many errors; stopped"});
            throw Stop{};
        }
    }
    [[noreturn]] void stop(std::string text) {
        out_.complaints.push_back({file_, line_, true, std::move(text)});
        throw Stop{};
    }

    /// Goes through a file's lines, each as its words.
    template <class Does>
    void eachLine(const std::string& name, const Does& does) {
        const auto [wasFile, wasLine] = std::pair(file_, line_);
        file_ = name, line_ = 0;
        if (name.find("..") != std::string::npos || name.starts_with('/')) stop("leads out of the folder");
        std::error_code error;
        const auto size = fs::file_size(folder_ / name, error);
        if (error) stop("cannot open file");
        if (size > mostBytes) stop("file is too large");
        std::ifstream in(folder_ / name, std::ios::binary);
        bool any = false;
        for (std::string text; std::getline(in, text);) {
            ++line_;
            if (!text.empty() && text.back() == '\r') text.pop_back();
            std::vector<std::string_view> words;
            std::string_view rest = text;
            while (!rest.empty()) {
                const std::size_t from = rest.find_first_not_of(" \t");
                if (from == std::string_view::npos) break;
                rest.remove_prefix(from);
                const std::size_t end = std::min(rest.find_first_of(" \t"), rest.size());
                words.push_back(rest.substr(0, end));
                rest.remove_prefix(end);
            }
            if (words.empty()) continue;
            any = true;
            does(words, std::string_view(text));
        }
        if (!any) line_ = 0, stop("file is empty");
        file_ = wasFile, line_ = wasLine;
    }

    template <class T>
    bool numbers(const std::vector<std::string_view>& words, std::size_t from, std::size_t count, T* to) {
        if (words.size() < from + count) {
            complain(fmt::format("{} numbers expected after \"{}\", {} found", count, words[0],
                                 words.size() > from ? words.size() - from : 0));
            return false;
        }
        for (std::size_t k = 0; k < count; ++k) {
            const std::string_view word = words[from + k];
            const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), to[k]);
            bool fine = error == std::errc() && end == word.data() + word.size();
            if constexpr (std::is_floating_point_v<T>)
                fine = fine && std::isfinite(to[k]) && std::abs(to[k]) < T(1e7);
            if (!fine) {
                complain(fmt::format("\"{}\" is not a number", word.substr(0, 30)));
                return false;
            }
        }
        return true;
    }

    void checkName(std::string_view name, std::string_view what) {
        const bool fine =
            !name.empty() && name.size() <= 47 && std::ranges::all_of(name, [](unsigned char c) {
                return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '_';
            });
        if (!fine)
            complain(fmt::format("bad {} name \"{}\"; a-z 0-9 _ and at most 47", what, name.substr(0, 60)));
    }

    void compileScript() {
        std::string script, level;
        std::error_code error;
        for (const auto& entry : fs::directory_iterator(folder_, error)) {
            const std::string name = entry.path().filename().string();
            if (name.ends_with(".level.txt")) level = name;
            if (!name.ends_with(".prop.txt")) continue;
            if (!script.empty()) file_ = name, stop("a second script in the folder");
            script = name;
        }
        if (script.empty()) file_ = ".prop.txt", stop("no script in the folder");
        std::string mesh, body;
        eachLine(script, [&](const auto& words, std::string_view text) {
            if (words[0] == "prop" && words.size() == 2) {
                out_.prop.name = words[1];
                checkName(words[1], "prop");
            } else if (words[0] == "unit") {
                double metres = 0;
                if (numbers(words, 1, 1, &metres) && std::abs(metres - unit) > 1e-9)
                    complain(fmt::format("unit is {}, the engine's is {}", metres, unit));
            } else if (words[0] == "credit") {
                out_.prop.credit = text.size() > 7 ? std::string(text.substr(7)) : std::string();
            } else if (words[0] == "mesh" && words.size() == 2) {
                mesh = words[1];
            } else if (words[0] == "body" && words.size() == 2) {
                body = words[1];
            } else if (words[0] == "material" && words.size() >= 2) {
                readMaterial(words);
            } else {
                complain(fmt::format("unknown directive \"{}\"", words[0].substr(0, 30)));
            }
        });
        file_ = script, line_ = 0;
        if (out_.prop.name.empty()) complain("no \"prop\" directive");
        if (mesh.empty()) stop("no \"mesh\" directive");
        readMesh(mesh);
        file_ = script, line_ = 0;
        if (body.empty())
            complain("no \"body\": things fall and shoot through it", false);
        else
            readBody(body);
        if (level.empty()) file_ = out_.prop.name + ".level.txt", line_ = 0, stop("cannot open file");
        readLevel(level);
    }

    void readMaterial(const std::vector<std::string_view>& words) {
        const std::string name(words[1]);
        checkName(name, "material");
        if (!materials_.emplace(name, out_.prop.parts.size()).second)
            return complain(fmt::format("material \"{}\" redefined", name));
        Prop::Part part;
        if (words.size() == 4 && words[2] == "picture") {
            part.picture = words[3];
            checkPicture(part.picture);
        } else if (words.size() == 6 && words[2] == "colour") {
            numbers(words, 3, 3, &part.colour.x);
        } else if (words.size() != 2) {
            complain("\"picture FILE\" or \"colour R G B\" expected");
        }
        out_.prop.parts.push_back(std::move(part));
    }

    void checkPicture(const std::string& name) {
        if (name.find("..") != std::string::npos || name.starts_with('/'))
            return complain("leads out of the folder");
        std::error_code error;
        const auto size = fs::file_size(folder_ / name, error);
        if (error || size > mostBytes) return complain(fmt::format("cannot open picture \"{}\"", name));
        std::ifstream in(folder_ / name, std::ios::binary);
        const std::string bytes((std::istreambuf_iterator<char>(in)), {});
        if (const auto file = world::readDdsFile(bytes, mostEdge); !file.problem.empty())
            complain(fmt::format("picture \"{}\" {}", name, file.problem));
    }

    void head(const std::vector<std::string_view>& words, std::string_view kind) {
        if (line_ == 1 && (words.size() != 2 || words[0] != kind || words[1] != "1"))
            stop(fmt::format("\"{} 1\" expected", kind));
    }

    void readMesh(const std::string& name) {
        struct Corner {
            glm::vec3 position, normal;
            glm::vec2 uv;
        };
        std::vector<Corner> corners;
        std::size_t triangles = 0;
        eachLine(name, [&](const auto& words, std::string_view) {
            if (line_ == 1) return head(words, "mesh");
            if (words[0] == "corner") {
                float v[8];
                if (corners.size() >= mostNumbers) stop("too many corners");
                if (numbers(words, 1, 8, v))
                    corners.push_back({shown({v[0], v[1], v[2]}), shown({v[3], v[4], v[5]}), {v[6], v[7]}});
            } else if (words[0] == "face") {
                std::uint32_t f[3];
                if (!numbers(words, 1, 3, f)) return;
                if (words.size() != 5) return complain("material expected at the end of \"face\"");
                const auto worn = materials_.find(std::string(words[4]));
                if (worn == materials_.end())
                    return complain(fmt::format("material \"{}\" was never defined", words[4].substr(0, 50)));
                if (std::any_of(f, f + 3, [&](std::uint32_t c) { return c >= corners.size(); }))
                    return complain(fmt::format("corner index out of range (0 to {})", corners.size() - 1));
                if (++triangles == mostTriangles + 1)
                    complain(fmt::format("more than {} faces", mostTriangles));
                world::Shape& shape = out_.prop.parts[worn->second].shape;
                for (const std::uint32_t c : f) {
                    shape.indices.push_back(std::uint32_t(shape.positions.size()));
                    shape.positions.push_back(corners[c].position);
                    shape.normals.push_back(corners[c].normal);
                    shape.uvs.push_back(corners[c].uv);
                }
            } else {
                complain(
                    fmt::format("\"corner\" or \"face\" expected, \"{}\" found", words[0].substr(0, 30)));
            }
        });
        file_ = name, line_ = 0;
        if (triangles == 0) stop("no faces");
    }

    void readBody(const std::string& name) {
        std::vector<std::size_t> lines; ///< where each piece begins
        eachLine(name, [&](const auto& words, std::string_view) {
            if (line_ == 1) return head(words, "body");
            auto& pieces = out_.prop.pieces;
            if (words[0] == "piece") {
                if (words.size() != 3 || words[1] != "surface") return complain("\"surface KIND\" expected");
                if (!surfaceNamed(words[2]))
                    complain(fmt::format("no surface \"{}\"; there are {}", words[2].substr(0, 40),
                                         fmt::join(surfaceNames(), " ")));
                pieces.push_back({{}, std::string(words[2])});
                lines.push_back(line_);
                if (pieces.size() == mostPieces + 1) complain(fmt::format("more than {} pieces", mostPieces));
            } else if (pieces.empty()) {
                complain("\"piece\" expected");
            } else if (words[0] == "corner") {
                float v[3];
                if (!numbers(words, 1, 3, v)) return;
                pieces.back().shape.positions.push_back(shown({v[0], v[1], v[2]}));
                if (pieces.back().shape.positions.size() == mostCorners + 1)
                    complain(fmt::format("more than {} corners in piece {}", mostCorners, pieces.size()));
            } else if (words[0] == "face") {
                std::uint32_t f[3];
                if (!numbers(words, 1, 3, f)) return;
                const std::size_t most = pieces.back().shape.positions.size();
                if (std::any_of(f, f + 3, [&](std::uint32_t c) { return c >= most; }))
                    return complain("corner index out of range");
                pieces.back().shape.indices.insert(pieces.back().shape.indices.end(), f, f + 3);
            } else {
                complain(fmt::format("\"piece\", \"corner\" or \"face\" expected, \"{}\" found",
                                     words[0].substr(0, 30)));
            }
        });
        file_ = name, line_ = 0;
        if (out_.prop.pieces.empty()) return complain("no pieces");
        for (std::size_t p = 0; p < out_.prop.pieces.size(); ++p) {
            line_ = lines[p];
            checkConvex(out_.prop.pieces[p].shape, p + 1);
        }
    }

    /// A piece whose corner stands out of one of its faces would be filled there.
    void checkConvex(const world::Shape& shape, std::size_t number) {
        if (shape.indices.size() < 12) return complain(fmt::format("piece {} encloses nothing", number));
        double most = 0;
        for (std::size_t t = 0; t + 2 < shape.indices.size(); t += 3) {
            const glm::dvec3 a = shape.positions[shape.indices[t]], b = shape.positions[shape.indices[t + 1]],
                             c = shape.positions[shape.indices[t + 2]];
            const glm::dvec3 across = glm::cross(b - a, c - a);
            const double longest = std::max({glm::distance(a, b), glm::distance(b, c), glm::distance(c, a)});
            if (glm::length(across) < thinnest * longest)
                continue; // a sliver faces nowhere that could be told
            for (const glm::vec3& p : shape.positions)
                most = std::max(most, glm::dot(glm::dvec3(p) - a, glm::normalize(across)));
        }
        if (most > sticksOut)
            complain(fmt::format(
                "piece {} is not convex: a corner stands {:.2f} u out; its inside would be filled", number,
                most));
    }

    void readLevel(const std::string& name) {
        eachLine(name, [&](const auto& words, std::string_view) {
            if (line_ == 1) return head(words, "level");
            if (words[0] != "place" || words.size() != 8 || words[2] != "at" || words[6] != "turn")
                return complain("\"place PROP at X Y Z turn DEGREES\" expected");
            if (words[1] != out_.prop.name)
                return complain(fmt::format("prop \"{}\" was never compiled", words[1].substr(0, 50)));
            float at[3], turn = 0;
            if (!numbers(words, 3, 3, at) || !numbers(words, 7, 1, &turn)) return;
            if (out_.prop.places.size() >= 1000) stop("more than 1000 places");
            out_.prop.places.push_back({shown({at[0], at[1], at[2]}), turn * 0.017453293f});
        });
        file_ = name, line_ = 0;
        if (out_.prop.places.empty()) complain("places nothing", false);
    }

    fs::path folder_;
    Compiled out_;
    std::map<std::string, std::size_t> materials_;
    std::string file_;
    std::size_t line_ = 0, errors_ = 0;
};

} // namespace

bool Compiled::isFine() const {
    return std::ranges::none_of(complaints, &Complaint::isError);
}

const Surface* surfaceNamed(std::string_view name) {
    const auto found = std::ranges::find(surfaces, name, &Surface::name);
    return found == std::end(surfaces) ? nullptr : found;
}

std::vector<std::string_view> surfaceNames() {
    std::vector<std::string_view> out;
    for (const Surface& one : surfaces) out.push_back(one.name);
    return out;
}

Compiled compiledHere(const fs::path& folder) {
    return Compiler(folder).run();
}

Compiled compile(const fs::path& folder) {
    constexpr std::size_t memory = std::size_t(1) << 30;
    try {
        return fromParcel(inChildProcess([&](const Progress&) { return toParcel(compiledHere(folder)); },
                                         memory, {}, folder.string()));
    } catch (const std::exception& problem) {
        Compiled failed;
        failed.complaints.push_back(
            {"", 0, true, fmt::format("the compiler came to an end: {}", problem.what())});
        return failed;
    }
}

} // namespace zl::standins::tunnel
