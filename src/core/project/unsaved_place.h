#pragma once
#include <filesystem>
#include <optional>
#include <vector>

namespace zl::project {

/// Where work on a project that was never saved is kept: an autosave, held so that no other program takes it
/// up while this one runs. The hold is a lock of the system's on a file beside it, so it ends with the
/// program, however that ends.
class UnsavedPlace {
public:
    /// A new place in `folder`, which is made where it is missing. Throws Refused where nothing can be
    /// written.
    static UnsavedPlace madeIn(const std::filesystem::path& folder);
    /// The place of work that a program left; nothing while another program holds it.
    static std::optional<UnsavedPlace> takenUp(const std::filesystem::path& autosave);

    UnsavedPlace(UnsavedPlace&& other) noexcept;
    UnsavedPlace& operator=(UnsavedPlace&& other) noexcept;
    ~UnsavedPlace();

    const std::filesystem::path& autosave() const { return autosave_; }

private:
    UnsavedPlace(std::filesystem::path autosave, int lock) : autosave_(std::move(autosave)), lock_(lock) {}

    std::filesystem::path autosave_;
    int lock_; ///< an open file, -1 when moved from
};

/// The autosaves in `folder` that no running program holds, newest first.
std::vector<std::filesystem::path> unsavedIn(const std::filesystem::path& folder);

} // namespace zl::project
