// Documents that are a piece's source: edited by changes, told apart by their states, saved in files of their
// own.
#include "core/base/file_set.h"
#include "core/project/autosave.h"
#include "core/project/dependencies.h"
#include "core/project/source_cache.h"
#include "support/crates.h"
#include "support/finds.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

struct Pile {
    TemporaryFolder folder;
    std::shared_ptr<project::Documents> documents =
        std::make_shared<project::Documents>(std::span(&cratesKind(), 1));
    project::SourceCache sources{documents};
    std::filesystem::path file = folder / "pile.crates";
    project::Project project = projectOf(folder, {{"Pile", "pile.crates"}});

    std::size_t crates() { return sources.load(file).model.nodes.size(); }
    Hash key() {
        Stamps stamps = sources.stamps();
        return dependenciesOf(project, project.pieces[0], *sheet("playmeadow")).shapeKey(stamps);
    }
    std::string problem(const std::string& bytes) {
        folder.write("pile.crates", bytes);
        try {
            sources.load(file);
        } catch (const Error& error) {
            return error.whole();
        }
        return {};
    }
};

} // namespace

TEST_CASE("a document is a source: what is edited is read, saved or not") {
    Pile pile;
    pile.documents->make(pile.file);
    CHECK_THROWS_AS(pile.documents->make(pile.file), Error);
    CHECK_THROWS_AS(pile.documents->make(pile.folder / "pile.unknown"), Error);
    CHECK(pile.crates() == 0);
    const Hash empty = pile.key();
    PutOn one(1), two(0.5), none(0);
    pile.documents->edit(pile.file, one);
    const Hash after = pile.key();
    CHECK(after != empty);
    CHECK(pile.crates() == 1);
    pile.documents->edit(pile.file, two);
    CHECK(pile.crates() == 2);
    CHECK_THROWS_AS(pile.documents->edit(pile.file, none), Error);
    CHECK(pile.crates() == 2);
    pile.documents->takeBack(pile.file, two);
    CHECK(pile.crates() == 1);
    CHECK(pile.key() == after); // the same state: nothing runs again
    pile.documents->takeBack(pile.file, one);
    CHECK(pile.key() == empty);
    CHECK_THROWS_AS(pile.documents->takeBack(pile.file, one), Error);
    // Two states at the same depth of undo are two.
    pile.documents->edit(pile.file, two);
    CHECK(pile.key() != after);
    CHECK_FALSE(std::filesystem::exists(pile.file));
}

TEST_CASE("saving writes what is unsaved and used, and nothing runs again for it") {
    Pile pile;
    pile.documents->make(pile.file);
    pile.documents->make(pile.folder / "other.crates");
    PutOn one(1), two(2);
    pile.documents->edit(pile.file, one);
    const Hash key = pile.key();
    CHECK(pile.documents->unsaved().size() == 2);
    pile.documents->save({pile.file});
    CHECK(pile.documents->unsaved() == std::vector{pile.folder / "other.crates"});
    CHECK_FALSE(std::filesystem::exists(pile.folder / "other.crates"));
    CHECK(pile.key() == key);
    project::Documents fresh(std::span(&cratesKind(), 1));
    CHECK(dynamic_cast<const Crates&>(*fresh.now(pile.file).document).heights == std::vector{1.0});
    // Taken back after saving, it is unsaved again; made again, it is not.
    pile.documents->takeBack(pile.file, one);
    CHECK(pile.documents->unsaved().size() == 2);
    pile.documents->edit(pile.file, two);
    pile.documents->save({pile.file});
    CHECK(pile.crates() == 1);
}

TEST_CASE("a document is copied when it is asked for, and not by its edits") {
    Pile pile;
    pile.documents->make(pile.file);
    Crates::copies = 0;
    std::vector<PutOn> changes(100, PutOn(1));
    for (PutOn& change : changes) pile.documents->edit(pile.file, change);
    CHECK(Crates::copies == 0);
    const auto now = pile.documents->now(pile.file);
    CHECK(pile.documents->now(pile.file).document == now.document);
    CHECK(Crates::copies == 1);
    pile.documents->takeBack(pile.file, changes.back());
    CHECK(dynamic_cast<const Crates&>(*now.document).heights.size() == 100); // as it was
}

TEST_CASE("another program's file is taken when nothing here differs from the one before") {
    Pile pile;
    pile.documents->make(pile.file);
    PutOn one(1), two(2);
    pile.documents->edit(pile.file, one);
    pile.documents->save({pile.file});
    const std::string text = readText(pile.file);
    const Hash key = pile.key();
    std::string more = text;
    more.replace(more.find("1.0"), 3, "1.0, 4.0, 5.0");
    pile.folder.write("pile.crates", more);
    CHECK(pile.key() != key);
    CHECK(pile.crates() == 3);
    CHECK_THROWS_AS(pile.documents->takeBack(pile.file, one), Error); // that is not what was edited
    pile.documents->edit(pile.file, two);
    pile.folder.write("pile.crates", text);
    CHECK(pile.crates() == 4); // what is edited here is not thrown away
}

TEST_CASE("an autosave keeps what documents hold and gives it back") {
    Pile pile;
    project::save(pile.project);
    pile.documents->make(pile.file);
    PutOn one(1);
    pile.documents->edit(pile.file, one);
    const auto aside = project::autosavePath(pile.project.file);
    project::autosave(pile.project, *pile.documents, aside);
    CHECK(project::hasUnsavedWork(pile.project.file));
    auto later = std::make_shared<project::Documents>(std::span(&cratesKind(), 1));
    project::takeUpDocuments(aside, *later);
    CHECK(later->unsaved() == std::vector{pile.file});
    CHECK(project::SourceCache(later).load(pile.file).model.nodes.size() == 1);
    CHECK_FALSE(std::filesystem::exists(pile.file));
}

TEST_CASE("what is no document of its kind is refused with the reason") {
    Pile pile;
    const auto document = [](const std::string& rest) {
        return R"({"format": "zest-loom-document", )" + rest + "}";
    };
    using Catch::Contains;
    CHECK_THAT(pile.problem("{"), Contains("breaks off") && Contains("pile.crates"));
    CHECK_THAT(pile.problem("[]"), Contains("not a document"));
    CHECK_THAT(pile.problem(document(R"("kind": "crates", "version": 1)")), Contains("not a document"));
    CHECK_THAT(pile.problem(document(R"("kind": "solids", "version": 1, "content": [])")),
               Contains("another kind"));
    CHECK_THAT(pile.problem(document(R"("kind": "crates", "content": [])")), Contains("version"));
    CHECK_THAT(pile.problem(document(R"("kind": "crates", "version": 2, "content": [])")),
               Contains("newer Zest Loom"));
    CHECK_THAT(pile.problem(document(R"("kind": "crates", "version": 1, "content": {})")),
               Contains("is no pile") && Contains("pile.crates, crates"));
    CHECK(pile.problem(document(R"("kind": "crates", "version": 1, "content": [1, 2])")).empty());
    CHECK(pile.crates() == 2);
}
