#pragma once
#include "core/fields/field.h"

namespace zl::fields {

/// All values of `owner`, in the order of the fields, as recipes have them.
nlohmann::ordered_json printed(std::span<const Field> fields, const void* owner);
/// Sets those that `values` names; throws Error at `where` for a name that does not exist or a value that a
/// field does not take, and `owner` is as it was then.
void readInto(std::span<const Field> fields, void* owner, const nlohmann::json& values,
              const std::string& where);
/// Whether a field has a meaning with the present choices.
bool isShown(std::span<const Field> fields, const void* owner, const Field& field);

/// The fields with what they take and their defaults, as a table in Markdown.
std::string manualTable(std::span<const Field> fields, const nlohmann::ordered_json& defaults);

const Field* named(std::span<const Field> fields, std::string_view name);

} // namespace zl::fields
