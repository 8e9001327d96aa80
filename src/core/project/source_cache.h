#pragma once
#include "core/project/documents.h"
#include "core/project/project.h"

#include <condition_variable>

namespace zl::project {

/// A piece's sources as one model, with a hash that changes when any file behind it does: those that are
/// missing count too, for when they come.
struct LoadedPiece {
    Model model;
    Hash hash = 0;
};

/// Reads sources once and again only when a file they were read from changed on disk (by time and size).
/// May be used from several threads; a file that is being read by one is waited for by the others.
class SourceCache {
public:
    /// `documents` are the project's own sources that are edited; without, there are only files.
    explicit SourceCache(std::shared_ptr<Documents> documents = std::make_shared<Documents>())
        : documents_(std::move(documents)) {}

    /// Stamps that change with every edit of a document, too.
    Stamps stamps() const { return documents_->stamps(); }

    /// In its first size. Throws Error when a source is missing or unreadable, or when the piece has none.
    LoadedPiece load(const Project& project, const Piece& piece, const Progress& progress = {});
    /// In one of its sizes; in its first when it has none of that name.
    LoadedPiece load(const Project& project, const Piece& piece, const std::string& size,
                     const Progress& progress = {});
    LoadedPiece load(const std::filesystem::path& file, const Progress& progress = {});

    /// A yardstick in metres, standing as its file or its unit says. Throws Error when it cannot be read.
    LoadedPiece load(const Project& project, const YardstickSource& yardstick, const Progress& progress = {});

private:
    /// What lies there, with the stamp of all files behind it.
    LoadedPiece read(const std::filesystem::path& file, const Progress& progress) const;
    Hash stampNow(const Model& model) const { return hashText(stamps().of(model.files)); }

    struct Held {
        Model model;
        std::optional<Hash> stamp; ///< of all files behind the model; nothing when it has to be read
        bool reading = false;
    };
    std::shared_ptr<Documents> documents_;
    std::mutex mutex_;
    std::condition_variable read_;
    std::map<std::string, Held> held_;
};

/// Several models as one: nodes side by side; the first's unit and placement rule.
Model joined(const std::vector<Model>& models);

} // namespace zl::project
