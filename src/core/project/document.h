#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

#include <nlohmann/json_fwd.hpp>

#include <filesystem>
#include <memory>
#include <span>
#include <string_view>

namespace zl::project {

/// A source of a piece that is made and edited here, and not by another program: what it holds, and the model
/// that comes of it. It is kept in a file of its own beside the project's.
class Document {
public:
    virtual ~Document() = default;

    /// What its file holds.
    virtual nlohmann::ordered_json toJson() const = 0;
    /// `folder` is where it is kept, for what it names beside it; files that it read, or would have, are in
    /// Model::files. Throws Error when nothing can be made of it.
    virtual Model model(const std::filesystem::path& folder, const Progress& progress) const = 0;
    /// For work that goes on in the background while this one is edited.
    virtual std::unique_ptr<Document> copy() const = 0;
};

/// A change of a document of the kind that it was made for, with what it takes to undo it: a document may be
/// large, and no step of undo holds another copy of it.
class DocumentChange {
public:
    virtual ~DocumentChange() = default;

    /// Throws Error, and leaves the document as it was, when it cannot be done.
    virtual void make(Document& document) = 0;
    /// Right after make() only, or when all that was made since was taken back.
    virtual void takeBack(Document& document) = 0;
};

/// A kind of document: one file and one line in allDocumentKinds().
struct DocumentKind {
    std::string_view id;        ///< in the file
    std::string_view name;      ///< for people
    std::string_view extension; ///< lower case, without dot
    std::unique_ptr<Document> (*fresh)() = nullptr;
    /// Throws Error saying what is wrong.
    std::unique_ptr<Document> (*read)(const nlohmann::json& content) = nullptr;
};

std::span<const DocumentKind> allDocumentKinds();

} // namespace zl::project
