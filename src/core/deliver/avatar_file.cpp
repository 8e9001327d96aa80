#include "core/deliver/avatar_file.h"

#include "core/formats/format.h"
#include "core/model/avatar.h"

namespace zl::deliver {

std::vector<OutFile> AvatarFile::make(const Model& model, const platform::Sheet&, const Labels& labels,
                                      const Progress& progress) const {
    progress.report(0, "putting the avatar together");
    Model out = model;
    if (model.avatar && !labels.credit.empty() && !model.avatar->licence.contains("copyrightInformation")) {
        Avatar own = *model.avatar;
        own.licence["copyrightInformation"] = labels.credit;
        out.avatar = std::make_shared<const Avatar>(std::move(own));
    }
    return formats::writeVrm(out, {.name = fileNameFrom(called.empty() ? labels.name : called)}, nullptr);
}

} // namespace zl::deliver
