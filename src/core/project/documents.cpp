#include "core/project/documents.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/project/blocks_document.h"
#include "core/project/solids_document.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <random>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

constexpr std::string_view documentFormat = "zest-loom-document";
constexpr int documentVersion = 1;
constexpr std::size_t mostBytes = 1u << 30;

[[noreturn]] void refuse(const std::string& what, const fs::path& file) {
    throw Error(what, file.string(), "Restore it from a copy.");
}

} // namespace

std::span<const DocumentKind> allDocumentKinds() {
    static constexpr DocumentKind kinds[] = {blocksKind, solidsKind};
    return kinds;
}

std::string documentText(const DocumentKind& kind, const Document& document) {
    return jsonText(nlohmann::ordered_json{{"format", documentFormat},
                                           {"version", documentVersion},
                                           {"kind", kind.id},
                                           {"content", document.toJson()}},
                    1) +
           "\n";
}

Documents::Documents(std::span<const DocumentKind> kinds) : kinds_(kinds) {
    std::random_device source;
    run_ = std::uint64_t(source()) << 32 | source();
}

const DocumentKind* Documents::kindOf(const fs::path& file) const {
    const std::string extension = lowerCase(file.extension().string());
    for (const DocumentKind& kind : kinds_)
        if (!extension.empty() && extension.substr(1) == kind.extension) return &kind;
    return nullptr;
}

void Documents::make(const fs::path& file, std::unique_ptr<Document> content) {
    const DocumentKind* kind = kindOf(file);
    if (!kind) throw Error("is no kind of document that is known", file.string());
    const std::lock_guard lock(mutex_);
    std::error_code error;
    if (open_.contains(file) || fs::exists(file, error))
        throw Error("is there already", file.string(), "Choose another name.");
    Open& made = open_[file];
    made.document = content ? std::move(content) : kind->fresh();
    made.kind = kind->id;
    made.fileStamp = zl::stampOf(file);
    made.state = ++states_;
}

std::unique_ptr<Document> Documents::read(std::string_view text, const fs::path& file) const {
    std::string fault;
    const auto json = parsedJson(text, &fault);
    if (json.is_discarded()) refuse("is no document that can be read: its JSON " + fault, file);
    if (!json.is_object() || json.value("format", nlohmann::json()) != documentFormat ||
        !json.contains("content"))
        refuse("is not a document of Zest Loom", file);
    const DocumentKind* kind = kindOf(file);
    if (!kind || json.value("kind", nlohmann::json()) != kind->id)
        refuse("holds another kind of document than its name says", file);
    const auto version = json.value("version", nlohmann::json());
    if (!version.is_number_integer()) refuse("does not say its version", file);
    if (version.get<long long>() > documentVersion)
        throw Error(fmt::format("was saved by a newer Zest Loom (document version {}, this one knows {})",
                                version.get<long long>(), documentVersion),
                    file.string(), "Update Zest Loom; the file was left as it is.");
    try {
        return kind->read(json["content"]);
    } catch (const Error& error) {
        throw Error(error.what(), file.string() + (error.where().empty() ? "" : ", " + error.where()),
                    error.mend());
    }
}

Documents::Open& Documents::open(const fs::path& file) {
    const auto known = open_.find(file);
    const std::string onDisk = zl::stampOf(file);
    if (known != open_.end()) {
        Open& held = known->second;
        if (held.state != held.saved || held.fileStamp == onDisk) return held;
        open_.erase(known); // another program wrote the file, and nothing here differs from what it replaced
    }
    auto document = read(readText(file, mostBytes), file);
    Open& fresh = open_[file];
    fresh.document = std::move(document);
    fresh.kind = kindOf(file)->id;
    fresh.fileStamp = onDisk;
    return fresh;
}

Documents::State Documents::now(const fs::path& file) {
    const std::lock_guard lock(mutex_);
    Open& held = open(file);
    if (!held.shared) held.shared = held.document->copy();
    return {held.shared, stampOf(file).value_or(held.fileStamp)};
}

void Documents::edit(const fs::path& file, DocumentChange& change) {
    const std::lock_guard lock(mutex_);
    Open& held = open(file);
    change.make(*held.document);
    held.shared.reset();
    held.before.push_back(std::exchange(held.state, ++states_));
}

void Documents::takeBack(const fs::path& file, DocumentChange& change) {
    const std::lock_guard lock(mutex_);
    Open& held = open(file);
    if (held.before.empty())
        throw Error("was written by another program since", file.string(),
                    "What was done before cannot be taken back.");
    change.takeBack(*held.document);
    held.shared.reset();
    held.state = held.before.back();
    held.before.pop_back();
}

std::vector<fs::path> Documents::unsaved() const {
    const std::lock_guard lock(mutex_);
    std::vector<fs::path> out;
    for (const auto& [file, held] : open_)
        if (held.state != held.saved) out.push_back(file);
    return out;
}

void Documents::save(const std::vector<fs::path>& used) {
    const std::lock_guard lock(mutex_);
    for (auto& [file, held] : open_) {
        if (held.state == held.saved || std::ranges::find(used, file) == used.end()) continue;
        writeFile(file, documentText(*kindOf(file), *held.document));
        held.saved = held.state;
        held.fileStamp = zl::stampOf(file);
    }
}

nlohmann::ordered_json Documents::unsavedJson() const {
    const std::lock_guard lock(mutex_);
    auto out = nlohmann::ordered_json::object();
    for (const auto& [file, held] : open_)
        if (held.state != held.saved) out[file.string()] = documentText(*kindOf(file), *held.document);
    return out;
}

void Documents::takeUp(const nlohmann::json& unsaved) {
    if (!unsaved.is_object()) return;
    const std::lock_guard lock(mutex_);
    for (const auto& [name, text] : unsaved.items()) {
        const fs::path file = name;
        if (!text.is_string() || !kindOf(file)) continue;
        Open taken;
        taken.document = read(text.get_ref<const std::string&>(), file);
        taken.kind = kindOf(file)->id;
        taken.fileStamp = zl::stampOf(file);
        taken.state = ++states_;
        open_[file] = std::move(taken);
    }
}

void Documents::forgetAll() {
    const std::lock_guard lock(mutex_);
    open_.clear();
}

std::optional<std::string> Documents::stampOf(const fs::path& file) const {
    const auto known = open_.find(file);
    if (known == open_.end() || known->second.state == 0) return std::nullopt;
    const Open& held = known->second;
    if (held.state == held.saved && held.fileStamp != zl::stampOf(file)) return std::nullopt;
    return fmt::format("edit {:016x}-{}", run_, held.state);
}

Stamps Documents::stamps() {
    return Stamps([this](const fs::path& file) {
        const std::lock_guard lock(mutex_);
        return stampOf(file);
    });
}

} // namespace zl::project
