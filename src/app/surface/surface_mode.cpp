#include "app/surface/surface_mode.h"

#include "app/qt_text.h"

#include "core/base/file_set.h"
#include "core/platform/delivered_path.h"
#include "core/texture/picture_file.h"
#include "core/uv/layout_parts.h"
#include "core/uv/layout_picture.h"

#include <QFileDialog>

namespace zl::app {

namespace {

constexpr double mostRepeats = 4;        ///< of an island each way
constexpr std::size_t mostEdges = 20000; ///< triangles' edges that are painted; borders alone above that

QPointF point(glm::vec2 uv) {
    return {uv.x, uv.y};
}

/// By how much an island is moved to show on the first picture: once for every picture that it reaches over.
std::vector<glm::vec2> placesIn(const uv::UvIsland& island) {
    std::vector<glm::vec2> out;
    const glm::vec2 first = uv::toFirstPicture(island);
    const glm::dvec2 reaches =
        glm::min(glm::ceil(island.most + glm::dvec2(first) - uv::borderSlack), mostRepeats);
    for (int x = 0; x < int(std::max(1.0, reaches.x)); ++x)
        for (int y = 0; y < int(std::max(1.0, reaches.y)); ++y) out.push_back(first - glm::vec2(x, y));
    return out;
}

} // namespace

SurfaceMode::SurfaceMode(Session& session, const Parts& parts, QObject* parent)
    : QObject(parent), session_(session), parts_(parts) {
    parts_.view.hide();
    for (SurfaceSwitch* on : {&parts_.onModel, &parts_.view.sights()}) {
        on->setVisible(on == &parts_.view.sights());
        connect(on, &SurfaceSwitch::chosen, this, &SurfaceMode::show);
    }
    connect(&parts_.view, &SurfaceView::modesChanged, this, [this] {
        if (on_) showSight();
    });
    connect(&parts_.materials, &MaterialsPanel::openedChanged, this, [this] {
        openFirstPictures();
        showSight();
    });
    connect(&parts_.materials, &MaterialsPanel::pictureChosen, this, [this](const ChosenPicture& picture) {
        showPicture(picture);
        if (sight_ != SurfaceSight::Pictures) show(SurfaceSight::Pictures);
    });
    connect(&parts_.layout, &LayoutCard::litChanged, this, &SurfaceMode::showLayout);
    connect(&parts_.layout, &LayoutCard::saveAsked, this, [this](bool svg) {
        const MaterialLook* one = material();
        if (!one) return;
        const QString ending = svg ? ".svg" : ".png";
        QString file =
            QFileDialog::getSaveFileName(&parts_.view, tr("Save the layout"), one->name + "-layout" + ending,
                                         svg ? tr("SVG (*.svg)") : tr("PNG (*.png)"));
        if (file.isEmpty()) return;
        if (!file.endsWith(ending, Qt::CaseInsensitive)) file += ending;
        saveLayout(file);
    });
    connect(&parts_.selected, &Selected::changed, this, &SurfaceMode::followSelection);
    connect(&parts_.view.canvas(), &PictureCanvas::pointed, this,
            [this](const QPointF& uv) { pointAtModel(uv); });
    connect(&parts_.view.canvas(), &PictureCanvas::left, this, [this] { pointAtModel(std::nullopt); });
    connect(&parts_.view.canvas(), &PictureCanvas::clicked, this, &SurfaceMode::selectPartAt);
}

const MaterialLook* SurfaceMode::material() const {
    return look_ ? look_->material(parts_.materials.opened()) : nullptr;
}

void SurfaceMode::open(const QString& piece, const QString& platform) {
    piece_ = piece, platform_ = platform;
    look_.reset();
    sight_ = SurfaceSight::Model;
    source_.reset(), delivered_.reset();
    levels_ = {};
    waiting_.clear();
    parts_.materials.showNone(waiting_);
    showSight();
}

void SurfaceMode::setOn(bool on) {
    if (on_ != on) {
        on_ = on;
        showSight();
    }
    refresh();
}

void SurfaceMode::refresh() {
    if (!on_) return;
    const CrossingState& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    using Kind = CrossingState::Kind;
    if (!look_) {
        waiting_ = state.kind == Kind::Failed || state.kind == Kind::Stopped
                       ? tr("Nothing is known of its surfaces: the piece could not be worked out.")
                       : tr("Looking at the piece's surfaces…");
        parts_.materials.showNone(waiting_);
        parts_.view.canvas().setMessage(waiting_);
    }
    if (state.kind != Kind::Ready || !sheet) return;
    const Model& model = state.evaluation.model;
    const bool known = look_ && look_->sheet == sheet && look_->model.meshes == model.meshes &&
                       look_->model.images == model.images && look_->model.materials == model.materials &&
                       look_->model.placement == model.placement;
    if (known) return;
    if (working_) {
        again_ = true;
        return;
    }
    working_ = true;
    const auto done = [this, id = std::pair(piece_, platform_)](std::shared_ptr<const SurfaceLook> look) {
        working_ = false;
        if (look && id == std::pair(piece_, platform_)) take(std::move(look));
        if (std::exchange(again_, false) || id != std::pair(piece_, platform_)) refresh();
    };
    session_.jobs().start<std::shared_ptr<const SurfaceLook>>(
        tr("Looking at the surfaces of %1").arg(piece_), this,
        [model, sheet](const Progress& progress) { return makeSurfaceLook(model, sheet, progress); }, done,
        [this, done](const QString& problem) {
            Q_EMIT session_.said(problem);
            done(nullptr);
        },
        Urgency::Shown, [this] { working_ = false; });
}

void SurfaceMode::take(std::shared_ptr<const SurfaceLook> look) {
    look_ = std::move(look);
    parts_.materials.show(look_);
    const MaterialLook* one = material();
    // What was looked at stays so where it is still there.
    const bool stands = one && (!source_ || *source_ < one->pictures.size()) &&
                        (!delivered_ || *delivered_ < one->delivered.size()) && (source_ || delivered_);
    if (!stands) openFirstPictures();
    levels_ = {};
    showSight();
}

void SurfaceMode::openFirstPictures() {
    const MaterialLook* one = material();
    source_.reset(), delivered_.reset();
    levels_ = {};
    if (!one) return;
    if (!one->pictures.empty()) source_ = 0;
    if (!one->delivered.empty()) delivered_ = one->usual;
    matchOther(false);
    chosen_ = {!source_ && delivered_, source_ ? 0 : delivered_.value_or(0)};
}

void SurfaceMode::show(SurfaceSight sight) {
    sight_ = sight;
    showSight();
    if (sight != SurfaceSight::Model) parts_.view.canvas().setFocus();
}

void SurfaceMode::showPicture(const ChosenPicture& picture) {
    (picture.delivered ? delivered_ : source_) = picture.index;
    matchOther(picture.delivered);
    chosen_ = picture;
    levels_ = {};
    showSight();
}

void SurfaceMode::matchOther(bool delivered) {
    const MaterialLook* one = material();
    if (!one || !source_ || !delivered_) return;
    const auto holds = [](const MaterialLook::Delivered& packed, const MaterialLook::Picture& picture) {
        return std::ranges::find(packed.roles, picture.role) != packed.roles.end();
    };
    if (holds(one->delivered[*delivered_], one->pictures[*source_])) return;
    if (delivered) {
        for (std::size_t i = one->pictures.size(); i-- > 0;)
            if (holds(one->delivered[*delivered_], one->pictures[i])) source_ = i;
    } else
        for (std::size_t i = one->delivered.size(); i-- > 0;)
            if (holds(one->delivered[i], one->pictures[*source_])) delivered_ = i;
}

void SurfaceMode::showSight() {
    const bool model = sight() == SurfaceSight::Model;
    parts_.onModel.setVisible(on_ && model); // beside each other one row of them is enough
    parts_.onModel.show(sight());
    parts_.view.setVisible(!model);
    parts_.model.setVisible(model || parts_.view.showsModelBeside());
    parts_.layout.setVisible(sight() == SurfaceSight::UvLayout);
    const bool beside = !model && parts_.view.showsModelBeside();
    parts_.model.spots().pointed = nullptr;
    if (beside)
        parts_.model.spots().pointed = [this](const std::optional<Pick>& pick) { pointAtPicture(pick); };
    parts_.model.spots().spot.reset();
    parts_.view.canvas().setSpot({});
    parts_.materials.setShown(sight() == SurfaceSight::Pictures ? std::optional(chosen_) : std::nullopt);
    if (model) return;
    parts_.view.setSight(sight_);
    const MaterialLook* one = material();
    if (!one) {
        parts_.view.canvas().setPictures(nullptr, nullptr);
        parts_.view.canvas().setMessage(look_ ? tr("The piece has no materials.") : waiting_);
        return;
    }
    if (sight_ == SurfaceSight::UvLayout) parts_.layout.show(*look_, *one);
    readPictures();
}

void SurfaceMode::readPictures() {
    const MaterialLook* one = material();
    parts_.view.setCanCompare(one && !one->delivered.empty() && !one->pictures.empty());
    const bool both = sight_ == SurfaceSight::Pictures && parts_.view.showsBoth();
    const bool below = sight_ == SurfaceSight::UvLayout;
    const auto source = source_ && (both || below || !chosen_.delivered) ? source_ : std::nullopt;
    const auto delivered = !below && delivered_ && (both || chosen_.delivered) ? delivered_ : std::nullopt;
    const bool wants = (source && !levels_.source) || (delivered && !levels_.delivered);
    if (!wants || reading_ || !levels_.problem.isEmpty()) return showLevels();
    reading_ = true;
    const auto sameAsNow = [this, look = look_, name = one->name, s = source_, d = delivered_] {
        return look == look_ && name == parts_.materials.opened() && s == source_ && d == delivered_;
    };
    const auto done = [this, sameAsNow](Levels levels) {
        reading_ = false;
        if (sameAsNow()) levels_ = std::move(levels);
        if (on_) showSight();
    };
    session_.jobs().start<Levels>(
        tr("Reading pictures of %1").arg(one->name), this,
        [look = look_, material = *one, source, delivered, have = levels_](const Progress& progress) {
            Levels out = have;
            if (source && !out.source)
                out.source = sourceLevels(*look, material, *source, progress.between(0, 0.5));
            if (delivered && !out.delivered)
                out.delivered = deliveredLevels(*look, material, *delivered, progress.between(0.5, 1));
            return out;
        },
        done,
        [done](const QString& problem) {
            done({nullptr, nullptr, problem});
        },
        Urgency::Shown, [this] { reading_ = false; });
}

void SurfaceMode::showLevels() {
    const MaterialLook* one = material();
    PictureCanvas& canvas = parts_.view.canvas();
    const bool pictures = sight_ == SurfaceSight::Pictures;
    const bool both = pictures && parts_.view.showsBoth();
    const auto source = !pictures && !parts_.view.showsPictureBelow() ? nullptr
                        : both || !pictures || !chosen_.delivered     ? levels_.source
                                                                      : nullptr;
    const auto delivered = pictures && (both || chosen_.delivered) ? levels_.delivered : nullptr;
    QString message = levels_.problem;
    if (message.isEmpty() && pictures && !source && !delivered)
        message =
            reading_ || source_ || delivered_
                ? tr("Reading the picture…")
                : tr("%1 wears no picture. Bind some on its card, or add the step \"Colour to picture\".")
                      .arg(one->name);
    canvas.setMessage(message);
    const glm::dvec2 pixels = glm::max(uv::leadingPixels(look_->model, one->index), 1);
    canvas.setPictures(source, delivered, pixels.x / pixels.y);
    parts_.view.strip().show(!pictures                                ? nullptr
                             : chosen_.delivered && levels_.delivered ? levels_.delivered
                             : source                                 ? source
                                                                      : delivered);
    showLayout();
}

void SurfaceMode::showLayout() {
    const MaterialLook* one = material();
    if (!one || !on_ || sight_ == SurfaceSight::Model) return;
    const bool layout = sight_ == SurfaceSight::UvLayout;
    std::vector<PaintedIsland> islands;
    std::vector<QLineF> edges;
    if (layout || parts_.view.showsEdges()) {
        const auto parts = uv::layoutParts(look_->islands, one->index);
        std::size_t faces = 0;
        for (const uv::LayoutPart& part : parts)
            for (const std::uint32_t i : part.islands) faces += look_->islands[i].faces.size();
        for (std::size_t p = 0; p < parts.size(); ++p)
            for (const std::uint32_t i : parts[p].islands) {
                const uv::UvIsland& is = look_->islands[i];
                for (const glm::vec2& by : placesIn(is)) {
                    PaintedIsland island;
                    for (const auto& loop : look_->outlines[i]) {
                        QPolygonF polygon;
                        for (const glm::vec2& at : loop) polygon << point(at + by);
                        island.loops.push_back(std::move(polygon));
                    }
                    if (layout) {
                        const glm::ivec3 c = uv::partColour(p);
                        island.fill = QColor(c.r, c.g, c.b, parts_.view.showsPictureBelow() ? 90 : 190);
                        island.lit = parts_.layout.lights(*look_, i);
                    }
                    islands.push_back(std::move(island));
                    if (faces > mostEdges || layout) continue;
                    for (const std::uint32_t f : is.faces)
                        for (std::size_t k = 0; k < 3; ++k)
                            edges.emplace_back(point(look_->faces.faces[f].at[k] + by),
                                               point(look_->faces.faces[f].at[(k + 1) % 3] + by));
                }
            }
    }
    parts_.view.canvas().setIslands(std::move(islands));
    parts_.view.canvas().setEdges(std::move(edges));
}

void SurfaceMode::followSelection() {
    if (!on_ || !look_ || parts_.selected.empty()) return;
    if (!parts_.selected.materials().empty())
        return parts_.materials.open(qs(*parts_.selected.materials().begin()));
    // The material that most of what is selected wears.
    const selection::Chosen chosen = parts_.selected.in(look_->model);
    std::map<int, std::size_t> worn;
    for (const int node : shownNodes(look_->model)) {
        const int mesh = look_->model.nodes[std::size_t(node)].mesh;
        for (const MaterialRun& run : look_->model.meshes[std::size_t(mesh)]->runs)
            for (std::uint32_t t = 0; t < run.triangleCount; ++t)
                if (chosen.has(std::size_t(node), run.firstTriangle + t)) ++worn[run.material];
    }
    const auto most = std::ranges::max_element(worn, {}, [](const auto& entry) { return entry.second; });
    const auto one = most == worn.end()
                         ? look_->materials.end()
                         : std::ranges::find(look_->materials, most->first, &MaterialLook::index);
    if (one != look_->materials.end()) parts_.materials.open(one->name);
}

void SurfaceMode::saveLayout(const QString& file) {
    const MaterialLook* one = material();
    if (!one) return;
    session_.jobs().start<QString>(
        tr("Drawing the layout of %1").arg(one->name), this,
        [look = look_, index = one->index, file, below = parts_.view.showsPictureBelow()](const Progress&) {
            const uv::LayoutLook how{.size = 2048, .picture = below};
            writeFile(file.toStdString(),
                      file.endsWith(".svg", Qt::CaseInsensitive)
                          ? uv::layoutSvg(look->model, look->faces, look->islands, index, how)
                          : texture::encodePng(
                                uv::layoutPicture(look->model, look->faces, look->islands, index, how)));
            return file;
        },
        [this](const QString& written) { Q_EMIT session_.said(tr("Saved the layout as %1.").arg(written)); },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

} // namespace zl::app
