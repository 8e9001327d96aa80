// What the channels of pictures hold that go by their names: how the game wants them packed.
#include "core/base/toml_text.h"
#include "core/learn/patterns.h"
#include "core/learn/picture_packing.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

namespace zl::learn {

void learnPacking(Basis& basis, std::vector<Property>& out) {
    for (const PatternFiles& own : patternFiles(basis.evidence)) {
        const std::string& path = own.pattern->path;
        const bool byMaterial = path.find("{material") != std::string::npos,
                   byName = path.find("{name") != std::string::npos;
        if (own.pattern->part != Part::Picture || !own.usual || (!byMaterial && !byName)) continue;
        std::vector<const PictureFacts*> pictures;
        Property property{"packing:" + path, "Channels of " + path, ""};
        int edge = 0;
        std::vector<std::string> formats;
        for (const FileFacts* file : own.files) {
            pictures.push_back(&*file->picture);
            edge = std::max({edge, file->picture->width, file->picture->height});
            formats.push_back(file->picture->format);
            property.accepted.push_back(
                {std::size_t(file - basis.evidence.files.data()), 0,
                 fmt::format("{} × {}", file->picture->width, file->picture->height)});
        }
        const Packing packing = packingOf(pictures, ownPart(path));
        Offer offer;
        offer.isSure = packing.isSure && pictures.size() >= 2;
        for (std::size_t k = 0; k < 4; ++k)
            if (!packing.channels[k].empty())
                offer.confidence += fmt::format("{}{}: {}", offer.confidence.empty() ? "" : ", ",
                                                channelWord(k), packing.channels[k]);
        for (const std::string& reason : packing.reasons) offer.confidence += "; " + reason;
        if (own.isPacked()) { // what models name themselves is written with them
            const std::string stem =
                path.substr(0, path.size() - std::filesystem::path(path).extension().string().size());
            offer.sections = fmt::format("[[picture]]\nname = {}\n", tomlText(stem));
            for (std::size_t k = 0; k < 4; ++k) {
                const std::string& channel = packing.channels[k];
                if (channel.empty()) continue;
                const bool number = channel.find_first_not_of("0123456789.") == std::string::npos;
                offer.sections +=
                    fmt::format("{} = {}\n", channelWord(k), number ? channel : tomlText(channel));
            }
            offer.sections += fmt::format("format = {}\n", tomlText(formats.front()));
        }
        property.offered = std::move(offer);
        out.push_back(std::move(property));
    }
}

} // namespace zl::learn
