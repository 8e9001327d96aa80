// Work that is shared out among threads must not depend on how many there are, nor on which way was taken.
#include "core/formats/format.h"
#include "core/geometry/clean.h"
#include "core/geometry/weld.h"
#include "core/platform/check.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>
#include <tbb/global_control.h>
#include <tbb/task_arena.h>

using namespace zl;

namespace {

/// The same surface with a hole cut by `from`, `to` triangles turned round.
Mesh joinedMeshes(const Mesh& a, const Mesh& b) {
    Mesh out = a;
    const auto shift = static_cast<std::uint32_t>(a.positions.size());
    out.uvSets.clear(), out.normals.clear();
    out.positions.insert(out.positions.end(), b.positions.begin(), b.positions.end());
    for (const std::uint32_t i : b.indices) out.indices.push_back(i + shift);
    out.runs = {{0, static_cast<std::uint32_t>(out.triangleCount()), -1}};
    return out;
}

Mesh insideOut(Mesh mesh) {
    for (std::size_t t = 0; t + 2 < mesh.indices.size(); t += 3)
        std::swap(mesh.indices[t + 1], mesh.indices[t + 2]);
    return mesh;
}

} // namespace

TEST_CASE("welding a bare scan gives the same mesh on one thread and on many") {
    const Mesh scan = shapes::exploded(shapes::sphere(90, 60));
    const auto on = [&](int threads) {
        tbb::global_control limit(tbb::global_control::max_allowed_parallelism, std::size_t(threads));
        geometry::WeldResult result;
        tbb::task_arena(threads).execute([&] { result = geometry::weld(scan, 0); });
        return result;
    };
    const auto one = on(1), many = on(4);
    CHECK(one.mesh.positions == many.mesh.positions);
    CHECK(one.mesh.indices == many.mesh.indices);
    // A sphere of 90 by 60 has 90 · 59 corners on rings and two poles.
    CHECK(one.mesh.vertexCount() == 90 * 59 + 2);
    CHECK(one.cornersJoined == scan.vertexCount() - one.mesh.vertexCount());
    for (std::size_t i = 0; i < scan.indices.size(); ++i)
        REQUIRE(one.mesh.positions[one.mesh.indices[i]] == scan.positions[scan.indices[i]]);
}

TEST_CASE("an OBJ whose corners share one number equals the same written with numbers of their own") {
    TemporaryFolder folder;
    // Six positions, two of them unused; a quad and a triangle; UVs and normals run alongside.
    const std::string head = "v 9 9 9\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 2 0 0\nv 8 8 8\n"
                             "vt 0 0\nvt 0.1 0\nvt 0.2 0\nvt 0.3 0\nvt 0.4 0\nvt 0.5 0\nvt 0.6 0\n"
                             "vn 1 0 0\nvn 0 0 1\nvn 0 0 1\nvn 0 0 1\nvn 0 0 1\nvn 0 1 0\nvn 1 0 0\n";
    const Model same = formats::readModel(folder.write(
        "same.obj", head + "usemtl b\nf 2/2/2 3/3/3 4/4/4 5/5/5\nusemtl a\nf 3/3/3 6/6/6 4/4/4\n"));
    // Spare attributes behind the others make the numbers differ, so every corner is told apart.
    const Model other = formats::readModel(folder.write(
        "other.obj", "vt 0.9 0.9\nvn 0 -1 0\n" + head +
                         "usemtl b\nf 2/3/3 3/4/4 4/5/5 5/6/6\nusemtl a\nf 3/4/4 6/7/7 4/5/5\n"));
    const Mesh &a = *same.meshes[0], &b = *other.meshes[0];
    REQUIRE(a.vertexCount() == 5); // unused corners are left out
    REQUIRE(b.vertexCount() == 5);
    REQUIRE(a.triangleCount() == 3);
    REQUIRE(a.runs.size() == 2);
    REQUIRE(b.runs.size() == 2);
    for (int p = 0; p < 2; ++p) {
        CHECK(same.materials[a.runs[p].material].name == other.materials[b.runs[p].material].name);
        CHECK(a.runs[p].triangleCount == b.runs[p].triangleCount);
    }
    for (std::size_t i = 0; i < a.indices.size(); ++i) {
        const auto x = a.indices[i], y = b.indices[i];
        CHECK(a.positions[x] == b.positions[y]);
        CHECK(a.uvSets[0][x] == b.uvSets[0][y]);
        CHECK(a.normals[x] == b.normals[y]);
    }
}

TEST_CASE("two objects of one OBJ each keep only their own corners") {
    TemporaryFolder folder;
    const Model model = formats::readModel(folder.write(
        "two.obj", "o left\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\no right\nv 5 0 0\nv 6 0 0\nv 5 1 0\nv 6 1 0\n"
                   "f 4 5 6\nf 5 7 6\nf 1 5 6\n"));
    REQUIRE(objectCount(model) == 2);
    CHECK(model.meshes[0]->vertexCount() == 3);
    CHECK(model.meshes[1]->vertexCount() == 5); // four of its own and one of the other's
    CHECK(model.meshes[1]->positions[model.meshes[1]->indices[6]] == glm::vec3(0));
}

TEST_CASE("the wall of a hollow keeps facing into it; other pieces are turned outward") {
    const Mesh outer = shapes::sphere(24, 12, 2), inner = shapes::sphere(16, 8, 1);
    const double wall = geometry::signedVolume(outer) - geometry::signedVolume(inner);
    // A hollow print: the inner surface faces the hollow.
    const auto kept = geometry::faceOutward(joinedMeshes(outer, insideOut(inner)));
    CHECK(kept.turnedOutward == 0);
    CHECK(geometry::signedVolume(kept.mesh) == Approx(wall));
    // The whole thing inside out: the outer wall is turned, the inner one was right for a solid in a hollow
    // and stays outward, as nothing says that it bounds a hollow.
    const auto turned = geometry::faceOutward(joinedMeshes(insideOut(outer), inner));
    CHECK(turned.turnedOutward == outer.triangleCount());
    // Beside one another, an inward piece is turned.
    Mesh aside = insideOut(inner);
    for (glm::vec3& p : aside.positions) p.x += 10;
    const auto beside = geometry::faceOutward(joinedMeshes(outer, aside));
    CHECK(beside.turnedOutward == inner.triangleCount());
    CHECK(geometry::signedVolume(beside.mesh) ==
          Approx(geometry::signedVolume(outer) + geometry::signedVolume(inner)));
    // A solid ball in a hollow in a ball: depth two is outward again.
    const Mesh core = shapes::sphere(12, 6, 0.5);
    const auto nested =
        geometry::faceOutward(joinedMeshes(joinedMeshes(outer, insideOut(inner)), insideOut(core)));
    CHECK(nested.turnedOutward == core.triangleCount());
}

TEST_CASE("faces without area are named one by one") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->positions.push_back({0.5f, 0, 0});
    const auto middle = static_cast<std::uint32_t>(mesh->positions.size() - 1);
    std::uint32_t low = 0, right = 0;
    for (std::uint32_t i = 0; i < middle; ++i) {
        if (mesh->positions[i] == glm::vec3(0, 0, 0)) low = i;
        if (mesh->positions[i] == glm::vec3(1, 0, 0)) right = i;
    }
    mesh->indices.insert(mesh->indices.end(), {low, right, middle, low, low, right});
    mesh->runs[0].triangleCount += 2;
    model.meshes[0] = mesh;
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "playmeadow");
    const auto report = platform::check(model, *sheet);
    const auto* rule = report.rule("slivers");
    REQUIRE(rule);
    CHECK(rule->state == platform::State::Broken);
    REQUIRE(rule->finding.faces.size() == 2);
    CHECK(rule->finding.faces[0].triangle == 12);
    CHECK(rule->finding.faces[1].triangle == 13);
    CHECK(report.rule("triangles")->finding.faces.empty());
}
