#include "core/install/city_shapes.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/formats/city_files.h"
#include "core/geometry/light_mesh.h"
#include "core/install/zip_records.h"

#include <map>

namespace zl::install {

namespace {

constexpr std::size_t mostTriangles = 240; ///< of a thing that is there to be looked past

std::shared_ptr<const Mesh> lightShape(std::string_view bytes, const std::string& name) {
    formats::CityMesh read = formats::readCityMesh(bytes, name);
    Mesh mesh;
    mesh.positions = std::move(read.positions), mesh.indices = std::move(read.indices);
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    return std::make_shared<const Mesh>(geometry::lightMesh(mesh, mostTriangles));
}

} // namespace

CityShapes cityShapes(const City& city, const glm::dmat4& toModel, const std::string& except,
                      const Progress& progress) {
    CityShapes out;
    const auto path = city.folder / cityArchive;
    const ZipRecords archive(readText(path, std::size_t(1) << 30), path.string());
    std::map<std::string, int> known; ///< below 0 for one that cannot be read
    for (std::size_t p = 0; p < city.places.size(); ++p) {
        if (p % 256 == 0) progress.report(double(p) / double(city.places.size()), "reading the city");
        const CityPlace& place = city.places[p];
        if (place.name == except) continue;
        const auto [entry, fresh] = known.try_emplace(place.name, -1);
        if (fresh && archive.has(place.name + ".mesh")) {
            progress.checkCancel();
            try {
                out.shapes.push_back(lightShape(archive.contentOf(place.name + ".mesh"), place.name));
                entry->second = int(out.shapes.size()) - 1;
            } catch (const Error&) {
                // The city's own trouble; the map shows what there is.
            }
        }
        if (entry->second < 0) continue;
        glm::dmat4 pose = glm::mat4_cast(place.turn);
        pose[3] = glm::dvec4(place.at, 1);
        // Its corners are in the city's axes.
        out.things.push_back({std::size_t(entry->second), toModel * pose, p});
    }
    return out;
}

} // namespace zl::install
