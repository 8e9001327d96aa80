#pragma once
#include "standins/stand_in.h"

#include <optional>

namespace zl::standins::console {

/// The headers of one piece, looked through before a compiler sees them.
struct Headers {
    std::string name; ///< what everything in them begins with
    std::string names, model, pictures;
    std::vector<std::string> clips, segments; ///< as the game calls them, in their order
};

/// Reads NAME_names.h, NAME_model.h and NAME_pictures.h of a folder. They are refused where they hold
/// anything but data: what is compiled and run here must not be able to do anything.
std::optional<Headers> readHeaders(const std::filesystem::path& folder, TryReport& report);

/// What in a header's text is not data, with its line; nothing when it all is.
std::optional<std::string> notData(const std::string& text, const std::string& name);

} // namespace zl::standins::console
