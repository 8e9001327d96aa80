#pragma once
#include "core/base/stamp.h"
#include "core/project/document.h"

#include <map>
#include <mutex>
#include <optional>

namespace zl::project {

/// What the file of a document holds.
std::string documentText(const DocumentKind& kind, const Document& document);

/// The documents of a project that were read or edited, by the whole paths of their files. A document is
/// taken from here and not from its file once it is edited. May be asked by several threads; edited by one.
class Documents {
public:
    explicit Documents(std::span<const DocumentKind> kinds = allDocumentKinds());

    /// By the extension; null when no kind has it.
    const DocumentKind* kindOf(const std::filesystem::path& file) const;
    /// A new one, empty where it is given no content; its file comes with save(). Throws Error when no kind
    /// has this extension, and when there is such a file or document already.
    void make(const std::filesystem::path& file, std::unique_ptr<Document> content = nullptr);

    /// The document as it is now, and what tells this state from all others. It does not change any more.
    /// Throws Error when its file is missing, no document, or of a newer version.
    struct State {
        std::shared_ptr<const Document> document;
        std::string stamp;
    };
    State now(const std::filesystem::path& file);

    /// Throws Error as the change does, or as now() does.
    void edit(const std::filesystem::path& file, DocumentChange& change);
    /// Back to the state before edit(), also for what compares states.
    void takeBack(const std::filesystem::path& file, DocumentChange& change);

    /// Documents that differ from their files.
    std::vector<std::filesystem::path> unsaved() const;
    /// Writes those of them that are in `used`, each whole. Throws Refused; what was written by then counts
    /// as saved.
    void save(const std::vector<std::filesystem::path>& used);
    /// What unsaved documents hold, by path, for an autosave; and back, before anything else is asked.
    nlohmann::ordered_json unsavedJson() const;
    void takeUp(const nlohmann::json& unsaved);
    void forgetAll();

    /// Stamps in which an edited document has a stamp of its state in place of its file's.
    Stamps stamps();

private:
    struct Open {
        std::unique_ptr<Document> document;
        std::string_view kind;
        std::shared_ptr<const Document> shared; ///< a copy of this state, once asked for
        std::string fileStamp;                  ///< when it was read or written
        std::uint64_t state = 0, saved = 0;     ///< 0 is as it was read
        std::vector<std::uint64_t> before;      ///< states that takeBack() goes back to
    };
    /// Each with the lock held.
    Open& open(const std::filesystem::path& file);
    std::optional<std::string> stampOf(const std::filesystem::path& file) const;
    std::unique_ptr<Document> read(std::string_view text, const std::filesystem::path& file) const;

    std::span<const DocumentKind> kinds_;
    mutable std::mutex mutex_;
    std::map<std::filesystem::path, Open> open_;
    std::uint64_t states_ = 0; ///< that were ever made
    std::uint64_t run_;        ///< tells these from the states of other runs of the program
};

} // namespace zl::project
