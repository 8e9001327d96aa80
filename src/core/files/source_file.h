#pragma once
#include "core/files/address.h"
#include "core/files/files.h"

#include <set>

namespace zl::files {

/// A file to read, with those that lie beside it: the only way in which a reader gets at files. Whether they
/// are in a folder, in an archive or in an archive within one, a reader does not know.
class SourceFile {
public:
    /// Opens the archives on the way. Throws Error when one cannot be opened; whether the file itself is
    /// there shows when its bytes are asked for. `progress` must outlive it.
    explicit SourceFile(const Address& address, const Progress& progress = {})
        : SourceFile(address, termsOf(address.file), progress) {}
    SourceFile(const Address& address, const Terms& terms, const Progress& progress = {});

    /// Throws Error when it is missing, empty or cannot be read.
    FileBytes bytes() const;
    const Address& address() const { return address_; }
    /// For messages.
    const std::string& where() const { return where_; }
    std::string stem() const { return address_.path().stem().string(); }
    /// In lower case, without its dot.
    std::string extension() const;

    /// A file beside it.
    struct Beside {
        std::string path; ///< what to open it by
        std::string name; ///< without its folders
    };
    /// The file that is meant by `name`, by Files::find(); nothing when it is missing.
    std::optional<Beside> beside(std::string_view name);
    FileBytes bytes(const Beside& file) const;

    /// Files of the disk that decide on what was read: the first is the file itself, or the archive around
    /// it; then those that were asked for beside it, there or not.
    const std::vector<std::filesystem::path>& restsOn() const { return restsOn_; }
    /// Names that were asked for and that nothing has.
    const std::vector<std::string>& missing() const { return missing_; }

private:
    void rest(const std::filesystem::path& file);

    Address address_;
    std::string where_;
    Progress progress_;
    std::unique_ptr<Files> files_;
    std::string folder_; ///< within files_; empty on the disk, where files_ is the folder
    std::string path_;   ///< within files_
    std::vector<std::filesystem::path> restsOn_;
    std::vector<std::string> missing_;
    std::set<std::string> said_; ///< what stands in either list
};

} // namespace zl::files
