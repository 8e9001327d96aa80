#include "fuzz/helpers.h"

#include "core/model/promises.h"

#include <cstdio>
#include <cstdlib>
#include <unistd.h>

namespace fuzz {

const std::filesystem::path& folder() {
    static const std::filesystem::path own = [] {
        const std::filesystem::path base = std::filesystem::is_directory("/dev/shm") ? "/dev/shm" : "/tmp";
        const auto path = base / ("zest-loom-fuzz-" + std::to_string(::getpid()));
        std::filesystem::create_directories(path);
        return path;
    }();
    return own;
}

std::filesystem::path written(const std::string& name, std::string_view bytes) {
    const auto path = folder() / name;
    if (std::FILE* file = std::fopen(path.c_str(), "wb")) {
        std::fwrite(bytes.data(), 1, bytes.size(), file);
        std::fclose(file);
    }
    return path;
}

void complain(const std::string& what) {
    std::fprintf(stderr, "broken promise: %s\n", what.c_str());
    std::abort();
}

void lookThrough(const zl::Model& model) {
    if (const std::string broken = zl::brokenPromise(model); !broken.empty()) complain(broken);
}

void lookThrough(const zl::standins::world::Shape& shape) {
    for (const std::uint32_t index : shape.indices)
        if (index >= shape.positions.size()) complain("an index of a stand-in's shape is out of range");
}

} // namespace fuzz
