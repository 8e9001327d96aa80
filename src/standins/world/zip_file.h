#pragma once
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace zl::standins::world {

/// A zip as a game reads it: names to what is in them. An entry that leads out of it, is too large or stands
/// in it twice makes it a broken one.
struct ZipFile {
    std::map<std::string, std::string> entries;
    std::string problem; ///< why it cannot be read; empty when it could
};

/// At most `mostBytes` in all when unpacked.
ZipFile readZip(const std::string& bytes, std::size_t mostBytes);

} // namespace zl::standins::world
