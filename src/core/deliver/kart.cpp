#include "core/deliver/kart.h"

#include "core/formats/kart_file.h"

namespace zl::deliver {

std::vector<OutFile> Kart::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                const Progress& progress) const {
    progress.report(0, "putting the kart together");
    const std::string name = called.empty() ? labels.name : called;
    const auto chunks = formats::kartChunks(
        model, {.name = name, .credit = labels.credit, .metresPerUnit = sheet.metresPerUnit}, progress);
    return {{"kart." + fileNameFrom(name) + ".kcb", formats::kartFile(chunks)}};
}

} // namespace zl::deliver
