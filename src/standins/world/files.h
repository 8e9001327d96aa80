#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

#include <map>
#include <optional>

namespace zl::standins::world {

/// The delivered files of one folder as a stand-in asks for them. Everything that is wrong becomes a message.
class Files {
public:
    Files(std::filesystem::path folder, TryReport& report);

    void say(Message::Kind kind, std::string file, std::string text, std::string detail) const;
    /// Says `text` of a number with a limit: up to where it is taken, or refused with by how much it is over.
    void sayLimit(const std::string& file, const std::string& text, double value, double limit) const;
    /// The same of bytes.
    void sayBytes(const std::string& file, const std::string& text, double bytes, double limit) const;
    /// The same where only too much is worth a word.
    void refuseOver(const std::string& file, const std::string& text, double value, double limit) const;
    /// Whether any message refuses.
    bool refused() const;

    /// The one description in the folder, whose name ends in `ending`, of `format` and version 1, with texts
    /// under all of `keys`. Refuses, and gives null, otherwise.
    nlohmann::json description(const std::string& ending, const std::string& format,
                               const std::vector<std::string>& keys);
    /// A named file as a path inside the folder; refuses and gives an empty path when the name leads out of
    /// it or the file is missing.
    std::filesystem::path path(const std::string& name, bool subfolders = false);
    /// The same, read whole.
    std::optional<std::string> bytes(const std::string& name, bool subfolders = false);
    /// A picture, judged against the platform's longest edge; `powerOfTwo` asks for such sides. One that is
    /// asked for again is neither read nor judged again.
    std::optional<Picture> picture(const std::string& name, int mostEdge, bool powerOfTwo,
                                   bool subfolders = false);

    std::size_t totalBytes() const { return bytes_; }
    std::size_t count() const { return count_; }
    const std::filesystem::path& folder() const { return folder_; }

private:
    std::optional<Picture> readPicture(const std::string& name, int mostEdge, bool powerOfTwo,
                                       bool subfolders);

    std::filesystem::path folder_;
    TryReport& report_;
    std::size_t bytes_ = 0, count_ = 0;
    std::map<std::string, std::optional<Picture>> pictures_;
};

/// A picture out of its file's bytes, judged; without one where it is refused, and why.
struct Judged {
    std::optional<Picture> picture;
    std::string text, detail;
};
Judged judgedPicture(std::string_view encoded, int mostEdge, bool powerOfTwo);

/// "takes up to 16 000, this is 420 too many"
std::string over(double value, double limit);

} // namespace zl::standins::world
