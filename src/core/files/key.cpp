#include "core/files/key.h"

#include "core/base/error.h"

#include <sodium.h>

#include <algorithm>
#include <cstdlib>
#include <fstream>

namespace zl::files {

namespace {

constexpr std::size_t mostLetters = 4096;

std::shared_ptr<const Key> checked(std::string& letters, const std::string& where) {
    if (letters.empty()) throw Error("holds no key", where, "Put the key there, alone on its line.");
    if (letters.size() > mostLetters)
        throw Error("is longer than any key", where, "Name the file that holds nothing but the key.");
    return Key::taking(letters);
}

} // namespace

std::shared_ptr<const Key> Key::taking(std::string& letters) {
    auto key = std::shared_ptr<const Key>(new Key(letters));
    sodium_memzero(letters.data(), letters.size());
    letters.clear();
    return key;
}

Key::Key(std::string_view letters) : size_(letters.size()) {
    if (sodium_init() < 0) throw Error("the library for keys cannot be used on this machine");
    letters_ = static_cast<char*>(sodium_malloc(size_ + 1));
    if (!letters_) throw std::bad_alloc();
    *std::copy(letters.begin(), letters.end(), letters_) = '\0';
    sodium_mprotect_readonly(letters_);
}

Key::~Key() {
    sodium_free(letters_); // wipes
}

std::shared_ptr<const Key> keyFromFile(const std::string& file) {
    std::ifstream in;
    in.rdbuf()->pubsetbuf(nullptr, 0); // no buffer of its own, which nobody would wipe
    in.open(file, std::ios::binary);
    if (!in) throw Error("cannot be opened", file, "Name the file that holds the key.");
    std::string letters(mostLetters + 2, '\0');
    in.read(letters.data(), std::streamsize(letters.size()));
    letters.resize(std::size_t(in.gcount()));
    letters.resize(std::min(letters.size(), letters.find_first_of("\r\n")));
    return checked(letters, file);
}

std::shared_ptr<const Key> keyFromVariable(const std::string& name) {
    const char* value = std::getenv(name.c_str());
    std::string letters = value ? value : "";
    return checked(letters, "the variable " + name);
}

} // namespace zl::files
