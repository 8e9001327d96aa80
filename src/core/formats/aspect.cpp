#include "core/formats/aspect.h"

namespace zl::formats {

namespace {

struct Words {
    std::string_view id, name;
};
constexpr Words words[aspectCount] = {{"scale", "Scale"},
                                      {"up", "Up axis"},
                                      {"objects", "Objects apart"},
                                      {"names", "Names"},
                                      {"hierarchy", "Hierarchy"},
                                      {"materials", "Materials"},
                                      {"pictures", "Picture links"},
                                      {"uvs", "UVs"},
                                      {"uv-placement", "UV placement"},
                                      {"normals", "Normals"},
                                      {"colours", "Colours"},
                                      {"bones", "Bones"},
                                      {"clips", "Clips"},
                                      {"morphs", "Morphs"}};

} // namespace

std::string_view aspectId(Aspect aspect) {
    return words[static_cast<std::size_t>(aspect)].id;
}
std::string_view aspectName(Aspect aspect) {
    return words[static_cast<std::size_t>(aspect)].name;
}
std::optional<Aspect> aspectNamed(std::string_view id) {
    for (std::size_t i = 0; i < aspectCount; ++i)
        if (words[i].id == id) return static_cast<Aspect>(i);
    return std::nullopt;
}

} // namespace zl::formats
