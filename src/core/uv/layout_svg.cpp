#include "core/uv/layout_parts.h"
#include "core/uv/layout_picture.h"
#include "core/uv/outline.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <sstream>

namespace zl::uv {

std::string layoutSvg(const Model& model, const UvFaces& faces, const std::vector<UvIsland>& islands,
                      int material, const LayoutLook& look) {
    const glm::ivec2 size = layoutSize(model, material, look.size);
    pugi::xml_document document;
    pugi::xml_node svg = document.append_child("svg");
    svg.append_attribute("xmlns") = "http://www.w3.org/2000/svg";
    svg.append_attribute("width") = size.x;
    svg.append_attribute("height") = size.y;
    svg.append_attribute("viewBox") = fmt::format("0 0 {} {}", size.x, size.y).c_str();
    const auto parts = layoutParts(islands, material);
    for (std::size_t p = 0; p < parts.size(); ++p) {
        const std::string& name = model.nodes[std::size_t(parts[p].node)].name;
        const glm::ivec3 colour = partColour(p);
        pugi::xml_node group = svg.append_child("g");
        group.append_attribute("fill") =
            fmt::format("#{:02x}{:02x}{:02x}", colour.x, colour.y, colour.z).c_str();
        group.append_attribute("stroke") = "#20303a";
        group.append_attribute("stroke-width") = fmt::format("{:.2f}", look.size / 1024.0).c_str();
        group.append_attribute("fill-rule") = "evenodd";
        group.append_child("title").text() = name.c_str();
        for (const std::uint32_t i : parts[p].islands) {
            std::string path;
            const glm::vec2 by = toFirstPicture(islands[i]);
            for (const auto& loop : outlineOf(faces, islands[i])) {
                for (std::size_t k = 0; k < loop.size(); ++k)
                    path +=
                        fmt::format("{}{:.3f} {:.3f}", k == 0 ? 'M' : 'L', (loop[k].x + by.x) * float(size.x),
                                    (loop[k].y + by.y) * float(size.y));
                path += 'Z';
            }
            if (!path.empty()) group.append_child("path").append_attribute("d") = path.c_str();
        }
        if (!look.names) continue;
        const UvIsland& island = islands[parts[p].islands.front()];
        const glm::dvec2 middle =
            ((island.least + island.most) / 2.0 + glm::dvec2(toFirstPicture(island))) * glm::dvec2(size);
        pugi::xml_node text = svg.append_child("text");
        text.append_attribute("x") = fmt::format("{:.1f}", middle.x).c_str();
        text.append_attribute("y") = fmt::format("{:.1f}", middle.y).c_str();
        text.append_attribute("text-anchor") = "middle";
        text.append_attribute("font-family") = "sans-serif";
        text.append_attribute("font-size") = fmt::format("{:.1f}", std::max(9.0, look.size / 80.0)).c_str();
        text.text() = name.c_str();
    }
    std::ostringstream out;
    out.imbue(std::locale::classic());
    document.save(out, " ");
    return out.str();
}

} // namespace zl::uv
