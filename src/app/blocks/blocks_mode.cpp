#include "app/blocks/blocks_mode.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/view/tools/key_way.h"
#include "app/widgets/flow_row.h"
#include "app/widgets/ui.h"

#include "core/base/file_set.h"
#include "core/blocks/faces.h"
#include "core/blocks/greedy_mesh.h"
#include "core/blocks/turns.h"
#include "core/project/blocks_document.h"
#include "core/project/dependencies.h"
#include "core/steps/build_of_blocks.h"
#include "core/steps/by_hand.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QSlider>
#include <QToolButton>

#include <algorithm>
#include <set>

namespace zl::app {

namespace fs = std::filesystem;

using blocks::Block;
using blocks::Chunk;

namespace {

QIcon swatch(const glm::vec3& colour) {
    QPixmap out(14, 14);
    out.fill(Qt::transparent);
    QPainter painter(&out);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QColor(0, 0, 0, 90));
    painter.setBrush(QColor::fromRgbF(colour.r, colour.g, colour.b));
    painter.drawRoundedRect(QRectF(0.5, 0.5, 13, 13), 3, 3);
    return out;
}

/// The hull without what lies above a layer.
blocks::Hull cutAbove(const blocks::Hull& hull, int layers) {
    blocks::Hull out = hull;
    for (std::size_t i = 0; i < out.build.cellCount(); ++i)
        if (const glm::ivec3 cell = blocks::cellIn(out.build.size(), i); cell.y >= layers)
            out.build.take(cell);
    return out;
}

} // namespace

BlocksMode::BlocksMode(Session& session, ModelView& view, WorkbenchScenes& scenes, FlowRow& row,
                       const MakeSwitch& make, QObject* parent)
    : QObject(parent), session_(session), view_(view), scenes_(scenes) {
    using Does = BlocksTool::Does;
    const auto does = [&](Does what, const char* name, const QString& text, const QString& tip) {
        does_[what] = make(name, text, tip, false, [this, what](bool on) { take(what, on); });
        row.add(does_[what]);
    };
    does(Does::Put, "block-put", tr("Put"), tr("A click puts a block against the side that is clicked"));
    does(Does::Take, "block-take", tr("Take away"), tr("A click takes a block away"));
    does(Does::Turn, "block-turn", tr("Turn"),
         tr("A click turns a block; with Shift it becomes another kind"));
    does(Does::Choose, "block-choose", tr("Choose"),
         tr("Drag from block to block to choose those between; arrows and Page Up and Down move them, Delete "
            "takes them away"));
    mirrored_ = make("block-mirrored", tr("Mirrored"),
                     tr("What is done on one side is done on the other too"), true, [](bool) {});
    row.add(mirrored_);
    kinds_ = new ChoiceBox;
    kinds_->setObjectName("mode-block-kind");
    kinds_->setAccessibleName(tr("Kind of block"));
    kinds_->addItems({tr("cube"), tr("half slope"), tr("corner"), tr("inverse corner")});
    row.add(kinds_);
    paints_ = new ChoiceBox;
    paints_->setObjectName("mode-block-paint");
    paints_->setAccessibleName(tr("Paint of the block"));
    row.add(paints_);
    const auto action = [&](const char* name, const QString& text, const QString& tip, auto work) {
        auto* made = row.addButton(name, text, tip);
        connect(made, &QToolButton::clicked, this, work);
        forChosen_.push_back(made);
    };
    action("block-copy", tr("Copy"), tr("Keep the chosen blocks for pasting (Ctrl+C)"), [this] { copy(); });
    action("block-cut", tr("Cut"), tr("The same, and take them away (Ctrl+X)"), [this] { cut(); });
    action("block-paste", tr("Paste"), tr("Put what was copied on the chosen blocks (Ctrl+V)"),
           [this] { paste(); });
    static constexpr const char* flips[] = {"block-flip-across", "block-flip-up", "block-flip-along"};
    const QString words[] = {tr("Flip across"), tr("Flip over"), tr("Flip along")};
    for (int axis = 0; axis < 3; ++axis)
        action(flips[axis], words[axis], tr("The chosen blocks the other way round"), [this, axis] {
            replace(tr("flip blocks"),
                    [axis](Chunk chunk) { return blocks::flipped(std::move(chunk), axis); });
        });
    layers_ = new QWidget;
    layers_->setObjectName("mode-plate");
    layers_->setAttribute(Qt::WA_StyledBackground);
    auto* layout = new QHBoxLayout(layers_);
    layout->setContentsMargins(10, 0, 10, 0);
    layer_ = textLabel(QString(), "dim");
    layout->addWidget(layer_);
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setObjectName("slide-layers");
    slider_->setAccessibleName(tr("Layers that are seen"));
    slider_->setToolTip(tr("Cuts the build away from above, layer by layer"));
    slider_->setFixedWidth(110);
    connect(slider_, &QSlider::valueChanged, this, [this](int layers) {
        cutAt_ = layers >= slider_->maximum() ? 0 : layers;
        showLayers();
    });
    layout->addWidget(slider_);
    row.add(layers_);
    tool_.clicked = [this](glm::ivec3 cell, int side, const glm::dvec3& eye) { clicked(cell, side, eye); };
    tool_.boxed = [this](glm::ivec3 one, glm::ivec3 other, bool adds) {
        const blocks::Hull* shown = view_.restScene() ? blocks::hullOf(view_.restScene()->model) : nullptr;
        if (!shown) return;
        // In order, so that each is there once however many there are.
        std::set<glm::ivec3, project::BlocksDocument::Order> cells;
        if (adds) cells.insert(tool_.chosen.begin(), tool_.chosen.end());
        for (const auto& [cell, block] : blocks::chunkWithin(*shown, one, other)) cells.insert(cell);
        tool_.chosen.assign(cells.begin(), cells.end());
        showTools();
    };
    tool_.keyed = [this](const QKeyEvent& event) { return keyed(event); };
    connect(&view_, &ModelView::toolChanged, this, [this] {
        for (const auto& [what, button] : does_)
            button->setChecked(view_.tool() == &tool_ && tool_.does == what);
        showTools();
    });
    for (const auto& [what, button] : does_) button->hide();
    for (QWidget* one : std::initializer_list<QWidget*>{mirrored_, kinds_, paints_, layers_}) one->hide();
    for (QWidget* one : forChosen_) one->hide();
}

const blocks::Hull* BlocksMode::hull() const {
    // As it was last while it is worked out anew, so that the hand can go on.
    return here_ ? blocks::hullOf(
                       session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model)
                 : nullptr;
}

void BlocksMode::refresh(const QString& piece, const QString& platform, bool here) {
    if (piece != piece_ || platform != platform_) cutAt_ = 0, shownCut_ = {};
    piece_ = piece, platform_ = platform, here_ = here;
    const blocks::Hull* built = hull();
    for (const auto& [what, button] : does_) button->setVisible(built);
    layers_->setVisible(built && built->build.size().y > 1);
    if (!built && view_.tool() == &tool_) view_.setTool(nullptr);
    if (built) {
        const int high = built->build.size().y;
        const QSignalBlocker quiet(slider_);
        slider_->setRange(1, high);
        slider_->setValue(cutAt_ > 0 ? cutAt_ : high);
        if (built->paints != paintsShown_) {
            paintsShown_ = built->paints;
            paints_->clear();
            for (const blocks::Paint& paint : paintsShown_)
                paints_->addItem(swatch(paint.colour), qs(paint.name));
        }
    }
    showTools();
    showLayers();
}

void BlocksMode::take(BlocksTool::Does does, bool on) {
    if (!on) {
        if (view_.tool() == &tool_ && tool_.does == does) view_.setTool(nullptr);
        return;
    }
    if (does != BlocksTool::Does::Choose) tool_.chosen.clear();
    tool_.does = does;
    if (view_.tool() == &tool_) {
        for (const auto& [what, button] : does_) button->setChecked(what == does);
        showTools();
    } else
        view_.setTool(&tool_);
    view_.setFocus();
}

void BlocksMode::showTools() {
    const bool inHand = hull() && view_.tool() == &tool_;
    mirrored_->setVisible(inHand);
    kinds_->setVisible(inHand && tool_.does == BlocksTool::Does::Put);
    paints_->setVisible(inHand && tool_.does == BlocksTool::Does::Put && !paintsShown_.empty());
    for (QWidget* one : forChosen_)
        one->setVisible(inHand && tool_.does == BlocksTool::Does::Choose && !tool_.chosen.empty());
    view_.repaintOver();
}

void BlocksMode::showLayers() {
    const blocks::Hull* built = hull();
    const bool cuts = built && cutAt_ > 0 && cutAt_ < built->build.size().y;
    layer_->setText(cuts ? tr("layers 1 to %1").arg(cutAt_) : tr("every layer"));
    const Cut now = cuts ? Cut{built->mesh, cutAt_} : Cut{};
    if (now == shownCut_) return;
    shownCut_ = now;
    if (!cuts) {
        scenes_.showInstead(std::nullopt);
        scenes_.refresh();
        return;
    }
    const Model& whole = session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model;
    blocks::Hull cut = cutAbove(*built, cutAt_);
    if (cut.build.count() == 0) return; // nothing stands so low
    scenes_.showInstead(blocks::showing(std::move(cut), whole), false,
                        tr("cut away above layer %1").arg(cutAt_));
}

fs::path BlocksMode::document() {
    const std::string step(steps::ByHand::info.id);
    const auto& project = session_.project();
    const project::Piece* piece = project.piece(piece_.toStdString());
    if (!piece) return {};
    for (const auto& entry : project::recipeFor(*piece, platform_.toStdString()))
        if (entry.step == step && entry.on && entry.params["blocks"].contains("file"))
            return project::wholePath(project, entry.params["blocks"]["file"].get<std::string>());
    if (project.file.empty()) {
        Q_EMIT session_.said(tr("Save the project first: what is done by hand is kept beside it."));
        return {};
    }
    const std::string stem = fileNameFrom(piece_.toStdString());
    fs::path file;
    for (int n = 1;; ++n) { // beside what other pieces, and other platforms, have
        file = project.folder() / (n == 1 ? stem + ".blocks" : stem + "-" + std::to_string(n) + ".blocks");
        try {
            session_.documents().make(file);
            break;
        } catch (const Error&) {
            if (n > 999) throw;
        }
    }
    const blocks::Hull* built = hull();
    session_.documents().edit(file, *std::make_unique<project::BlocksChange>(project::BlocksChange::Wanted(),
                                                                             built->edge, built->paints));
    session_.editCrossing(
        tr("edit %1 by hand").arg(piece_), piece_, platform_, [&](project::Crossing& crossing) {
            recipe::Entry entry{step, true, {{"blocks", {{"file", file.filename().generic_string()}}}}};
            entry.params = steps::makeStep(entry.step, entry.params)->params();
            const int last = recipe::lastOf(crossing.recipe, std::string(steps::BuildOfBlocks::info.id));
            if (last < 0)
                recipe::insertInOrder(crossing.recipe, std::move(entry));
            else
                crossing.recipe.insert(crossing.recipe.begin() + last + 1, std::move(entry));
        });
    return file;
}

void BlocksMode::apply(const QString& what, project::InCells cells, const QString& mergeKey) {
    const blocks::Hull* built = hull();
    if (!built || cells.empty()) return;
    if (mirrored_->isChecked()) {
        project::InCells images;
        for (const auto& [cell, block] : cells)
            images.emplace(glm::ivec3(-cell.x, cell.y, cell.z),
                           block ? std::optional(blocks::mirrored(*block, 0)) : std::nullopt);
        cells.merge(images); // what is done on both sides stays as it was meant on each
    }
    const auto below =
        built->below ? built->below
                     : session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model.blocks;
    try {
        session_.undo().beginMacro(what);
        const fs::path file = document();
        if (!file.empty())
            session_.editDocument(
                what, file,
                std::make_unique<project::BlocksChange>(project::BlocksChange::over(below.get(), cells)),
                mergeKey);
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
    session_.undo().endMacro();
}

void BlocksMode::putChosen(project::InCells& cells, const Chunk& chunk) {
    tool_.chosen.clear();
    for (const auto& [cell, block] : chunk) cells[cell] = block, tool_.chosen.push_back(cell);
}

void BlocksMode::clicked(glm::ivec3 cell, int side, const glm::dvec3& toEye) {
    const blocks::Hull* built = hull();
    if (!built) return;
    project::InCells cells;
    if (tool_.does == BlocksTool::Does::Put) {
        Block block;
        block.kind = blocks::Kind(std::max(0, kinds_->currentIndex()));
        block.turn = blocks::turnTowards(block.kind, side, toEye);
        block.colour = std::uint8_t(std::max(0, paints_->currentIndex()));
        cells[cell + blocks::sides[side]] = block;
        apply(tr("put a block"), std::move(cells));
    } else if (tool_.does == BlocksTool::Does::Take) {
        cells[cell] = std::nullopt;
        apply(tr("take a block away"), std::move(cells));
    } else if (const Block* there = built->at(cell)) {
        Block block = *there;
        const bool another = QGuiApplication::keyboardModifiers() & Qt::ShiftModifier;
        if (another || block.kind == blocks::Kind::Cube) {
            block.kind = blocks::Kind((int(block.kind) + 1) % int(std::size(blocks::kindNames)));
            block.turn = blocks::turnTowards(block.kind, side ^ 1, toEye);
        } else
            block.turn = blocks::nextTurn(block.kind, block.turn);
        cells[cell] = block;
        apply(tr("turn a block"), std::move(cells));
    }
}

Chunk BlocksMode::chosen() const {
    Chunk out;
    if (const blocks::Hull* built = hull())
        for (const glm::ivec3& cell : tool_.chosen)
            if (const Block* block = built->at(cell)) out.emplace_back(cell, *block);
    return out;
}

void BlocksMode::replace(const QString& what, const std::function<Chunk(Chunk)>& change) {
    const Chunk before = chosen(), after = change(before);
    project::InCells cells;
    for (const auto& [cell, block] : before) cells[cell] = std::nullopt;
    putChosen(cells, after);
    apply(what, std::move(cells), "blocks-move");
}

void BlocksMode::copy() {
    clipboard_ = chosen();
    Q_EMIT session_.said(tr("%n blocks copied", nullptr, int(clipboard_.size())));
}

void BlocksMode::cut() {
    clipboard_ = chosen();
    remove();
}

void BlocksMode::remove() {
    project::InCells cells;
    for (const auto& [cell, block] : chosen()) cells[cell] = std::nullopt;
    tool_.chosen.clear();
    apply(tr("take blocks away"), std::move(cells));
    showTools();
}

void BlocksMode::paste() {
    if (clipboard_.empty()) return;
    // Its lowest corner comes to the chosen one's, one above where that is full; else to under the pointer.
    const auto lowest = [](const auto& cells, const auto& cellOf) {
        glm::ivec3 out = cellOf(cells[0]);
        for (const auto& one : cells) out = glm::min(out, cellOf(one));
        return out;
    };
    const glm::ivec3 from = lowest(clipboard_, [](const auto& one) { return one.first; });
    const glm::ivec3 to = !tool_.chosen.empty() ? lowest(tool_.chosen, [](const glm::ivec3& c) { return c; })
                          : tool_.under()       ? *tool_.under()
                                                : from;
    const Chunk placed = blocks::movedBy(clipboard_, to - from);
    project::InCells cells;
    putChosen(cells, placed);
    apply(tr("paste blocks"), std::move(cells));
    showTools();
}

bool BlocksMode::keyed(const QKeyEvent& event) {
    if (tool_.does != BlocksTool::Does::Choose) return false;
    const bool ctrl = event.modifiers() & Qt::ControlModifier;
    if (ctrl && event.key() == Qt::Key_V) return paste(), true;
    if (tool_.chosen.empty()) return false;
    if (ctrl && event.key() == Qt::Key_C) return copy(), true;
    if (ctrl && event.key() == Qt::Key_X) return cut(), true;
    if (event.key() == Qt::Key_Delete) return remove(), true;
    const auto way = wayOf(event, view_.camera());
    if (!way) return false;
    replace(tr("move blocks"), [way](Chunk chunk) { return blocks::movedBy(std::move(chunk), *way); });
    return true;
}

} // namespace zl::app
