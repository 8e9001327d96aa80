#pragma once
#include "core/base/passing_folder.h"
#include "core/files/files.h"
#include "core/learn/layout.h"
#include "core/learn/property.h"

#include <memory>

namespace zl::learn {

/// What a folder of files that a game takes says of it.
struct Evidence {
    std::filesystem::path root, refusedRoot; ///< the folders that paths of files are relative to
    /// What was taken out of archives, for as long as somebody looks at it.
    std::vector<std::shared_ptr<const PassingFolder>> takenOut;
    std::vector<FileFacts> files; ///< accepted by path, then refused by path
    std::vector<files::Passed> unreadable;
    Layout layout;
    std::vector<Property> properties;

    const Property* property(std::string_view id) const;
};

/// Where files come from: a folder, an archive, or a package.
struct Examples {
    std::filesystem::path accepted;
    std::filesystem::path refused; ///< may be empty
};

/// Looks at every file, on all cores. Throws Error when a place cannot be opened or holds nothing, Cancelled.
Evidence evidenceOf(const Examples& examples, const Progress& progress = {});

/// Works out everything but the files' own facts anew: for files that were left out, or came to be refused.
void concludeFrom(Evidence& evidence);

} // namespace zl::learn
