#include "core/platform/file_terms.h"

#include "core/platform/delivered_path.h"
#include "core/platform/sheet.h"

namespace zl::platform {

namespace {

void takeRule(const RuleSpec& rule, FileTerms& terms) {
    const auto most = [&](std::string_view check, double& into, const char* limit = "most") {
        if (rule.check == check && rule.limit("per-object", 0) == 0 && rule.limit("per-material", 0) == 0)
            into = rule.limit(limit, 0);
    };
    most("triangles", terms.triangles), most("corners", terms.corners), most("objects", terms.objects);
    most("materials", terms.materials), most("picture-edge", terms.pictureEdge);
    if (rule.check == "file-size") terms.bytes = rule.limit("most-megabytes", 0) * 1e6;
    if (rule.check == "height")
        terms.leastHeight = rule.limit("least", 0), terms.mostHeight = rule.limit("most", 0);
    if (rule.check == "stands-on-floor") terms.floorWithin = rule.limit("within", 0);
    if (rule.check == "power-of-two") terms.powerOfTwo = true;
    if (rule.check == "names-once") terms.namesOnce = true;
    if (rule.check == "names")
        terms.namePattern = rule.texts.at("pattern"), terms.nameWords = rule.texts.at("wanted");
    if (rule.check == "file-names")
        terms.filePattern = rule.texts.at("pattern"), terms.fileWords = rule.texts.at("wanted");
}

} // namespace

FileTerms fileTerms(const Sheet& sheet) {
    FileTerms out{sheet.name, sheet.unitName, sheet.metresPerUnit, sheet.fileMetresPerUnit(),
                  sheet.up,   sheet.front,    sheet.figureHeight};
    for (const RuleSpec& rule : sheet.rules)
        if (rule.severity == Severity::Must) takeRule(rule, out);
    const SheetFiles& own = sheet.files;
    if (!own.packed.empty()) {
        out.wanted.push_back({pathPattern(own.packed), false});
        return out;
    }
    for (const FileOutput& file : own.files)
        out.wanted.push_back(
            {pathPattern(file.path), file.what == FileOutput::What::Body || !file.when.ask.empty()});
    for (const TextOutput& text : own.texts)
        out.wanted.push_back({pathPattern(text.path), !text.when.ask.empty()});
    for (const TableOutput& table : own.tables)
        out.wanted.push_back({pathPattern(table.path), !table.when.ask.empty()});
    for (const StillOutput& still : own.stills)
        out.wanted.push_back({pathPattern(still.path), !still.when.ask.empty()});
    const bool packs = std::ranges::any_of(
        own.files, [](const FileOutput& file) { return file.pictures == FileOutput::Pictures::Packed; });
    if (packs)
        for (const SheetPicture& picture : sheet.surface.pictures)
            out.wanted.push_back({pathPattern(picture.name) + ".*", true});
    return out;
}

} // namespace zl::platform
