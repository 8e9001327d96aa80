#pragma once
#include <cstddef>
#include <memory>
#include <string>
#include <string_view>

namespace zl::files {

/// What opens the locked files of an archive. Its letters lie in memory that is not written to the disk, and
/// are wiped when it goes.
class Key {
public:
    /// Takes the letters over and wipes them where they were.
    static std::shared_ptr<const Key> taking(std::string& letters);

    ~Key();
    Key(const Key&) = delete;
    Key& operator=(const Key&) = delete;

    /// Ends with a zero that does not count.
    std::string_view text() const { return {letters_, size_}; }

private:
    explicit Key(std::string_view letters);

    char* letters_;
    std::size_t size_;
};

/// The first line of a file, or the value of a variable of the environment. Throws Error when there is none,
/// or when it is empty.
std::shared_ptr<const Key> keyFromFile(const std::string& file);
std::shared_ptr<const Key> keyFromVariable(const std::string& name);

} // namespace zl::files
