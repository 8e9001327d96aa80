#include "core/formats/declared_frame.h"

#include "core/base/error.h"
#include "core/base/plain_number.h"
#include "core/files/files.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::formats {

namespace {

constexpr std::size_t headBytes = 1 << 16;

/// The start of the first "….model" part in a 3MF archive; empty when it cannot be read.
std::string headOf3mf(std::string_view bytes) {
    try {
        auto copy = std::unique_ptr<char[]>(new char[bytes.size()]);
        std::ranges::copy(bytes, copy.get());
        const auto parts = files::filesIn(FileBytes(std::move(copy), bytes.size()), "3MF");
        for (const files::Entry& part : parts->list())
            if (part.path.ends_with(".model"))
                return std::string(parts->open(part.path).text().substr(0, headBytes));
    } catch (const Error&) {
        // What is wrong with it, the reader itself will say.
    }
    return {};
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

SourceFrame declaredFrame(std::string_view bytes, const std::string& extension) {
    const std::string head(bytes.substr(0, headBytes));
    if (extension == "dae") return declaredByCollada(head);
    if (extension == "x3d") return {unitNamed("m"), Up::Y, false, false};
    const bool is3mf = extension == "3mf";
    if (!is3mf && extension != "amf") return {};
    // Both mean millimetres and Z up unless told otherwise; AMF says nothing of an axis.
    SourceFrame frame{unitNamed("mm"), Up::Z, !is3mf, !is3mf};
    const std::string said =
        is3mf ? attributeOf(headOf3mf(bytes), "model", "unit") : attributeOf(head, "amf", "unit");
    if (const Unit* unit = unitCalled(said)) {
        frame.unit = *unit;
        frame.unitAssumed = false;
    }
    return frame;
}

} // namespace zl::formats
