#pragma once
#include "core/deliver/deliver.h"
#include "core/formats/format.h"

#include <nlohmann/json.hpp>

namespace zl::deliver {

/// A file that is delivered, as texts speak of it.
struct Written {
    enum class Kind { Model, Body, Picture, Other } kind = Kind::Other;
    std::string path;
    std::size_t bytes = 0;
    std::string object{}; ///< by name, where it is one's: steps on the way may have numbered them anew
    int material = -1;    ///< of the whole model, where it is one's
    std::string role;     ///< of a packed picture: the sheet's name for it, its places left out
};

/// What a template can name: the piece in numbers, its parts, its files, and what was answered, as
/// docs/templates.md lists it. Lengths are in the numbers and axes of `frame`. Every name is always there; a
/// list may be empty and a text too. `whole` is the model as the file has it that holds all, for what it
/// takes.
nlohmann::json pieceData(const Model& model, const Model& whole, const platform::Sheet& sheet,
                         const Labels& labels, const formats::WriteOptions& frame,
                         const std::map<std::string, std::string>& answers,
                         const std::vector<Written>& written);

/// `name` in each style in which names are written, with itself: {"name": "Tide bell", "hyphens": …}.
nlohmann::json namedData(const std::string& name);

} // namespace zl::deliver
