#include "core/formats/declared_frame.h"

#include "core/base/plain_number.h"

#include <zip.h>

#include <cmath>
#include <fstream>
#include <map>

namespace zl::formats {

namespace {

constexpr std::size_t headBytes = 1 << 16;

std::string headOfFile(const std::filesystem::path& path) {
    std::string head(headBytes, '\0');
    std::ifstream in(path, std::ios::binary);
    in.read(head.data(), headBytes);
    head.resize(static_cast<std::size_t>(std::max<std::streamsize>(0, in.gcount())));
    return head;
}

/// The start of the first "….model" part in a 3MF archive.
std::string headOf3mf(const std::filesystem::path& path) {
    int problem = 0;
    zip_t* archive = zip_open(path.c_str(), ZIP_RDONLY, &problem);
    if (!archive) return {};
    std::string head;
    for (zip_int64_t i = 0; i < zip_get_num_entries(archive, 0) && head.empty(); ++i) {
        const char* name = zip_get_name(archive, i, 0);
        if (!name || !std::string_view(name).ends_with(".model")) continue;
        zip_file_t* file = zip_fopen_index(archive, i, 0);
        if (!file) continue;
        head.resize(headBytes);
        const auto got = zip_fread(file, head.data(), headBytes);
        head.resize(got > 0 ? std::size_t(got) : 0);
        zip_fclose(file);
    }
    zip_discard(archive);
    return head;
}

/// The value of `attribute` in the first `<element …>`; empty when there is none.
std::string attributeOf(const std::string& head, const std::string& element, const std::string& attribute) {
    for (std::size_t at = 0; (at = head.find("<" + element, at)) != std::string::npos; ++at) {
        const std::size_t end = head.find('>', at);
        const std::string tag = head.substr(at, end == std::string::npos ? end : end - at);
        const std::size_t found = tag.find(" " + attribute + "=");
        if (found == std::string::npos || found + attribute.size() + 2 >= tag.size()) continue;
        const char quote = tag[found + attribute.size() + 2];
        const std::size_t from = found + attribute.size() + 3, to = tag.find(quote, from);
        if (to != std::string::npos) return tag.substr(from, to - from);
    }
    return {};
}

/// The known unit of that name in the words of AMF and 3MF; null for others.
const Unit* unitCalled(const std::string& name) {
    static const std::map<std::string, std::string_view> ids{
        {"millimeter", "mm"}, {"centimeter", "cm"}, {"meter", "m"},  {"inch", "in"},
        {"foot", "ft"},       {"feet", "ft"},       {"micron", "µm"}};
    const auto id = ids.find(name);
    if (id == ids.end()) return nullptr;
    static const Unit micron = unitOfMetres(1e-6);
    return id->second == "µm" ? &micron : &unitNamed(id->second);
}

SourceFrame declaredByCollada(const std::string& head) {
    // Without a word the specification means metres and Y up.
    SourceFrame frame{unitNamed("m"), Up::Y, false, false};
    const double metres = plainNumber<double>(attributeOf(head, "unit", "meter")).value_or(0);
    if (std::isfinite(metres) && metres > 0) frame.unit = unitOfMetres(metres);
    if (head.find(">Z_UP<") != std::string::npos) frame.up = Up::Z;
    return frame;
}

} // namespace

SourceFrame declaredFrame(const std::filesystem::path& path, const std::string& extension) {
    if (extension == ".dae") return declaredByCollada(headOfFile(path));
    if (extension == ".x3d") return {unitNamed("m"), Up::Y, false, false};
    const bool is3mf = extension == ".3mf";
    if (!is3mf && extension != ".amf") return {};
    // Both mean millimetres and Z up unless told otherwise; AMF says nothing of an axis.
    SourceFrame frame{unitNamed("mm"), Up::Z, !is3mf, !is3mf};
    const std::string said =
        is3mf ? attributeOf(headOf3mf(path), "model", "unit") : attributeOf(headOfFile(path), "amf", "unit");
    if (const Unit* unit = unitCalled(said)) {
        frame.unit = *unit;
        frame.unitAssumed = false;
    }
    return frame;
}

} // namespace zl::formats
