#include "core/steps/take_parts.h"

#include "core/base/letters.h"
#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/geometry/parts.h"
#include "core/geometry/clip_keys.h"
#include "core/geometry/wheel_places.h"
#include "core/model/finite.h"
#include "core/model/node_path.h"
#include "core/model/take_materials.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <map>

namespace zl::steps {

namespace {

using Row = TakeParts::Row;

/// Nodes whose names match, none of them below another that does.
std::vector<int> topmost(const Model& model, const PartNames& names) {
    const NamePatterns wanted(names.patterns);
    std::vector<char> within(model.nodes.size(), 0);
    std::vector<int> out;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const int parent = model.nodes[n].parent;
        const bool below = parent >= 0 && within[std::size_t(parent)];
        const bool is = !names.patterns.empty() && wanted.match(model.nodes[n].name);
        within[n] = below || is;
        if (is && !below) out.push_back(int(n));
    }
    return out;
}

int nodeCalled(const Model& model, const std::map<NodePath, int, std::less<>>& byPath,
               const std::string& name, const std::string& whose) {
    if (const auto found = byPath.find(name); found != byPath.end()) return found->second;
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (model.nodes[n].name == name) return int(n);
    throw Error(fmt::format("{} has no part \"{}\"", whose, name), std::string(TakeParts::info.id),
                "Choose another name, or take its row out.");
}

/// The turn of a matrix alone, its columns brought to unit length.
glm::dmat4 turnOf(const glm::dmat4& m) {
    glm::dmat3 turn(m);
    for (int c = 0; c < 3; ++c) turn[c] = glm::normalize(turn[c]);
    return isFinite(glm::dmat4(turn)) ? glm::dmat4(turn) : glm::dmat4(1.0);
}

class Taking {
public:
    Taking(const Model& in, const Model& donor, const std::string& donorName, const TakeParts& step,
           StepContext& context)
        : donor_(donor), donorPaths_(nodesByPath(donor)), donorWorld_(worldMatrices(donor)),
          donorName_(donorName), without_(step.without.patterns), leaving_(step.leaving.patterns),
          leavesSome_(!step.leaving.patterns.empty()), context_(context), out_(in), materials_(out_, donor) {}

    /// Rows for all parts and places that pair up.
    std::vector<Row> paired(const PartNames& parts, const PartNames& places) const {
        const auto from = topmost(donor_, parts),
                   to = topmost(out_, places.patterns.empty() ? parts : places);
        if (from.empty())
            throw Error(fmt::format("{} has no part \"{}\"", donorName_, patternsText(parts.patterns)),
                        std::string(TakeParts::info.id), "Choose among its parts.");
        if (to.empty())
            throw Error(fmt::format("this piece has no node \"{}\"",
                                    patternsText((places.patterns.empty() ? parts : places).patterns)),
                        std::string(TakeParts::info.id), "Choose among its nodes.");
        const auto named = [&](int part) {
            const auto found = std::ranges::find_if(to, [&](int place) {
                return lowerCase(out_.nodes[std::size_t(place)].name) ==
                       lowerCase(donor_.nodes[std::size_t(part)].name);
            });
            return found == to.end() ? -1 : int(found - to.begin());
        };
        std::vector<int> place;
        for (const int part : from) place.push_back(named(part));
        if (std::ranges::find(place, -1) != place.end()) { // one name too few: all by where they are
            std::vector<glm::dvec3> theirs, ours;
            for (const int part : from)
                theirs.push_back(placeOf(donor_, part, taken(part), geometry::By::Centre));
            for (const int node : to)
                ours.push_back(placeOf(out_, node, geometry::withBelow(out_, node), geometry::By::Centre));
            place = geometry::pairedByPlace(theirs, ours);
        }
        const auto donorPaths = nodePaths(donor_), paths = nodePaths(out_);
        std::vector<Row> rows;
        for (std::size_t i = 0; i < from.size(); ++i) {
            if (place[i] < 0) {
                context_.fellShort(fmt::format("\"{}\" finds no place", donorPaths[std::size_t(from[i])]));
                continue;
            }
            Row row;
            row.part = donorPaths[std::size_t(from[i])];
            const int at = to[std::size_t(place[i])], above = out_.nodes[std::size_t(at)].parent;
            row.place = paths[std::size_t(at)];
            // What the place hangs on, where that is there for nothing else.
            if (above >= 0 && out_.nodes[std::size_t(above)].mesh < 0 &&
                out_.nodes[std::size_t(above)].parent >= 0)
                row.along = paths[std::size_t(above)];
            rows.push_back(std::move(row));
        }
        return rows;
    }

    void take(const Row& row) {
        const auto paths = nodesByPath(out_); // rows before have put nodes in
        const int part = nodeCalled(donor_, donorPaths_, row.part, donorName_),
                  place = nodeCalled(out_, paths, row.place, "this piece");
        const auto nodes = taken(part);
        const auto replaced = replacedAt(place);
        const bool moved = goesAlong(row, place, paths);
        const glm::dvec3 to = placeOf(out_, place, replaced, row.by) + (moved ? glm::dvec3(0) : row.offset);
        const glm::dmat4 change = changeFor(row, part, nodes, place, to);
        const glm::dmat4 toLocal = glm::inverse(worldMatrices(out_)[std::size_t(place)]);
        if (!isFinite(toLocal)) {
            context_.fellShort(
                fmt::format("\"{}\" has a scale of zero, so nothing can be put there", row.place));
            return;
        }
        for (const int node : replaced) {
            Node& leaves = out_.nodes[std::size_t(node)];
            if (leaves.mesh >= 0) left_ += out_.meshes[std::size_t(leaves.mesh)]->triangleCount();
            leaves.mesh = leaves.skin = -1;
        }
        std::size_t triangles = 0;
        for (const int node : nodes) {
            const Node& from = donor_.nodes[std::size_t(node)];
            if (from.mesh < 0) continue;
            if (from.skin >= 0) context_.fellShort(fmt::format("\"{}\" comes without its bones", from.name));
            Mesh mesh = geometry::transformed(*donor_.meshes[std::size_t(from.mesh)],
                                              toLocal * change * donorWorld_[std::size_t(node)]);
            mesh.joints.clear(), mesh.weights.clear();
            mesh.cut = {};
            for (MaterialRun& run : mesh.runs) run.material = materials_.material(run.material);
            bringSurfaces(mesh, donor_, out_);
            triangles += mesh.triangleCount();
            const int shape = int(out_.meshes.size());
            out_.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
            if (out_.nodes[std::size_t(place)].mesh < 0)
                out_.nodes[std::size_t(place)].mesh = shape;
            else
                out_.nodes.push_back({from.name, place, glm::dmat4(1.0), shape});
        }
        came_ += triangles;
        const glm::dvec3 came(change * glm::dvec4(placeOf(donor_, part, nodes, row.by), 1));
        told_.push_back({{"part", row.part},
                         {"place", row.place},
                         {"triangles", triangles},
                         {"at", {came.x, came.y, came.z}}});
        const std::string &from = donor_.nodes[std::size_t(part)].name,
                          &onto = out_.nodes[std::size_t(place)].name;
        if (from == onto)
            same_.push_back(from);
        else
            context_.note(fmt::format("{} → {}", from, onto));
    }

    Model done() {
        if (!same_.empty())
            context_.note(fmt::format("onto the nodes of the same names: {}", showNames(same_)));
        if (left_ > 0)
            context_.note(fmt::format("{} triangles leave, {} come", showNumber(double(left_), 0),
                                      showNumber(double(came_), 0)));
        for (const std::string& renamed : materials_.renamed()) context_.note("told apart: " + renamed);
        context_.facts["taken"] = std::move(told_);
        context_.facts["renamed"] = materials_.renamed();
        geometry::dropStrayWeightKeys(out_);
        return geometry::withoutNodes(out_, std::vector<char>(out_.nodes.size(), 0));
    }

private:
    /// What leaves at a place: what it shows itself, and what is named of what hangs below it.
    std::vector<int> replacedAt(int place) const {
        std::vector<int> out{place};
        for (const int node : geometry::withBelow(out_, place))
            if (node != place && leavesSome_ && leaving_.match(out_.nodes[std::size_t(node)].name))
                out.push_back(node);
        return out;
    }

    /// A donor's part with what comes along.
    std::vector<int> taken(int part) const { return geometry::belonging(donor_, part, without_); }

    /// Moves the node that is to go along; whether the place is below it and so has moved already.
    bool goesAlong(const Row& row, int place, const std::map<NodePath, int, std::less<>>& paths) {
        if (row.along.empty() || row.offset == glm::dvec3(0)) return false;
        const int node = nodeCalled(out_, paths, row.along, "this piece");
        const int parent = out_.nodes[std::size_t(node)].parent;
        const auto world = worldMatrices(out_);
        const glm::dmat4 above = parent < 0 ? out_.placement : world[std::size_t(parent)];
        const glm::dmat4 local =
            glm::inverse(above) * glm::translate(glm::dmat4(1.0), row.offset) * world[std::size_t(node)];
        if (!isFinite(local)) {
            context_.fellShort(fmt::format("\"{}\" hangs on something of no size and stays", row.along));
            return false;
        }
        out_.nodes[std::size_t(node)].local = local;
        const auto moved = geometry::withBelow(out_, node);
        return std::ranges::find(moved, place) != moved.end();
    }

    /// What brings the donor's part, in its own world, to its place in this one's.
    glm::dmat4 changeFor(const Row& row, int part, const std::vector<int>& nodes, int place,
                         const glm::dvec3& to) const {
        const glm::dvec3 from = placeOf(donor_, part, nodes, row.by);
        glm::dmat4 shape(1.0);
        if (row.turned)
            shape = turnOf(worldMatrices(out_)[std::size_t(place)]) *
                    glm::inverse(turnOf(donorWorld_[std::size_t(part)]));
        if (row.sized) {
            const auto largest = [](const geometry::Bounds& bounds) {
                const glm::dvec3 size = bounds.size();
                return std::max({size.x, size.y, size.z});
            };
            const double was = largest(geometry::boundsOf(out_, replacedAt(place))),
                         is = largest(geometry::boundsOf(donor_, nodes));
            if (was > 0 && is > 0) shape = glm::scale(shape, glm::dvec3(was / is));
        }
        if (row.mirrored) shape = glm::scale(shape, glm::dvec3(-1, 1, 1));
        return glm::translate(glm::dmat4(1.0), to) * shape * glm::translate(glm::dmat4(1.0), -from);
    }

    const Model& donor_;
    std::map<NodePath, int, std::less<>> donorPaths_;
    std::vector<glm::dmat4> donorWorld_;
    std::string donorName_;
    std::vector<std::string> without_;
    NamePatterns leaving_;
    bool leavesSome_;
    StepContext& context_;
    Model out_;
    MaterialsInto materials_;
    std::size_t left_ = 0, came_ = 0; ///< triangles
    std::vector<std::string> same_;   ///< parts that went onto nodes of their names
    nlohmann::json told_ = nlohmann::json::array();
};

} // namespace

Model TakeParts::apply(const Model& in, StepContext& context) const {
    if (from.name.empty()) {
        context.note("no other piece is chosen");
        return in;
    }
    const Companion donor = context.input(from);
    Taking taking(in, *donor.model, donor.name, *this, context);
    std::vector<Row> all = rows;
    if (!parts.patterns.empty()) {
        const auto found = taking.paired(parts, places);
        all.insert(all.begin(), found.begin(), found.end());
        TakeParts byHand = *this;
        byHand.rows = all;
        byHand.parts = byHand.places = {};
        context.offer("Change the pairs one by one", fields::printed(fields, &byHand));
    }
    for (const Row& row : all)
        if (!row.part.empty() && !row.place.empty()) taking.take(row);
    return taking.done();
}

} // namespace zl::steps
