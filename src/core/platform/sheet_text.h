#pragma once
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace zl::platform {

/// A sheet's text, changed where something of it is changed and nowhere else: comments, order and ways of
/// writing stay. Values are given as TOML has them (base/toml_text.h). Sections are meant by their heading:
/// "" is the top, "unit" is [unit], "rule" with a number is the how many-th [[rule]], from 0.
class SheetText {
public:
    /// Throws Error with the line when it is no TOML.
    explicit SheetText(std::string text);
    ~SheetText();
    SheetText(SheetText&&) noexcept;
    SheetText& operator=(SheetText&&) noexcept;

    const std::string& text() const { return text_; }

    /// Puts a value there, in place of the one that is there; a section that is missing is added.
    void set(std::string_view section, std::string_view key, std::string_view value);
    void set(std::string_view list, std::size_t index, std::string_view key, std::string_view value);
    /// Takes a line away; nothing when there is none.
    void erase(std::string_view section, std::string_view key);
    void erase(std::string_view list, std::size_t index, std::string_view key);

    using Value = std::variant<std::string, double, bool, std::vector<std::string>>;
    /// A value as it stands there; nothing where there is none, or it is something else.
    std::optional<Value> get(std::string_view section, std::string_view key) const;
    std::optional<Value> get(std::string_view list, std::size_t index, std::string_view key) const;
    /// Whether a section is there.
    bool has(std::string_view section) const;

    std::size_t count(std::string_view list) const;
    /// The section of a list whose `key` is this text; nothing where there is none.
    std::optional<std::size_t> find(std::string_view list, std::string_view key, std::string_view text) const;
    /// A whole section, heading included, behind the last of its list, or at the end.
    void add(std::string_view list, std::string_view section);
    /// A whole section away, with comments right above it.
    void remove(std::string_view list, std::size_t index);
    /// The line, from 1, on which a section begins.
    std::size_t lineOf(std::string_view list, std::size_t index) const;

private:
    struct Parsed;

    void replace(std::string text);

    std::string text_;
    std::unique_ptr<Parsed> parsed_;
};

} // namespace zl::platform
