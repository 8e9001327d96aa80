#pragma once
#include "core/package/package.h"

#include <optional>

namespace zl::package {

/// A place in a resource's bytes that names another resource: by its key, or by kind and name ("04@name").
struct Reference {
    std::size_t at = 0, size = 0;
    std::optional<ResourceKey> key;
    std::uint32_t kind = 0; ///< of what is named, where there is no key
    std::string name;
};

/// In the order of the bytes. Nothing for kinds that are not known and for geometry that is broken.
std::vector<Reference> referencesIn(const Resource& resource);

/// The same of bytes that may be anything: wherever a key, or kind and name, stands as text.
std::vector<Reference> referencesInText(std::string_view text);

/// Whether the resource's bytes are text: text, material, entry, pose.
bool isText(const Resource& resource);

/// What a package's resources refer to.
class Links {
public:
    explicit Links(const Package& package);

    struct Link {
        std::size_t from = 0; ///< place in Package::resources
        Reference reference;
        std::optional<std::size_t> to; ///< nothing where the package has no such resource
    };
    const std::vector<Link>& all() const { return links_; }
    /// Places of those that `resource` refers to, or that refer to it; each once.
    std::vector<std::size_t> refersTo(std::size_t resource) const;
    std::vector<std::size_t> referredBy(std::size_t resource) const;

private:
    std::vector<Link> links_;
    std::vector<std::vector<std::size_t>> to_, by_; ///< by resource
};

} // namespace zl::package
