#pragma once
#include "core/platform/role_endings.h"
#include "core/recipe/recipe.h"

#include <map>
#include <set>
#include <unordered_map>

namespace zl::project {

/// A picture that a model can wear.
struct OfferedPicture {
    std::string path; ///< as it was given
    PictureRole role = PictureRole::Colour;
    PictureChannel channel = PictureChannel::Colour;
    std::string material; ///< by name; empty for all of the model's

    bool operator==(const OfferedPicture&) const = default;
};

/// What a model brings along of its own, so that nothing is offered in its place.
struct Clothing {
    std::vector<std::string> materials; ///< names
    std::set<std::string> pictures;     ///< file names in small letters
    std::set<PictureRole> everywhere;   ///< roles in which every material has a picture
};
Clothing clothingOf(const Model& model);

/// The pictures of a folder or an archive, found by the models that they go with. Quick however many there
/// are and however many models ask.
class PictureShelf {
public:
    /// Paths with '/' between folders.
    PictureShelf(std::vector<std::string> pictures, platform::RoleEndings endings);

    bool empty() const { return pictures_.empty(); }
    /// The pictures that go with the model at `model`, by material and role, each at most once: those that
    /// share its name without endings, also with a material's name behind it, and those called like one of
    /// its materials alone in its folder, in a neighbouring one or below. One without an ending is the
    /// colour. Of several for one use the nearest wins, and then the first by name.
    /// `passedOver`, when given, receives those others.
    std::vector<OfferedPicture> matching(const std::string& model, const Clothing& own,
                                         std::vector<OfferedPicture>* passedOver = nullptr) const;
    /// The others that lie in the model's folder or below (where there is none, in those beside it), or are
    /// called like it, in order; not those that the model brings along. At most `most` of them are listed.
    struct Left {
        std::vector<std::string> first;
        std::size_t all = 0;
    };
    Left left(const std::string& model, const Clothing& own, const std::vector<OfferedPicture>& matching,
              std::size_t most) const;

private:
    std::vector<std::string> pictures_; ///< in order
    platform::RoleEndings endings_;
    std::vector<platform::NameParts> parts_;
    std::map<std::string, std::vector<std::size_t>> byStem_;
    std::unordered_map<std::string, std::vector<std::size_t>> byName_; ///< in small letters, without folders
};

/// The endings of the project's platforms, first, and then the general ones.
platform::RoleEndings roleEndingsFor(const std::vector<std::string>& platforms,
                                     const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                                     const platform::RoleEndings& general);

/// The step that puts pictures on, their paths within `container`; no entry for no pictures.
recipe::Recipe wearing(const std::vector<OfferedPicture>& pictures, const std::filesystem::path& container);

} // namespace zl::project
