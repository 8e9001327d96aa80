#include "app/pages/cards.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"
#include "app/view/surface_paint.h"
#include "app/widgets/ui.h"

#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/geometry/world.h"

#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPixmap>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

/// Shorter ones cannot be told from nothing, and no step takes them.
constexpr double leastLength = 1e-6;

} // namespace

SideCard::SideCard(QWidget* parent) : QFrame(parent) {
    setProperty("card", true);
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(13, 10, 10, 10);
    layout_->setSpacing(6);
    hide();
}

void SideCard::empty() {
    clearLayout(layout_);
}

void SideCard::addHead(const QString& text) {
    auto* head = new QHBoxLayout;
    head->addWidget(headingLabel(text, 2), 1);
    auto* close = iconButton("x", tr("Close"));
    connect(close, &QToolButton::clicked, this, [this] {
        hide();
        Q_EMIT closed();
    });
    head->addWidget(close);
    layout_->addLayout(head);
}

void SideCard::addOffer(const QString& text, const QString& icon, const std::string& step,
                        nlohmann::json params, const QString& name, bool main) {
    auto* offer = button(text, main ? "main" : nullptr, icon);
    offer->setObjectName(name);
    connect(offer, &QPushButton::clicked, this,
            [this, step, params = std::move(params)] { Q_EMIT stepAsked(step, params); });
    layout_->addWidget(offer);
}

void NoticeCard::show(const QString& head, const QString& words, const QString& action) {
    empty();
    setObjectName("notice");
    addHead(head);
    layout_->addWidget(textLabel(words, action.isEmpty() ? "bad" : nullptr));
    if (!action.isEmpty()) {
        auto* go = button(action, "main", "rotate-ccw");
        go->setObjectName("goOn");
        connect(go, &QPushButton::clicked, this, [this] {
            hide();
            Q_EMIT goOnAsked();
        });
        layout_->addWidget(go, 0, Qt::AlignLeft);
    }
    setVisible(true);
}

void RuleCard::show(const platform::RuleResult& rule, const Model& model, const platform::Sheet& sheet) {
    empty();
    addHead(qs(rule.label));
    const bool broken = rule.state == platform::State::Broken;
    const char* tone = !broken ? nullptr : rule.severity == platform::Severity::Must ? "bad" : "warn";
    layout_->addWidget(
        textLabel(tr("%1; limit %2.").arg(qs(rule.finding.note), qs(rule.finding.limit)), tone));
    layout_->addWidget(textLabel(qs(rule.message), "dim"));
    for (const QString& words : knownFrom(sheet, rule.id)) {
        auto* how = textLabel(words, "dim");
        how->setObjectName("ruleKnown");
        layout_->addWidget(how);
    }
    if (broken && rule.finding.names.size() > 1) {
        QStringList names;
        for (const std::string& name : rule.finding.names) names << qs(name);
        auto* list = textLabel(qs(showNames(rule.finding.names)));
        list->setObjectName("ruleNames");
        list->setToolTip(names.join("\n"));
        layout_->addWidget(list);
    }
    if (broken && rule.mends.empty())
        layout_->addWidget(textLabel(
            tr("No step here can change that; change it in the program the model comes from."), "dim"));
    if (broken)
        for (const std::string& mend : rule.mends) {
            const auto candidates = planner::proposals(mend, rule, model, sheet);
            if (!candidates.empty())
                addOffer(tr("Add \"%1\"").arg(qs(steps::infoOf(mend).name)), "plus", mend, candidates[0],
                         "mend-" + qs(mend), true);
        }
    setVisible(true);
}

void MeasureCard::show(const glm::dvec3& from, const glm::dvec3& to, const platform::Sheet& sheet) {
    empty();
    const double length = glm::distance(from, to);
    addHead(tr("Measured: %1").arg(qs(sheet.showBoth(length))));
    layout_->addWidget(textLabel(tr("%1 ft or %2 in; a figure is %3")
                                     .arg(qs(showMeasure(length / 0.3048)), qs(showMeasure(length / 0.0254)),
                                          qs(sheet.showBoth(sheet.figureMetres()))),
                                 "dim"));
    const auto json = [](const glm::dvec3& p) { return nlohmann::json::array({p.x, p.y, p.z}); };
    if (length >= leastLength)
        addOffer(tr("Say how long this is meant to be"), "ruler", "size",
                 {{"by", "points"}, {"from", json(from)}, {"to", json(to)}, {"measure", length}},
                 "sizeByMeasure");
    else
        layout_->addWidget(textLabel(tr("Both points are at one place; click another for a length."), "dim"));
    addOffer(tr("Put the origin at the first point"), "frame", "origin",
             {{"at", "point"}, {"point", json(from)}}, "originAtMeasure");
    setVisible(true);
}

void SelectionCard::show(const Selected& selected, const Model& model, const platform::Sheet& sheet,
                         bool hasYardstick) {
    empty();
    const auto chosen = selected.in(model);
    geometry::Bounds bounds;
    std::size_t triangles = 0, corners = 0;
    bool whole = true; // of each object; what is done by names is done to whole objects
    std::vector<std::string> names, parts;
    const auto world = worldMatrices(model);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const std::size_t count = chosen.countOf(n);
        if (count == 0) continue;
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[n].mesh)];
        names.push_back(model.nodes[n].name);
        parts.push_back(patternFor(model.nodes[n].name));
        triangles += count;
        whole &= count == mesh.triangleCount();
        std::vector<char> seen(mesh.vertexCount(), 0);
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
            for (std::size_t k = 0; chosen.faces[n][t] && k < 3; ++k) {
                const std::uint32_t corner = mesh.indices[3 * t + k];
                if (std::exchange(seen[corner], 1)) continue;
                ++corners;
                bounds.add(glm::dvec3(world[n] * glm::dvec4(mesh.positions[corner], 1)));
            }
    }
    if (names.empty()) return hide();
    addHead(!whole              ? tr("Faces selected")
            : names.size() == 1 ? qs(names[0])
                                : tr("%1 parts selected").arg(names.size()));
    if (names.size() > 1 || !whole) layout_->addWidget(textLabel(qs(showNames(names)), "dim"));
    auto* counts = textLabel(tr("%1, %2").arg(qs(showCount(long(triangles), "triangle", "triangles")),
                                              qs(showCount(long(corners), "corner", "corners"))));
    counts->setObjectName("selectionCounts");
    layout_->addWidget(counts);
    const auto row = [&](const QString& what, double metres) {
        auto* line = new QHBoxLayout;
        line->addWidget(textLabel(what, "dim"), 1);
        auto* value = textLabel(qs(sheet.showBoth(metres)));
        value->setWordWrap(false);
        line->addWidget(value);
        layout_->addLayout(line);
    };
    const auto size = bounds.size();
    row(tr("Height"), size.y);
    row(tr("Width"), size.x);
    row(tr("Length"), size.z);
    const nlohmann::json faces = selection::toJson(selected.asSelection());
    if (!whole) addOffer(tr("Cut it out"), "scissors", "cut-out", {{"faces", faces}}, "cutOut");
    addOffer(tr("Leave it out"), "eye-off", "leave-out", {{"faces", faces}}, "leaveOut");
    addOffer(tr("Give it a material of its own"), "image", "part-material", {{"faces", faces}},
             "partMaterial");
    if (!sheet.touch.surfaces.empty()) addKinds(sheet.touch);
    addKeeping();
    if (!whole) return setVisible(true);
    if (size.y >= leastLength) // a flat part has no height to go by
        addOffer(tr("Say how tall this is meant to be"), "move-vertical", "size",
                 {{"by", "height"}, {"measure", size.y}, {"part", parts}}, "sizeByPart");
    if (hasYardstick)
        addOffer(tr("Match it to the yardstick"), "ruler", "match-yardstick",
                 {{"by", "height"}, {"part", parts}}, "matchPart");
    addOffer(tr("Give each loose part an object"), "layers", "split-parts",
             {{"by", "loose"}, {"parts", parts}}, "splitPart");
    if (names.size() > 1)
        addOffer(tr("Make one object of them"), "box", "join-parts", {{"parts", parts}}, "joinParts");
    addOffer(tr("Bake its placement"), "check", "bake-placement", {{"parts", parts}}, "bakePart");
    setVisible(true);
}

void SelectionCard::addKinds(const contact::Touch& touch) {
    auto* kinds = new ChoiceBox;
    kinds->setObjectName("paintKind");
    kinds->setAccessibleName(tr("Surface kind"));
    kinds->setToolTip(tr("What it is to be made of, for the platform's sounds and physics"));
    for (const contact::SurfaceKind& kind : touch.surfaces) {
        QPixmap swatch(QSize(20, 13) * devicePixelRatioF());
        swatch.setDevicePixelRatio(devicePixelRatioF());
        QPainter painter(&swatch);
        paintKind(painter, QRectF(0, 0, 20, 13), colourOf(kind), kind.hatch);
        painter.end();
        kinds->addItem(swatch, qs(kind.word), qs(kind.name));
    }
    kinds->setIconSize({20, 13});
    kinds->setCurrentIndex(std::max(0, kinds->findData(qs(kind_))));
    auto* paint = button(tr("Paint"), nullptr, "brush");
    paint->setObjectName("paintSelection");
    paint->setToolTip(tr("Makes what is selected of this surface kind"));
    connect(paint, &QPushButton::clicked, this, [this, kinds] {
        kind_ = kinds->currentData().toString().toStdString();
        Q_EMIT paintAsked(kind_);
    });
    auto* row = new QHBoxLayout;
    row->addWidget(kinds, 1);
    row->addWidget(paint);
    layout_->addLayout(row);
}

void SelectionCard::addKeeping() {
    auto* name = new QLineEdit;
    name->setObjectName("keepSelection");
    name->setPlaceholderText(tr("Keep it as… (Enter)"));
    name->setToolTip(tr("Steps of this piece can use the selection by this name"));
    name->setMaxLength(100);
    connect(name, &QLineEdit::returnPressed, this,
            [this, name] { Q_EMIT keepAsked(name->text().trimmed()); });
    layout_->addWidget(name);
}

} // namespace zl::app
