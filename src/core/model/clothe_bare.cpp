#include "core/model/clothe_bare.h"

#include "core/base/file_set.h"
#include "core/base/unique_names.h"

#include <algorithm>

namespace zl {

bool clotheBare(Model& model, const std::string& name) {
    int added = -1;
    for (auto& mesh : model.meshes) {
        const auto bare = [](const MaterialRun& run) { return run.material < 0; };
        if (std::ranges::none_of(mesh->runs, bare)) continue;
        if (added < 0) {
            UniqueNames names; // also as files that are called after them
            for (const Material& material : model.materials) names.take(fileNameFrom(material.name));
            added = int(model.materials.size());
            model.materials.push_back({});
            model.materials.back().name = names.made(name);
        }
        auto copy = std::make_shared<Mesh>(*mesh);
        for (MaterialRun& run : copy->runs)
            if (bare(run)) run.material = added;
        mesh = std::move(copy);
    }
    return added >= 0;
}

} // namespace zl
