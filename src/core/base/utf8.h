#pragma once
#include <string>
#include <string_view>

namespace zl {

/// Whether the bytes are text in UTF-8 (RFC 3629: no overlong forms, no surrogates, nothing above U+10FFFF).
bool isUtf8(std::string_view bytes);

/// The bytes as UTF-8: as they are when they are that already, else each byte taken for a Latin-1 letter, as
/// old files mean them.
std::string asUtf8(std::string_view bytes);

/// The same, but bytes that are not UTF-8 are letters of code page 437: names in a zip, by its specification
/// (APPNOTE 4.4.4 and appendix D).
std::string asUtf8FromZip(std::string_view bytes);

/// Appends one code point.
void appendUtf8(std::string& out, char32_t letter);

/// At most `most` bytes of a UTF-8 text, cut between letters, with "…" behind it when something was cut.
std::string shortened(std::string_view text, std::size_t most);

} // namespace zl
