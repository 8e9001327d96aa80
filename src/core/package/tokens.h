#pragma once
#include <array>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

namespace zl::package {

/// Whether a byte can be part of a resource's name in a text: letters, digits, '-', '_', '.', and what is
/// beyond ASCII.
bool isNamePart(char c);

/// The name that begins at `at`, without dots at its end; empty where none begins.
std::string_view nameAt(std::string_view text, std::size_t at);

/// Names that are looked for in texts, whole or as a part between '-', '_' and '.' ("basket" in
/// "kid-basket-wicker"), without regard to case.
class Names {
public:
    /// `with` is what takes its place; it is empty where names are only looked for.
    void add(std::string_view name, std::string_view with = {});
    bool empty() const { return names_.empty(); }

    struct Found {
        std::size_t at = 0, size = 0;
        std::string_view with;
    };
    /// In order, none over another; of several that begin at one place the longest. Linear but for the parts
    /// of a single name.
    std::vector<Found> in(std::string_view text) const;
    /// The text with each found one replaced; `count`, where given, goes up by their number.
    std::string replacedIn(std::string_view text, std::size_t* count = nullptr) const;

private:
    std::unordered_map<std::string, std::string> names_; ///< in small letters
    std::size_t longest_ = 0;
    std::array<bool, 256> begins_{}; ///< letters that a name begins with
};

/// The string values of a JSON text, from behind the opening quotation mark to before the closing one, with
/// the key that each stands under; empty in a list. Text that is no JSON gives what looks like it.
struct StringValue {
    std::size_t at = 0, size = 0;
    std::string_view key;
};
std::vector<StringValue> stringValues(std::string_view json);

} // namespace zl::package
