#include "standins/files/files_arena.h"

#include "standins/files/delivered.h"
#include "standins/world/files.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

namespace zl::standins::files {

namespace {

constexpr int mostEdge = 1 << 14; ///< of a picture that is drawn

/// All objects of a delivery as they are shown, one beside another as the files have them.
std::vector<world::Item> itemsOf(const Delivered& delivered, const platform::FileTerms& terms) {
    std::vector<world::Item> out;
    std::map<std::string, std::optional<world::Picture>> pictures;
    std::map<const std::string*, std::optional<world::Picture>> inside;
    TryReport ignored;
    world::Files files(delivered.folder, ignored);
    for (const Read& model : delivered.models) {
        const glm::mat4 shown = toShown(model, terms);
        const glm::mat3 turn(shown);
        for (const Read::Object& object : model.objects) {
            if (object.shape.indices.empty()) continue;
            world::Item item{object.name, object.shape, std::nullopt, object.colour};
            for (glm::vec3& p : item.shape.positions) p = shown * glm::vec4(p, 1);
            for (glm::vec3& n : item.shape.normals)
                if (glm::length(n) > 0) n = glm::normalize(turn * n);
            world::addMissingNormals(item.shape);
            if (!object.picture.empty()) {
                auto [at, isNew] = pictures.try_emplace(object.picture);
                if (isNew) at->second = files.picture(object.picture, mostEdge, false, true);
                item.picture = at->second;
            } else if (object.inside) {
                auto [at, isNew] = inside.try_emplace(object.inside.get());
                if (isNew) at->second = world::judgedPicture(*object.inside, mostEdge, false).picture;
                item.picture = at->second;
            }
            out.push_back(std::move(item));
        }
    }
    return out;
}

struct Box {
    glm::vec3 low{1e30f}, high{-1e30f};
    bool empty() const { return low.x > high.x; }
    void add(const world::Shape& shape) {
        low = glm::min(low, shape.low()), high = glm::max(high, shape.high());
    }
};

class FilesArena : public world::Arena {
public:
    FilesArena(Delivered delivered, const platform::FileTerms& terms, std::optional<Delivered> like)
        : Arena(terms.unitName, terms.figureHeight), terms_(terms), delivered_(std::move(delivered)) {
        for (world::Item& item : itemsOf(delivered_, terms)) own_.add(item.shape), addItem(std::move(item));
        ownCount_ = items_.size();
        if (like) {
            compared_ = compared(delivered_, *like, terms);
            for (world::Item& item : itemsOf(*like, terms)) like_.add(item.shape), addItem(std::move(item));
        }
        stand();
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        const glm::mat4 pose = dropped_ ? physics().pose(0).matrix : glm::mat4(1.0f);
        for (std::size_t i = 0; i < ownCount_; ++i) out.push_back({int(i), pose});
        const glm::mat4 beside = glm::translate(glm::mat4(1.0f), glm::vec3(besideX(), 0, 0));
        if (besides_)
            for (std::size_t i = ownCount_; i < items_.size(); ++i) out.push_back({int(i), beside});
        return out;
    }
    std::vector<world::Mark> marks() const override {
        std::vector<world::Mark> out;
        if (dropped_) return out;
        const glm::vec3 nose((own_.low.x + own_.high.x) / 2, 0.02f, own_.high.z);
        out.push_back({nose, nose + glm::vec3(0, 0, float(terms_.figureHeight) * 0.4f), "front", true});
        if (besides_ && !like_.empty()) {
            const glm::vec3 foot(besideX() + (like_.low.x + like_.high.x) / 2, 0.02f, like_.high.z);
            out.push_back({foot, foot + glm::vec3(0, 0, float(terms_.figureHeight) * 0.4f),
                           "the one that works", true});
        }
        return out;
    }
    std::vector<world::Action> actions() const override {
        return {{"drop", "Drop it", "From a figure's height"},
                {"stand", "Put it back", "As the files have it"}};
    }
    void act(const std::string& id) override {
        dropped_ = id == "drop";
        stand(dropped_ ? float(terms_.figureHeight) : 0);
    }
    std::vector<world::Choice> choices() const override {
        if (like_.empty()) return {};
        return {{"beside", "Beside it", {"the one that works", "nothing"}, besides_ ? 0 : 1}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "beside") besides_ = option == 0;
    }
    std::vector<world::Table> tables() const override {
        std::vector<world::Table> out;
        if (!compared_.empty()) {
            world::Table like{"Like the one that works", {"yours", "works"}, {}};
            for (const Compared& one : compared_)
                like.rows.push_back({one.what, {one.here, one.there}, one.differs});
            out.push_back(std::move(like));
        }
        world::Table files{"Files", {}, {}};
        for (const auto& [path, bytes] : delivered_.files) {
            if (files.rows.size() == 24) {
                files.rows.push_back({fmt::format("and {} more", delivered_.files.size() - 24), {""}});
                break;
            }
            files.rows.push_back({path, {showBytes(double(bytes))}});
        }
        out.push_back(std::move(files));
        if (!own_.empty()) {
            const glm::vec3 size = own_.high - own_.low;
            world::Table sizes{"Sizes", {terms_.unitName, "figures"}, {}};
            for (const auto& [name, value] :
                 {std::pair("height", size.y), {"width", size.x}, {"length", size.z}})
                sizes.rows.push_back({name, {showMeasure(value), showMeasure(value / terms_.figureHeight)}});
            out.push_back(std::move(sizes));
        }
        return out;
    }
    std::pair<glm::vec3, glm::vec3> frame() const override {
        Box all = own_;
        if (besides_ && !like_.empty())
            all.low = glm::min(all.low, like_.low + glm::vec3(besideX(), 0, 0)),
            all.high = glm::max(all.high, like_.high + glm::vec3(besideX(), 0, 0));
        const auto figure = float(terms_.figureHeight);
        return {glm::min(all.low, glm::vec3(all.low.x - figure, 0, all.low.z)),
                glm::max(all.high, glm::vec3(all.high.x, figure, all.high.z))};
    }
    glm::vec3 figureFoot() const override { return {own_.low.x - float(terms_.figureHeight) * 0.5f, 0, 0}; }

private:
    float besideX() const { return own_.high.x - like_.low.x + float(terms_.figureHeight) * 0.4f; }
    /// All of it falls as one body, the hull of its corners.
    void stand(float above = 0) {
        physics().clear();
        if (own_.empty()) return;
        if (shape_ < 0) {
            world::Shape all;
            for (std::size_t i = 0; i < ownCount_; ++i)
                all.positions.insert(all.positions.end(), items_[i].shape.positions.begin(),
                                     items_[i].shape.positions.end());
            shape_ = physics().addShape(all, (own_.low + own_.high) * 0.5f);
        }
        physics().add(shape_, {0, above, 0}, above > 0 ? 0.03f : 0);
    }

    platform::FileTerms terms_;
    Delivered delivered_;
    std::vector<Compared> compared_;
    Box own_, like_;
    std::size_t ownCount_ = 0;
    int shape_ = -1;
    bool besides_ = true, dropped_ = false;
};

bool accepted(const TryReport& report) {
    return std::ranges::none_of(report.messages,
                                [](const Message& m) { return m.kind == Message::Kind::Refused; });
}

} // namespace

std::unique_ptr<world::Arena> openUnder(const std::filesystem::path& folder, const platform::FileTerms& terms,
                                        TryReport& report) {
    Delivered delivered = readDelivered(folder, report);
    checkDelivered(delivered, terms, report);
    report.accepted = accepted(report);
    const bool shows =
        std::ranges::any_of(delivered.models, [](const Read& model) { return model.triangles > 0; });
    if (!shows) return nullptr;
    auto like = exampleFor(terms.like, delivered);
    return std::make_unique<FilesArena>(std::move(delivered), terms, std::move(like));
}

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    return openUnder(folder, {}, report);
}

TryReport tryUnder(const std::filesystem::path& folder, const platform::FileTerms& terms) {
    TryReport report;
    const Delivered delivered = readDelivered(folder, report);
    checkDelivered(delivered, terms, report);
    report.accepted = accepted(report);
    std::size_t triangles = 0;
    for (const Read& model : delivered.models) triangles += model.triangles;
    if (const auto [low, high] = shownBox(delivered, terms); low.x <= high.x) {
        report.tests = world::sizesOf(low, high, terms.figureHeight);
        report.lengths = {"width", "height", "length", "gapToFloor"};
    }
    report.tests["files"] = delivered.files.size();
    report.tests["triangles"] = triangles;
    if (const auto like = exampleFor(terms.like, delivered)) {
        auto differs = nlohmann::ordered_json::array();
        for (const Compared& one : compared(delivered, *like, terms))
            if (one.differs)
                differs.push_back({{"name", one.what}, {"yours", one.here}, {"that one", one.there}});
        report.tests["differs"] = std::move(differs);
    }
    return report;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    return tryUnder(folder, {});
}

} // namespace zl::standins::files
