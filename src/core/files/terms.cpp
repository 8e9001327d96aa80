#include "core/files/terms.h"

#include <algorithm>
#include <map>
#include <mutex>
#include <utility>

namespace fs = std::filesystem;

namespace zl::files {

namespace {

struct Given {
    std::mutex mutex;
    struct Own {
        std::shared_ptr<const Key> key;
        bool trusted = false;
    };
    std::map<std::string, Own> byArchive; ///< "" is all of them
    std::vector<KeyOpened> opened;
    std::vector<std::pair<std::string, std::weak_ptr<const Key>>> told; ///< all that were ever in `opened`
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
    Terms terms;
    terms.archive = name;
    for (const std::string& of : {name, std::string()}) {
        const auto known = given().byArchive.find(of);
        if (known == given().byArchive.end()) continue;
        if (!terms.key) terms.key = known->second.key;
        if (known->second.trusted) terms.limits = Limits::trusting();
    }
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
    given().byArchive[name].trusted = true;
}

void noteOpened(const Terms& terms) {
    if (terms.archive.empty() || !terms.key) return;
    const std::scoped_lock lock(given().mutex);
    Given& all = given();
    if (std::ranges::any_of(all.told, [&](const auto& known) {
            return known.first == terms.archive && known.second.lock() == terms.key;
        }))
        return;
    all.told.emplace_back(terms.archive.string(), terms.key);
    all.opened.push_back({terms.archive, terms.key});
}

std::vector<KeyOpened> takeOpened() {
    const std::scoped_lock lock(given().mutex);
    return std::exchange(given().opened, {});
}

} // namespace zl::files
