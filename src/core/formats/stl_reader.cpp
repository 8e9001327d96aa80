// STL, binary and text. Every triangle brings its own three corners; joining them is the weld step's work.
// Source: the StereoLithography Interface Specification (1989).
#include "core/formats/format.h"
#include "core/formats/text.h"

#include "core/base/error.h"
#include "core/base/huge_pages.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <cstring>

namespace zl::formats {

namespace {

constexpr std::size_t headSize = 84, recordSize = 50;

std::uint32_t promisedTriangles(std::string_view bytes) {
    std::uint32_t count = 0;
    if (bytes.size() >= headSize)
        std::memcpy(&count, bytes.data() + 80, 4); // little endian, as every machine we build for
    return count;
}

bool looksLikeText(std::string_view bytes) {
    const std::string_view head = bytes.substr(0, 1 << 16);
    if (bytes.starts_with("\xff\xfe") || bytes.starts_with("\xfe\xff")) return true;
    const bool exact = bytes.size() >= headSize &&
                       bytes.size() == headSize + recordSize * std::size_t(promisedTriangles(bytes));
    const bool facets =
        head.find("facet") != std::string_view::npos && head.find("vertex") != std::string_view::npos;
    const bool emptySolid = head.find("endsolid") != std::string_view::npos;
    return (facets || emptySolid) && !(exact && head.substr(headSize).find('\0') != std::string_view::npos);
}

Mesh cornersMesh(std::size_t triangles) {
    Mesh mesh;
    resizeBig(mesh.positions, triangles * 3);
    resizeBig(mesh.indices, triangles * 3);
    tbb::parallel_for(std::size_t(0), triangles * 3,
                      [&](std::size_t i) { mesh.indices[i] = static_cast<std::uint32_t>(i); });
    mesh.runs = {{0, static_cast<std::uint32_t>(triangles), -1}};
    return mesh;
}

Mesh readBinary(std::string_view bytes, const std::string& where, Model& model, const Progress& progress) {
    if (bytes.size() < headSize)
        throw Error(fmt::format("is {} bytes long, too short for an STL file", bytes.size()), where,
                    "Export or copy the file again.");
    const std::size_t count = promisedTriangles(bytes), held = (bytes.size() - headSize) / recordSize;
    if (count > held)
        throw Error(fmt::format("promises {} triangles but ends after {}", showNumber(double(count), 0),
                                showNumber(double(held), 0)),
                    where, "The file was cut off; export or copy it again.");
    if (count > 0x55555555u)
        throw Error("holds more triangles than can be numbered", where, "Split the model.");
    if (bytes.size() != headSize + recordSize * count)
        model.warnings.push_back(fmt::format("{} bytes behind the last triangle were passed over",
                                             bytes.size() - headSize - recordSize * count));
    Mesh mesh = cornersMesh(count);
    std::atomic<bool> coloured{false};
    progress.report(0.1, "reading");
    tbb::parallel_for(std::size_t(0), count, [&](std::size_t t) {
        const char* record = bytes.data() + headSize + t * recordSize;
        std::memcpy(&mesh.positions[3 * t], record + 12, 36);
        if (record[48] != 0 || record[49] != 0) coloured.store(true, std::memory_order_relaxed);
    });
    if (coloured)
        model.dropped.emplace_back("the two extra bytes of each triangle (colours in some programs)");
    return mesh;
}

Mesh readText(std::string_view text, const std::string& where, Model& model, const Progress& progress) {
    Mesh mesh;
    Scanner scan(text);
    std::vector<glm::vec3> loop;
    std::size_t broken = 0, lines = 0;
    while (!scan.atEnd()) {
        if ((++lines & 0xffff) == 0)
            progress.report(double(scan.position() - text.data()) / double(text.size()), "reading");
        scan.skipSpace();
        const std::string_view word = scan.word();
        if (word == "solid" && model.name.empty()) {
            model.name = std::string(scan.restOfLine());
        } else if (word == "vertex") {
            glm::vec3 p(NAN);
            for (int k = 0; k < 3; ++k) {
                scan.skipBlanks();
                scan.number(p[k]);
            }
            loop.push_back(p);
        } else if (word == "endloop" || word == "endfacet") {
            if (loop.size() == 3)
                mesh.positions.insert(mesh.positions.end(), loop.begin(), loop.end());
            else if (!loop.empty())
                ++broken;
            loop.clear();
        }
        if (word == "solid" || word == "endsolid") scan.skipLine(); // names may hold any word
    }
    if (!loop.empty())
        throw Error("ends in the middle of a triangle", where,
                    "The file was cut off; export or copy it again.");
    if (broken > 0)
        model.warnings.push_back(
            fmt::format("left out {}: not exactly three corners", showCount(broken, "facet", "facets")));
    mesh.indices.resize(mesh.positions.size());
    for (std::uint32_t i = 0; i < mesh.indices.size(); ++i) mesh.indices[i] = i;
    mesh.runs = {{0, static_cast<std::uint32_t>(mesh.triangleCount()), -1}};
    return mesh;
}

} // namespace

Model readStl(files::SourceFile& source, const Progress& progress) {
    const FileBytes file = source.bytes();
    Model model;
    model.frame = {unitNamed("mm"), Up::Z, true, true}; // what most programs mean; the format does not say
    std::string storage;
    Mesh mesh = looksLikeText(file.text()) ? readText(textOf(file, storage), source.where(), model, progress)
                                           : readBinary(file.text(), source.where(), model, progress);
    mesh.name = source.stem();
    model.name = source.stem();
    model.nodes.push_back({mesh.name, -1, glm::dmat4(1.0), 0});
    model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    model.placement = model.frame.toMetres();
    return model;
}

} // namespace zl::formats
