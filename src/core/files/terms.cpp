#include "core/files/terms.h"

#include <map>
#include <mutex>

namespace fs = std::filesystem;

namespace zl::files {

namespace {

struct Given {
    std::mutex mutex;
    std::map<std::string, Terms> byArchive;
};

Given& given() {
    static Given all;
    return all;
}

std::string nameOf(const fs::path& archive) {
    std::error_code error;
    const fs::path real = archive.empty() ? archive : fs::weakly_canonical(archive, error);
    return (error ? archive : real).string();
}

} // namespace

Terms termsOf(const fs::path& archive) {
    const std::string name = nameOf(archive);
    const std::scoped_lock lock(given().mutex);
    const auto& known = given().byArchive;
    const auto own = known.find(name), all = known.find({});
    Terms terms = own != known.end() ? own->second : Terms();
    if (!terms.key && all != known.end()) terms.key = all->second.key;
    return terms;
}

void giveKey(const fs::path& archive, std::shared_ptr<const Key> key) {
    const std::string name = nameOf(archive);
    const std::scoped_lock lock(given().mutex);
    given().byArchive[name].key = std::move(key);
}

void trust(const fs::path& archive) {
    const std::string name = nameOf(archive);
    const std::scoped_lock lock(given().mutex);
    given().byArchive[name].limits = Limits::trusting();
}

} // namespace zl::files
