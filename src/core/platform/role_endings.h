#pragma once
#include "core/model/material.h"

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace zl::platform {

class TableReader;

/// What the endings of file names say: that "lantern_n.png" is the relief of what "lantern.obj" shows.
/// Endings are in small letters; `_` in one stands for any of `_`, `-`, `.` and a space.
struct RoleEndings {
    /// Pictures so called are for a role; one that is for several stands here several times.
    struct Ending {
        std::string ending;
        PictureRole role = PictureRole::Colour;
        PictureChannel channel = PictureChannel::Colour;

        bool operator==(const Ending&) const = default;
    };
    std::vector<Ending> pictures;
    /// Say nothing of what a model or a picture is for: "_2k", "_lod0", "_mesh".
    std::vector<std::string> empty;

    bool operator==(const RoleEndings&) const = default;
    /// Takes in what `other` says of endings that this table does not know.
    void add(const RoleEndings& other);
};

/// A name without its endings, in small letters with `_` between words, and what they say it is for.
struct NameParts {
    std::string stem;
    std::vector<RoleEndings::Ending> uses; ///< none where no ending says so
};
/// `name` is a file's without folders and extension. The longest ending counts, whatever stands before it
/// once what says nothing is taken off; a name that is an ending altogether keeps it.
NameParts partsOfName(std::string_view name, const RoleEndings& endings);

/// The table that ships.
const RoleEndings& usualRoleEndings();
/// A person's own in place of it, or the one that ships. Throws Error with file and line for one that cannot
/// be read.
RoleEndings generalRoleEndings();
/// Keeps a person's own; one equal to what ships is not kept. Throws Error when it cannot be written.
void keepGeneralRoleEndings(const RoleEndings& endings);

/// Adds what one `[[ending]]` section says: `names`, what they `mean` (a role, or "nothing") and of which
/// `channel`. Throws Error with file and line.
void readEnding(TableReader& section, RoleEndings& into);

/// "red", "green", "blue", "alpha"; "all" for the colour of a picture.
std::string_view channelName(PictureChannel channel);

} // namespace zl::platform
