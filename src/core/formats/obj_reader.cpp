// Wavefront OBJ. The file is cut into chunks at line ends and parsed in parallel; each chunk keeps
// its own corners and faces, which are numbered through once all chunks are known. Source: the OBJ
// specification (Wavefront, version 3.0), plus vertex colours after the position, as several programs write.
#include "core/formats/format.h"
#include "core/formats/mtl.h"
#include "core/formats/obj_assembler.h"
#include "core/formats/text.h"

#include "core/base/error.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>

namespace zl::formats {

using namespace obj;

namespace {

std::vector<ObjectPlan> planObjects(const std::vector<Chunk>& chunks, MaterialLibrary& library,
                                    const std::string& fallback) {
    bool objects = false;
    for (const Chunk& chunk : chunks)
        for (const Event& event : chunk.events) objects |= event.kind == Event::Kind::Object;
    const Event::Kind opens = objects ? Event::Kind::Object : Event::Kind::Group;
    std::vector<ObjectPlan> plans;
    std::map<std::string, std::size_t> byName; // groups may be taken up again; objects are new each time
    std::size_t current = 0;
    plans.push_back({fallback, {}});
    int material = -1;
    for (std::size_t c = 0; c < chunks.size(); ++c) {
        std::size_t face = 0;
        const auto closeRun = [&](std::size_t upTo) {
            if (upTo > face) plans[current].runs.push_back({c, face, upTo, material});
            face = upTo;
        };
        for (const Event& event : chunks[c].events) {
            closeRun(event.face);
            if (event.kind == Event::Kind::Material) material = library.use(event.name);
            if (event.kind != opens) continue;
            const std::string name = event.name.empty() ? fallback : event.name;
            const auto known = byName.find(name);
            if (opens == Event::Kind::Group && known != byName.end()) {
                current = known->second;
            } else {
                current = plans.size();
                byName[name] = current;
                plans.push_back({name, {}});
            }
        }
        closeRun(chunks[c].faceStart.size());
    }
    std::erase_if(plans, [](const ObjectPlan& plan) { return plan.runs.empty(); });
    return plans;
}

} // namespace

Model readObj(files::SourceFile& source, const Progress& progress) {
    const FileBytes file = source.bytes();
    std::string storage;
    const std::string_view text = textOf(file, storage);
    std::vector<Chunk> chunks = cut(text, 4 * std::max(4, tbb::this_task_arena::max_concurrency()));
    std::atomic<std::size_t> done{0};
    progress.report(0, "reading");
    tbb::parallel_for(std::size_t(0), chunks.size(), [&](std::size_t i) {
        if (progress.isCancelled()) return;
        parse(chunks[i]);
        progress.report(0.6 * double(++done) / double(chunks.size()), "reading");
    });
    progress.checkCancel();

    Model model;
    MaterialLibrary library(source, model);
    std::size_t ignored = 0, broken = 0;
    bool other = false;
    for (const Chunk& chunk : chunks) {
        ignored += chunk.ignoredLines, broken += chunk.brokenFaces, other |= chunk.other;
        for (const Event& event : chunk.events)
            if (event.kind == Event::Kind::Library) library.load(event.name);
    }
    auto plans = planObjects(chunks, library, source.stem());
    Assembler assembler(chunks);
    for (std::size_t i = 0; i < plans.size(); ++i) {
        progress.report(0.6 + 0.4 * double(i) / double(plans.size()), "putting objects together");
        model.nodes.push_back({plans[i].name, -1, glm::dmat4(1.0), static_cast<int>(model.meshes.size())});
        model.meshes.push_back(std::make_shared<const Mesh>(assembler.assemble(plans[i], plans.size() == 1)));
    }
    if (plans.empty()) {
        auto positions = assembler.takePositions();
        if (positions.empty())
            throw Error("holds no corners and no faces", source.where(), "Check that it is an OBJ model.");
        auto cloud = std::make_shared<Mesh>();
        cloud->positions = std::move(positions);
        model.nodes.push_back({source.stem(), -1, glm::dmat4(1.0), 0});
        model.meshes.push_back(std::move(cloud));
    }
    if (assembler.badFaces() > 0)
        model.warnings.push_back(
            fmt::format("left out {}: no such corners in the file",
                        showCount(static_cast<long long>(assembler.badFaces()), "face", "faces")));
    if (broken > 0)
        model.warnings.push_back(
            fmt::format("left out {}: fewer than three corners", showCount(broken, "face", "faces")));
    if (ignored > 0)
        model.warnings.push_back(
            fmt::format("passed over {}: not understood", showCount(ignored, "line", "lines")));
    if (other) model.dropped.emplace_back("lines, points, curves and free-form surfaces");
    return model;
}

} // namespace zl::formats
