// Wavefront OBJ. The file is mapped, cut into chunks at line ends and parsed in parallel; each chunk keeps
// its own corners and faces, which are numbered through once all chunks are known. Source: the OBJ
// specification (Wavefront, version 3.0), plus vertex colours after the position, as several programs write.
#include "core/formats/format.h"
#include "core/formats/mtl.h"
#include "core/formats/text.h"

#include "core/base/error.h"
#include "core/geometry/polygon.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <limits>

namespace zl::formats {

namespace {

constexpr int absent = std::numeric_limits<int>::min();

/// One corner of a face as written: 1-based, or negative and counted back from the chunk's place.
struct Corner {
    int position, uv, normal;
};

struct Event {
    enum class Kind { Object, Group, Material, Library } kind;
    std::size_t face; ///< first face it concerns
    std::string name;
};

struct Chunk {
    std::string_view text;
    std::vector<glm::vec3> positions, normals, colours;
    std::vector<glm::vec2> uvs;
    std::vector<Corner> corners;
    std::vector<std::uint32_t> faceStart; ///< into corners
    std::vector<Event> events;
    std::size_t ignoredLines = 0, brokenFaces = 0;
    bool other = false; ///< curves, surfaces, lines or points
};

/// Relative indices count back from what the chunk has so far; they are made relative to the chunk's first
/// element here (and stay ≤ 0 or positive within it), told apart from absolute ones by this offset.
constexpr int relativeBase = -(1 << 30);

int chunkIndex(int written, std::size_t soFar) {
    return written < 0 ? relativeBase + static_cast<int>(soFar) + written : written;
}

void parseFace(Scanner& scan, Chunk& chunk) {
    const std::size_t start = chunk.corners.size();
    while (true) {
        scan.skipBlanks();
        Corner corner{absent, absent, absent};
        int value = 0;
        if (!scan.number(value)) break;
        corner.position = chunkIndex(value, chunk.positions.size());
        if (scan.take('/')) {
            if (scan.number(value)) corner.uv = chunkIndex(value, chunk.uvs.size());
            if (scan.take('/') && scan.number(value)) corner.normal = chunkIndex(value, chunk.normals.size());
        }
        chunk.corners.push_back(corner);
    }
    if (chunk.corners.size() - start < 3) {
        chunk.corners.resize(start);
        ++chunk.brokenFaces;
    } else {
        chunk.faceStart.push_back(static_cast<std::uint32_t>(start));
    }
}

void parseVertex(Scanner& scan, Chunk& chunk) {
    float v[7];
    int count = 0;
    for (; count < 7; ++count) {
        scan.skipBlanks();
        v[count] = std::numeric_limits<float>::quiet_NaN();
        if (!scan.number(v[count])) break;
    }
    for (int k = count; k < 3; ++k) v[k] = std::numeric_limits<float>::quiet_NaN();
    if (count >= 6) {
        chunk.colours.resize(chunk.positions.size(), glm::vec3(1.0f));
        chunk.colours.emplace_back(v[count - 3], v[count - 2], v[count - 1]);
    }
    chunk.positions.emplace_back(v[0], v[1], v[2]);
}

void parse(Chunk& chunk) {
    Scanner scan(chunk.text);
    const auto floats = [&](float* out, int count) {
        for (int k = 0; k < count; ++k) {
            scan.skipBlanks();
            out[k] = 0;
            if (!scan.number(out[k])) break;
        }
    };
    const auto event = [&](Event::Kind kind) {
        chunk.events.push_back({kind, chunk.faceStart.size(), std::string(scan.restOfLine())});
    };
    while (!scan.atEnd()) {
        scan.skipSpace();
        const std::string_view word = scan.word();
        if (word == "v") {
            parseVertex(scan, chunk);
        } else if (word == "vt") {
            glm::vec2 uv;
            floats(&uv.x, 2);
            chunk.uvs.emplace_back(uv.x, 1.0f - uv.y);
        } else if (word == "vn") {
            glm::vec3 n;
            floats(&n.x, 3);
            chunk.normals.push_back(n);
        } else if (word == "f") {
            parseFace(scan, chunk);
        } else if (word == "o") {
            event(Event::Kind::Object);
        } else if (word == "g") {
            event(Event::Kind::Group);
        } else if (word == "usemtl") {
            event(Event::Kind::Material);
        } else if (word == "mtllib") {
            event(Event::Kind::Library);
        } else if (word == "l" || word == "p" || word == "curv" || word == "surf") {
            chunk.other = true;
        } else if (!word.empty() && word[0] != '#' && word != "s") {
            ++chunk.ignoredLines;
        }
        scan.skipLine();
    }
}

std::vector<Chunk> cut(std::string_view text, std::size_t pieces) {
    std::vector<Chunk> chunks;
    const std::size_t size = std::max<std::size_t>(1 << 18, text.size() / pieces + 1);
    while (!text.empty()) {
        std::size_t end = std::min(size, text.size());
        while (end < text.size()) {
            end = text.find('\n', end);
            if (end == std::string_view::npos) {
                end = text.size();
            } else {
                const std::size_t last = end > 0 && text[end - 1] == '\r' ? end - 1 : end;
                ++end;
                if (last == 0 || text[last - 1] != '\\') break; // do not cut a continued line
            }
        }
        chunks.emplace_back().text = text.substr(0, end);
        text.remove_prefix(end);
    }
    return chunks;
}

/// One object as it is put together: faces of one `o` (or `g`) run, in file order.
struct ObjectPlan {
    std::string name;
    struct Run {
        std::size_t chunk, firstFace, lastFace;
        int material;
    };
    std::vector<Run> runs;
};

struct Totals {
    std::size_t positions, uvs, normals;
};

class Assembler {
public:
    explicit Assembler(std::vector<Chunk>& chunks) : chunks_(chunks) {
        Totals sum{0, 0, 0};
        bool anyColour = false;
        for (const Chunk& chunk : chunks) {
            before_.push_back(sum);
            sum = {sum.positions + chunk.positions.size(), sum.uvs + chunk.uvs.size(),
                   sum.normals + chunk.normals.size()};
            anyColour |= !chunk.colours.empty();
        }
        total_ = sum;
        positions_.resize(sum.positions), uvs_.resize(sum.uvs), normals_.resize(sum.normals);
        if (anyColour) colours_.resize(sum.positions, glm::vec3(1.0f));
        tbb::parallel_for(std::size_t(0), chunks.size(), [&](std::size_t i) {
            Chunk& chunk = chunks[i];
            std::ranges::copy(chunk.positions, positions_.begin() + before_[i].positions);
            std::ranges::copy(chunk.uvs, uvs_.begin() + before_[i].uvs);
            std::ranges::copy(chunk.normals, normals_.begin() + before_[i].normals);
            if (anyColour) std::ranges::copy(chunk.colours, colours_.begin() + before_[i].positions);
            chunk.positions = {}, chunk.uvs = {}, chunk.normals = {}, chunk.colours = {};
        });
        head_.assign(sum.positions, ~0u);
    }

    Mesh assemble(const ObjectPlan& plan) {
        Mesh mesh;
        mesh.name = plan.name;
        std::vector<Corner> made; // of each new vertex
        std::vector<std::uint32_t> next, touched;
        std::vector<int> materials;
        bool anyUv = false, anyNormal = false;
        std::vector<std::uint32_t> polygon, cutUp;
        std::vector<glm::vec3> outline;
        for (const ObjectPlan::Run& run : plan.runs) {
            const Chunk& chunk = chunks_[run.chunk];
            for (std::size_t f = run.firstFace; f < run.lastFace; ++f) {
                const std::size_t start = chunk.faceStart[f];
                const std::size_t end =
                    f + 1 < chunk.faceStart.size() ? chunk.faceStart[f + 1] : chunk.corners.size();
                polygon.clear();
                bool usable = true;
                for (std::size_t c = start; c < end && usable; ++c) {
                    const Corner corner = resolve(chunk.corners[c], before_[run.chunk]);
                    if (corner.position < 0) {
                        usable = false;
                        break;
                    }
                    std::uint32_t v = head_[corner.position];
                    while (v != ~0u && (made[v].uv != corner.uv || made[v].normal != corner.normal))
                        v = next[v];
                    if (v == ~0u) {
                        v = static_cast<std::uint32_t>(made.size());
                        if (head_[corner.position] == ~0u)
                            touched.push_back(static_cast<std::uint32_t>(corner.position));
                        next.push_back(head_[corner.position]);
                        head_[corner.position] = v;
                        made.push_back(corner);
                        anyUv |= corner.uv >= 0;
                        anyNormal |= corner.normal >= 0;
                    }
                    polygon.push_back(v);
                }
                if (!usable) {
                    ++badFaces;
                    continue;
                }
                if (polygon.size() == 3) {
                    mesh.indices.insert(mesh.indices.end(), polygon.begin(), polygon.end());
                    materials.push_back(run.material);
                    continue;
                }
                outline.clear(), cutUp.clear();
                for (const std::uint32_t v : polygon) outline.push_back(positions_[made[v].position]);
                geometry::triangulate(outline, cutUp);
                for (const std::uint32_t k : cutUp) mesh.indices.push_back(polygon[k]);
                materials.resize(mesh.indices.size() / 3, run.material);
            }
        }
        mesh.positions.resize(made.size());
        if (anyUv) mesh.uvSets.emplace_back(made.size(), glm::vec2(0.0f));
        if (anyNormal) mesh.normals.resize(made.size(), glm::vec3(0, 1, 0));
        if (!colours_.empty()) mesh.colours.resize(made.size());
        tbb::parallel_for(std::size_t(0), made.size(), [&](std::size_t v) {
            mesh.positions[v] = positions_[made[v].position];
            if (made[v].uv >= 0) mesh.uvSets[0][v] = uvs_[made[v].uv];
            if (made[v].normal >= 0) mesh.normals[v] = normals_[made[v].normal];
            if (!colours_.empty()) mesh.colours[v] = glm::vec4(colours_[made[v].position], 1.0f);
        });
        for (const std::uint32_t p : touched) head_[p] = ~0u;
        sortIntoParts(mesh, materials);
        return mesh;
    }

    std::vector<glm::vec3> takePositions() { return std::move(positions_); }
    std::size_t badFaces = 0;

private:
    static void sortIntoParts(Mesh& mesh, const std::vector<int>& materials) {
        if (!std::ranges::is_sorted(materials)) {
            std::vector<std::uint32_t> all(mesh.positions.size());
            for (std::uint32_t i = 0; i < all.size(); ++i) all[i] = i;
            auto indices = std::move(mesh.indices);
            mesh = withVertices(mesh, all, std::move(indices), materials);
            return;
        }
        for (std::uint32_t t = 0; t < materials.size(); ++t) {
            if (mesh.parts.empty() || mesh.parts.back().material != materials[t])
                mesh.parts.push_back({t, 0, materials[t]});
            ++mesh.parts.back().triangleCount;
        }
    }

    static int resolveOne(int written, std::size_t before, std::size_t total) {
        if (written == absent) return absent;
        const long long index = written < relativeBase / 2
                                    ? (long long)written - relativeBase + (long long)before
                                    : (long long)written - 1;
        return index >= 0 && index < (long long)total ? static_cast<int>(index) : -1;
    }
    /// 0-based corner; position -1 when anything points outside the file.
    Corner resolve(const Corner& written, const Totals& before) const {
        Corner c{resolveOne(written.position, before.positions, total_.positions),
                 resolveOne(written.uv, before.uvs, total_.uvs),
                 resolveOne(written.normal, before.normals, total_.normals)};
        if (c.uv == -1 || c.normal == -1) c.position = -1;
        return c;
    }

    std::vector<Chunk>& chunks_;
    std::vector<Totals> before_;
    Totals total_{};
    std::vector<glm::vec3> positions_, normals_, colours_;
    std::vector<glm::vec2> uvs_;
    std::vector<std::uint32_t> head_;
};

std::vector<ObjectPlan> planObjects(const std::vector<Chunk>& chunks, MaterialLibrary& library,
                                    const std::string& fallback) {
    bool objects = false;
    for (const Chunk& chunk : chunks)
        for (const Event& event : chunk.events) objects |= event.kind == Event::Kind::Object;
    const Event::Kind opens = objects ? Event::Kind::Object : Event::Kind::Group;
    std::vector<ObjectPlan> plans;
    std::map<std::string, std::size_t> byName; // groups may be taken up again; objects are new each time
    std::size_t current = 0;
    plans.push_back({fallback, {}});
    int material = -1;
    for (std::size_t c = 0; c < chunks.size(); ++c) {
        std::size_t face = 0;
        const auto closeRun = [&](std::size_t upTo) {
            if (upTo > face) plans[current].runs.push_back({c, face, upTo, material});
            face = upTo;
        };
        for (const Event& event : chunks[c].events) {
            closeRun(event.face);
            if (event.kind == Event::Kind::Material) material = library.use(event.name);
            if (event.kind != opens) continue;
            const std::string name = event.name.empty() ? fallback : event.name;
            const auto known = byName.find(name);
            if (opens == Event::Kind::Group && known != byName.end()) {
                current = known->second;
            } else {
                current = plans.size();
                byName[name] = current;
                plans.push_back({name, {}});
            }
        }
        closeRun(chunks[c].faceStart.size());
    }
    std::erase_if(plans, [](const ObjectPlan& plan) { return plan.runs.empty(); });
    return plans;
}

} // namespace

Model readObj(const std::filesystem::path& path, const Progress& progress) {
    const MappedFile file(path);
    std::string storage;
    const std::string_view text = textOf(file, storage);
    if (text.empty()) throw Error("is empty", path.string(), "Export or copy the file again.");
    std::vector<Chunk> chunks = cut(text, 64);
    std::atomic<std::size_t> done{0};
    progress.report(0, "reading");
    tbb::parallel_for(std::size_t(0), chunks.size(), [&](std::size_t i) {
        if (progress.isCancelled()) return;
        parse(chunks[i]);
        progress.report(0.6 * double(++done) / double(chunks.size()), "reading");
    });
    progress.checkCancel();

    Model model;
    MaterialLibrary library(path.parent_path(), model);
    std::size_t ignored = 0, broken = 0;
    bool other = false;
    for (const Chunk& chunk : chunks) {
        ignored += chunk.ignoredLines, broken += chunk.brokenFaces, other |= chunk.other;
        for (const Event& event : chunk.events)
            if (event.kind == Event::Kind::Library) library.load(event.name);
    }
    auto plans = planObjects(chunks, library, path.stem().string());
    Assembler assembler(chunks);
    for (std::size_t i = 0; i < plans.size(); ++i) {
        progress.report(0.6 + 0.4 * double(i) / double(plans.size()), "putting objects together");
        model.nodes.push_back({plans[i].name, -1, glm::dmat4(1.0), static_cast<int>(model.meshes.size())});
        model.meshes.push_back(std::make_shared<const Mesh>(assembler.assemble(plans[i])));
    }
    if (plans.empty()) {
        auto positions = assembler.takePositions();
        if (positions.empty())
            throw Error("holds no corners and no faces", path.string(), "Check that it is an OBJ model.");
        auto cloud = std::make_shared<Mesh>();
        cloud->positions = std::move(positions);
        model.nodes.push_back({path.stem().string(), -1, glm::dmat4(1.0), 0});
        model.meshes.push_back(std::move(cloud));
    }
    if (assembler.badFaces > 0)
        model.warnings.push_back(
            fmt::format("{} refer to corners that are not in the file and were left out",
                        showCount(static_cast<long long>(assembler.badFaces), "face", "faces")));
    if (broken > 0)
        model.warnings.push_back(
            fmt::format("{} faces have fewer than three corners and were left out", broken));
    if (ignored > 0)
        model.warnings.push_back(fmt::format("{} lines were not understood and were passed over", ignored));
    if (other) model.dropped.emplace_back("lines, points, curves and free-form surfaces");
    return model;
}

} // namespace zl::formats
