#pragma once
#include <nlohmann/json_fwd.hpp>

#include <string>
#include <string_view>

namespace zl::fields {

struct Field;

/// A kind of value that parameters have: what it takes from a recipe, how it is written there, and what the
/// manual says of it. What it reads becomes the JSON that a struct's member is set from.
class FieldType {
public:
    virtual ~FieldType() = default;
    virtual std::string_view name() const = 0; ///< "length", one word, as `zest-loom-cli steps --json` has it
    /// `value` as the struct holds it; throws Error naming what was expected.
    virtual nlohmann::json read(const Field& field, const nlohmann::json& value) const = 0;
    /// What the struct holds as recipes have it: `read(print(x))` is x.
    virtual nlohmann::json print(const Field& field, const nlohmann::json& held) const;
    /// What it takes, for the manual: "metres, 0 to 10".
    virtual std::string describe(const Field& field) const = 0;
    /// Whether `Field::least` and `Field::most` hold it in.
    virtual bool isNumber() const { return false; }
};

using TypeOf = const FieldType& (*)();

const FieldType& number(); ///< a plain number
const FieldType& length(); ///< metres
const FieldType& angle();  ///< degrees outside, radians in the struct
const FieldType& share();  ///< 0 to 1, shown in per cent
const FieldType& count();  ///< a whole number
const FieldType& flag();
const FieldType& choice(); ///< an enum: the id of one of Field::choices
const FieldType& point();  ///< [x, y, z] in metres
const FieldType& text();
const FieldType& word();      ///< one of the words that the sheet offers; empty is the first
const FieldType& parts();     ///< PartNames
const FieldType& colour();    ///< Colour
const FieldType& list();      ///< rows, each with fields of its own
const FieldType& selection(); ///< selection::Selection
const FieldType& modelRef();  ///< ModelRef
const FieldType& pictureRef();
const FieldType& nodeRef();
const FieldType& boneRef();
const FieldType& clipRef();

} // namespace zl::fields
