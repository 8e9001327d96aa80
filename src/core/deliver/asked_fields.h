#pragma once
#include "core/fields/field.h"
#include "core/platform/sheet_files.h"

namespace zl::deliver {

/// What a sheet asks at delivery, as fields of an array of as many texts. Lives as long as the program, as
/// the tables of steps do: those who edit fields keep pointers to them.
std::span<const fields::Field> askedFields(const std::vector<platform::Ask>& asks);

} // namespace zl::deliver
