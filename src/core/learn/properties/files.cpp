// Which files go together, and how each is written.
#include "core/base/toml_text.h"
#include "core/formats/format.h"
#include "core/learn/patterns.h"

#include <fmt/format.h>

namespace zl::learn {

namespace {

/// The format that writes what was read of another; null where nothing does.
const formats::Format* writerOf(const std::string& id) {
    const auto* format = formats::formatWithId(id == "gltf" ? "glb" : id);
    return format && format->write ? format : nullptr;
}

template <class Get>
bool all(const std::vector<const FileFacts*>& files, const Get& get) {
    return std::ranges::all_of(files,
                               [&](const FileFacts* file) { return file->model && get(*file->model); });
}

/// The folder that pictures lie in, as seen from the delivered one; nothing where they lie in several.
std::optional<std::string> pictureFolder(const std::vector<PatternFiles>& patterns, bool named) {
    std::optional<std::string> out;
    for (const PatternFiles& own : patterns) {
        if (own.pattern->part != Part::Picture || own.named != named) continue;
        const std::string folder = std::filesystem::path(own.pattern->path).parent_path().generic_string();
        if (out && *out != folder) return std::nullopt;
        out = folder;
    }
    return out;
}

/// Whether pictures are packed by sections of their own, which packing.cpp offers.
bool hasPacked(const std::vector<PatternFiles>& patterns) {
    return std::ranges::any_of(patterns, [](const PatternFiles& own) { return own.isPacked(); });
}

/// A GLB is in metres, Y up, by its standard; of games that have them otherwise it is said.
std::string frameOf(const Basis& basis) {
    if (basis.metresPerUnit == 1 && basis.up == 1 && basis.front == 2 && !basis.frontIsNegative) return {};
    return fmt::format("metres = {}\nup = \"{}\"\nfront = \"{}{}\"\n", tomlText(basis.metresPerUnit),
                       "XYZ"[basis.up], basis.frontIsNegative ? '-' : '+', "XYZ"[basis.front]);
}

std::string sectionOf(const Basis& basis, const PatternFiles& own, const std::vector<PatternFiles>& patterns,
                      std::vector<std::string>& reasons) {
    const auto* writer = writerOf(own.files.front()->model->format);
    std::string out = fmt::format("[[file]]\npath = {}\nformat = {}\n", tomlText(own.pattern->path),
                                  tomlText(std::string(writer->id)));
    const bool body = own.pattern->part == Part::Body;
    if (writer->id == "glb") out += frameOf(basis);
    if (body) out += "what = \"body\"\n";
    if (own.pattern->path.find("{object") != std::string::npos) out += "each = \"object\"\n";
    // Formats that know nodes may keep what they carry; none of these does.
    const bool knowsNodes = writer->id == "glb" || writer->id == "dae" || writer->id == "x3d";
    if (knowsNodes && !body &&
        all(own.files, [](const ModelFacts& m) { return m.transforms == 0 && m.bones == 0; })) {
        out += "baked = true\n";
        reasons.emplace_back("nothing on nodes");
    }
    if (knowsNodes &&
        all(own.files, [](const ModelFacts& m) { return m.bones == 0 && m.clips == 0 && m.morphs == 0; }))
        out += "still = true\n";
    if (body) return out;
    const bool holds =
        std::ranges::any_of(own.files, [](const FileFacts* f) { return !f->model->inside.empty(); });
    if (const auto folder = pictureFolder(patterns, true)) {
        if (writer->id == "glb") out += "pictures = \"beside\"\n";
        if (!folder->empty()) out += fmt::format("picture-folder = {}\n", tomlText(*folder + "/"));
        reasons.emplace_back("pictures beside it that it names");
    } else if (hasPacked(patterns)) {
        out += "pictures = \"packed\"\n";
        reasons.emplace_back("pictures packed by their names");
    } else if (const auto lone = pictureFolder(patterns, false); lone && !holds) {
        out += "pictures = \"apart\"\n";
        if (!lone->empty()) out += fmt::format("picture-folder = {}\n", tomlText(*lone + "/"));
        reasons.emplace_back("pictures beside it that it does not name");
    } else if (!holds) {
        out += "pictures = \"none\"\n";
        reasons.emplace_back("no pictures");
    } else {
        reasons.emplace_back("pictures inside");
    }
    return out;
}

} // namespace

void learnFiles(Basis& basis, std::vector<Property>& out) {
    const auto patterns = patternFiles(basis.evidence);
    std::size_t groups = 0;
    for (const Group& group : basis.evidence.layout.groups) groups += !group.refused;
    for (const PatternFiles& own : patterns) {
        const std::string& path = own.pattern->path;
        if (!own.usual && !own.isPlaced()) continue; // single files' own names
        Property property{"file:" + path, "Files " + path, ""};
        for (const FileFacts* file : own.files)
            property.accepted.push_back({std::size_t(file - basis.evidence.files.data()), 0, file->path});
        const std::string share = shareWords(own.pattern->groups, groups, "piece has it", "pieces have it");
        const bool isModel = own.pattern->part == Part::Model || own.pattern->part == Part::Body;
        if (isModel && own.isPlaced()) {
            if (!writerOf(own.files.front()->model->format)) {
                property.offered =
                    Offer{{}, {}, {}, share + "; such files can be read here and not written", false};
            } else if (own.pattern->part == Part::Body || own.usual) {
                std::vector<std::string> reasons;
                Offer offer;
                offer.sections = sectionOf(basis, own, patterns, reasons);
                offer.confidence = share;
                for (const std::string& reason : reasons) offer.confidence += ", " + reason;
                offer.isSure = groups >= 2 || own.pattern->groups == groups;
                property.offered = std::move(offer);
            }
        } else if (own.pattern->part == Part::Picture && own.usual && !own.isPlaced() && !own.named &&
                   own.pattern->files == own.pattern->groups && groups >= 2) {
            // One picture that is called the same in each: it shows the piece.
            Offer offer;
            const PictureFacts& one = *own.files.front()->picture;
            offer.sections = fmt::format("[[still]]\npath = {}\nwidth = {}\nheight = {}\n", tomlText(path),
                                         std::clamp(one.width, 16, 4096), std::clamp(one.height, 16, 4096));
            offer.confidence = share + ", always called so";
            offer.isSure = one.format == "png";
            property.offered = std::move(offer);
        } else if (own.pattern->part == Part::Other && !path.ends_with(".mtl")) {
            property.offered = Offer{{}, {}, {}, share + "; nothing here knows what is in it", false};
        }
        out.push_back(std::move(property));
    }
    if (basis.evidence.layout.ownFolders && groups >= 2) {
        Property property{"layout", "A folder for each piece", ""};
        for (const Group& group : basis.evidence.layout.groups)
            if (!group.refused && !group.members.empty())
                property.accepted.push_back({group.members.front().file, 0, group.folder});
        property.offered =
            Offer{{},
                  {{"deliver.installed", "\"{name}\""}},
                  {},
                  shareWords(groups, groups, "piece has", "pieces have") + " a folder of its own",
                  true};
        out.push_back(std::move(property));
    }
    Property compression{"compression", "Compression of models", ""};
    bool any = false;
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.model) continue;
        any |= file.model->compressed;
        (file.refused ? compression.refused : compression.accepted)
            .push_back(
                {i, file.model->compressed ? 1.0 : 0.0, file.model->compressed ? "compressed" : "plain"});
    }
    if (any && !compression.accepted.empty()) out.push_back(std::move(compression));
}

} // namespace zl::learn
