#include "standins/files/formats/readers.h"

#include <cstring>
#include <sstream>

namespace fs = std::filesystem;

namespace zl::standins::files {

/// Binary STL, whose size says how many triangles there are; or its text.
Read readStl(const fs::path& folder, const std::string& path) {
    Read out{path};
    const std::string bytes = wholeOf(folder / path);
    world::Shape shape;
    const auto add = [&shape](const glm::vec3& p) {
        shape.indices.push_back(std::uint32_t(shape.positions.size()));
        shape.positions.push_back(p);
    };
    std::uint32_t triangles = 0;
    if (bytes.size() >= 84) std::memcpy(&triangles, bytes.data() + 80, 4);
    if (bytes.size() >= 84 && bytes.size() == 84 + std::size_t(triangles) * 50) {
        for (std::size_t t = 0; t < triangles; ++t)
            for (std::size_t c = 0; c < 3; ++c) {
                glm::vec3 p;
                std::memcpy(&p, bytes.data() + 84 + 50 * t + 12 + 12 * c, 12);
                add(p);
            }
    } else if (bytes.starts_with("solid")) {
        std::istringstream in(bytes);
        in.imbue(std::locale::classic());
        for (std::string word; in >> word;)
            if (word == "vertex") {
                glm::vec3 p(0);
                if (!(in >> p.x >> p.y >> p.z)) break;
                add(p);
            }
    }
    if (shape.indices.empty() || shape.indices.size() % 3 != 0) {
        out.problem = "has no whole triangles, or is cut short";
        return out;
    }
    addObject(out, fs::path(path).stem().string(), std::move(shape));
    return out;
}

} // namespace zl::standins::files
