#pragma once
#include "core/model/model.h"
#include "standins/world/shape.h"

#include <filesystem>
#include <string>
#include <string_view>

namespace fuzz {

/// A folder of this process for readers that take a path; in memory where there is such a place.
const std::filesystem::path& folder();
/// A file in it. Quicker than the program's own way, which flushes to the disk.
std::filesystem::path written(const std::string& name, std::string_view bytes);
/// A promise was broken, which no input may do: ends the program.
[[noreturn]] void complain(const std::string& what);
/// Complains of a model that is not as models are promised to be.
void lookThrough(const zl::Model& model);
/// The same for a shape of a stand-in.
void lookThrough(const zl::standins::world::Shape& shape);

} // namespace fuzz
