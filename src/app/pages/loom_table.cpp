#include "app/pages/loom_table.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include "core/render/snapshot.h"

#include <QGridLayout>
#include <QLabel>
#include <QPainterPath>
#include <QPushButton>
#include <QToolButton>

namespace zl::app {

namespace {

constexpr int rowsAtOnce = 24, rowsInBetween = 6;
constexpr int mostAtOnce = 8; ///< columns that stand side by side in the smallest window

int gridRow(int piece) {
    return 2 + 2 * piece; // heads and their line come first; each row has a line below it
}

} // namespace

LoomTable::LoomTable(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setSpacing(0);
    countTimer_.setSingleShot(true);
    countTimer_.setInterval(0);
    connect(&countTimer_, &QTimer::timeout, this, &LoomTable::showCounts);
    rowTimer_.setInterval(0);
    connect(&rowTimer_, &QTimer::timeout, this, [this] { makeRows(rowsMade_ + rowsInBetween); });
    connect(&session_, &Session::crossingChanged, this, &LoomTable::showCrossing);
}

void LoomTable::forgetPictures() {
    layoutKey_.clear();
    thumbnailOf_.clear();
}

void LoomTable::rebuild() {
    const auto& project = session_.project();
    // Made anew only when rows or columns change; a new verdict repaints one crossing.
    QString key = qs(project.name);
    for (const auto& piece : project.pieces) key += "\n" + qs(piece.name);
    for (const auto& platform : project.platforms) key += "\t" + qs(platform);
    if (key == layoutKey_) {
        for (int i = 0; i < rowsMade_; ++i)
            for (const auto& id : project.platforms) showCrossing(qs(project.pieces[i].name), qs(id));
        return;
    }
    layoutKey_ = key;
    clearLayout(grid_);
    names_.clear(), crossings_.clear(), pictures_.clear(), size_.clear(), facts_.clear(), counts_.clear();
    rowsMade_ = 0;
    makeHead();
    if (project.pieces.empty()) makeEmpty(gridRow(0));
    makeRows(rowsAtOnce);
}

void LoomTable::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    shareWidth();
    QTimer::singleShot(0, this, &LoomTable::placeNames);
}

void LoomTable::shareWidth() {
    // A few columns stand side by side, and the pieces' names get what they can spare; many are scrolled, so
    // that all have room.
    const int columns = int(session_.project().platforms.size());
    const bool many = columns > mostAtOnce;
    grid_->setColumnMinimumWidth(0, std::clamp(width() - 92 * columns, many ? 226 : 170, many ? 260 : 250));
    for (int c = 1; c <= columns; ++c) grid_->setColumnMinimumWidth(c, many ? 96 : 0);
}

bool LoomTable::event(QEvent* event) {
    const bool done = QWidget::event(event);
    if (event->type() == QEvent::LayoutRequest) QTimer::singleShot(0, this, &LoomTable::placeNames);
    return done;
}

void LoomTable::keepNamesAt(int left) {
    left_ = left;
    placeNames();
}

void LoomTable::placeNames() {
    for (const auto& [row, name] : names_) {
        name->move(grid_->cellRect(row, 0).left() + left_, name->y());
        name->raise();
    }
}

void LoomTable::makeRows(int upTo) {
    const auto& pieces = session_.project().pieces;
    const int all = int(pieces.size());
    for (; rowsMade_ < std::min(upTo, all); ++rowsMade_) makeRow(pieces[rowsMade_], gridRow(rowsMade_));
    if (rowsMade_ < all) return rowTimer_.start();
    rowTimer_.stop();
    if (all > 0) makeLegend(gridRow(all));
}

void LoomTable::makeHead() {
    const auto& project = session_.project();
    auto* corner = new QWidget;
    auto* cornerLayout = new QVBoxLayout(corner);
    cornerLayout->setContentsMargins(0, 0, 0, 8);
    cornerLayout->setSpacing(0);
    auto* title = headingLabel(tr("Loom"), 0);
    cornerLayout->addStretch(1);
    cornerLayout->addWidget(title);
    auto* counts = new QHBoxLayout;
    counts->setSpacing(2);
    auto* pieces =
        textLabel(tr("%1 on").arg(qs(showCount(long(project.pieces.size()), "piece", "pieces"))), "dim");
    pieces->setWordWrap(false);
    counts->addWidget(pieces);
    counts->addWidget(platformChooser());
    counts->addStretch(1);
    cornerLayout->addLayout(counts);
    corner->setObjectName("loomName");
    grid_->addWidget(corner, 0, 0);
    names_.emplace_back(0, corner);
    grid_->setColumnStretch(0, 3);
    for (int c = 1; c < grid_->columnCount(); ++c)
        grid_->setColumnStretch(c, 0), grid_->setColumnMinimumWidth(c, 0);
    shareWidth();
    int column = 1;
    for (const auto& id : project.platforms) {
        const auto sheet = session_.sheet(id);
        auto* head = new QWidget;
        auto* headLayout = new QVBoxLayout(head);
        headLayout->setContentsMargins(2, 6, 2, 8);
        headLayout->setSpacing(0);
        auto* name = headingLabel(sheet ? qs(sheet->name) : qs(id), 2);
        name->setAlignment(Qt::AlignCenter);
        auto* count = textLabel(sheet ? "" : tr("no sheet"), "dim");
        count->setAlignment(Qt::AlignCenter);
        counts_[qs(id)] = count;
        headLayout->addStretch(1); // all stand on the line, however long the longest is
        headLayout->addWidget(name);
        headLayout->addWidget(count);
        if (sheet) head->setToolTip(QString("%1: %2").arg(qs(sheet->kind), qs(sheet->about)));
        grid_->addWidget(head, 0, column);
        grid_->setColumnStretch(column++, 2);
    }
    grid_->addWidget(line(), 1, 0, 1, column);
}

QToolButton* LoomTable::platformChooser() {
    auto* chooser = iconButton("chevron-down", tr("Choose the platforms that you make for"));
    chooser->setObjectName("platformChooser");
    chooser->setText(qs(showCount(long(session_.project().platforms.size()), "platform", "platforms")));
    chooser->setAccessibleName(chooser->text());
    chooser->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    chooser->setLayoutDirection(Qt::RightToLeft); // the arrow follows the words
    connect(chooser, &QToolButton::clicked, this, &LoomTable::platformsAsked);
    return chooser;
}

void LoomTable::makeRow(const project::Piece& piece, int row) {
    const QString name = qs(piece.name);
    auto* head = new QWidget;
    head->setObjectName("loomName");
    names_.emplace_back(row, head);
    auto* headLayout = new QHBoxLayout(head);
    headLayout->setContentsMargins(0, 6, 2, 6);
    headLayout->setSpacing(8);
    auto* picture = new QLabel;
    picture->setFixedSize(56, 50);
    pictures_[name] = picture;
    auto* words = new QVBoxLayout;
    words->setSpacing(1);
    words->addStretch(1);
    auto* called = new ElidedLabel(name);
    called->setProperty("heading2", true);
    words->addWidget(called);
    const auto factLine = [&](std::map<QString, QLabel*>& lines, const QString& text) {
        auto* fact = new ElidedLabel(text);
        fact->setProperty("dim", true);
        words->addWidget(fact);
        lines[name] = fact;
    };
    factLine(size_, session_.project().platforms.empty() ? tr("no platform yet") : tr("being read…"));
    factLine(facts_, {});
    words->addStretch(1);
    headLayout->addWidget(picture);
    headLayout->addLayout(words, 1);
    auto* more = iconButton("trash-2", tr("Take %1 out of the project").arg(name));
    connect(more, &QToolButton::clicked, this, [this, name] {
        session_.edit(tr("take out %1").arg(name), [&](project::Project& p) {
            std::erase_if(p.pieces, [&](const auto& piece) { return piece.name == name.toStdString(); });
        });
    });
    headLayout->addWidget(more);
    grid_->addWidget(head, row, 0);
    int column = 1;
    for (const auto& id : session_.project().platforms) {
        auto* crossing = new CrossingButton(name, qs(id), this);
        crossings_[{name, qs(id)}] = crossing;
        grid_->addWidget(crossing, row, column++);
        connect(crossing, &QAbstractButton::clicked, this, [this, crossing] {
            const auto* piece = session_.project().piece(crossing->piece().toStdString());
            if (piece && !piece->on(crossing->platform().toStdString()))
                session_.editCrossing(tr("set up %1").arg(crossing->piece()), crossing->piece(),
                                      crossing->platform(), [](project::Crossing&) {});
            Q_EMIT chosen(crossing->piece(), crossing->platform());
        });
        connect(crossing, &CrossingButton::opened, this,
                [this, crossing] { Q_EMIT opened(crossing->piece(), crossing->platform()); });
    }
    grid_->addWidget(line(), row + 1, 0, 1, column);
    for (const auto& id : session_.project().platforms) showCrossing(name, qs(id));
}

void LoomTable::makeEmpty(int row) {
    auto* empty = new QFrame;
    auto* emptyLayout = new QVBoxLayout(empty);
    emptyLayout->setContentsMargins(40, 60, 40, 40);
    auto* words = headingLabel(tr("No pieces yet"), 1);
    words->setAlignment(Qt::AlignCenter);
    auto* hint =
        textLabel(tr("Drop models here: OBJ, STL, PLY, GLB, COLLADA, FBX, X3D, 3MF, OFF or AMF. Each "
                     "becomes a row, and every platform says at once whether it fits."),
                  "dim");
    hint->setAlignment(Qt::AlignCenter);
    auto* bring = button(tr("Bring in…"), "main", "plus");
    connect(bring, &QPushButton::clicked, this, &LoomTable::bringInAsked);
    emptyLayout->addWidget(words);
    emptyLayout->addWidget(hint);
    emptyLayout->addWidget(bring, 0, Qt::AlignCenter);
    grid_->addWidget(empty, row, 0, 1, int(session_.project().platforms.size()) + 1);
}

void LoomTable::makeLegend(int row) {
    auto* legend = new QWidget;
    auto* legendLayout = new QHBoxLayout(legend);
    legendLayout->setContentsMargins(0, 12, 0, 0);
    legendLayout->setSpacing(6);
    for (const auto& [mark, text] : {std::pair{Mark::Fits, tr("fits")},
                                     {Mark::Tight, tr("fits, but near a limit or worth a look")},
                                     {Mark::Broken, tr("breaks a limit")}}) {
        auto* words = textLabel(text, "dim");
        words->setWordWrap(false);
        legendLayout->addWidget(markLabel(mark, 16));
        legendLayout->addWidget(words);
        legendLayout->addSpacing(14);
    }
    legendLayout->addStretch(1);
    grid_->addWidget(legend, row, 0, 1, int(session_.project().platforms.size()) + 1);
}

void LoomTable::select(const QString& piece, const QString& platform) {
    selected_ = {piece, platform};
    for (auto& [key, crossing] : crossings_) crossing->setChecked(key == selected_);
}

void LoomTable::focusSelected() {
    if (const auto found = crossings_.find(selected_); found != crossings_.end()) found->second->setFocus();
}

void LoomTable::showCrossing(const QString& piece, const QString& platform) {
    const auto found = crossings_.find({piece, platform});
    const auto* p = session_.project().piece(piece.toStdString());
    if (found == crossings_.end() || !p) return;
    const auto& state = session_.state(piece.toStdString(), platform.toStdString());
    found->second->show(state, p->on(platform.toStdString()) != nullptr);
    found->second->setChecked(found->first == selected_);
    if (!countTimer_.isActive()) countTimer_.start(); // many verdicts come in a row
    if (state.kind == CrossingState::Kind::Ready) {
        const Model& model = state.source;
        QStringList facts;
        if (!state.others.empty()) facts << tr("%1 sizes").arg(1 + state.others.size());
        if (objectCount(model) > 1) facts << qs(showCount(long(objectCount(model)), "object", "objects"));
        const auto materials = std::ranges::count_if(usedMaterials(model), [](int m) { return m >= 0; });
        if (materials > 0) facts << qs(showCount(long(materials), "material", "materials"));
        if (!model.clips.empty()) facts << qs(showCount(long(model.clips.size()), "clip", "clips"));
        size_[piece]->setText(qs(showCount(long(triangleCount(model)), "triangle", "triangles")));
        facts_[piece]->setText(facts.join(" · "));
        facts_[piece]->setVisible(!facts.isEmpty());
        thumbnail(piece);
        return;
    }
    // What another platform's crossing knows of the piece stands.
    const auto onAny = [&](const auto& holds) {
        return std::ranges::any_of(p->crossings, [&](const project::Crossing& crossing) {
            return holds(session_.state(p->name, crossing.platform));
        });
    };
    if (onAny([](const CrossingState& s) { return s.kind == CrossingState::Kind::Ready; })) return;
    if (state.kind == CrossingState::Kind::Failed) {
        size_[piece]->setText(tr("cannot be read"));
        facts_[piece]->hide();
    } else if (!onAny([](const CrossingState& s) { return s.hasResult(); })) {
        size_[piece]->setText(p->crossings.empty()                         ? tr("set up on no platform")
                              : state.kind == CrossingState::Kind::Stopped ? tr("reading stopped")
                                                                           : tr("being read…"));
    }
}

void LoomTable::showCounts() {
    std::map<std::string, std::pair<int, int>> fitOf; // of all
    for (const auto& piece : session_.project().pieces)
        for (const auto& crossing : piece.crossings) {
            auto& [fit, all] = fitOf[crossing.platform];
            const auto& state = session_.state(piece.name, crossing.platform);
            fit += state.kind == CrossingState::Kind::Ready && state.report.fits();
            ++all;
        }
    for (const auto& [platform, label] : counts_)
        if (session_.sheet(platform.toStdString()))
            label->setText(tr("%1 of %2 fit")
                               .arg(fitOf[platform.toStdString()].first)
                               .arg(fitOf[platform.toStdString()].second));
}

void LoomTable::thumbnail(const QString& piece) {
    const auto* p = session_.project().piece(piece.toStdString());
    if (!p || p->crossings.empty()) return;
    const auto& state = session_.state(piece.toStdString(), p->crossings.front().platform);
    if (thumbnails_.contains(piece) && pictures_.contains(piece))
        pictures_[piece]->setPixmap(thumbnails_[piece]);
    if (state.kind != CrossingState::Kind::Ready || thumbnailOf_[piece] == state.evaluation.key) return;
    thumbnailOf_[piece] = state.evaluation.key;
    session_.jobs().start<Pixels>(
        tr("Picture of %1").arg(piece), this,
        [model = state.evaluation.model, dusk = Theme::instance().isDusk()](const Progress& progress) {
            render::SnapshotOptions options;
            options.width = 112, options.height = 100, options.ground = false, options.dusk = dusk;
            return render::snapshot(model, options, progress);
        },
        [this, piece](const Pixels& pixels) {
            QPixmap rounded(pixels.width, pixels.height);
            rounded.fill(Qt::transparent);
            QPainter painter(&rounded);
            painter.setRenderHint(QPainter::Antialiasing);
            QPainterPath path;
            path.addRoundedRect(rounded.rect(), 14, 14);
            painter.setClipPath(path);
            painter.drawImage(
                0, 0, QImage(pixels.rgba.data(), pixels.width, pixels.height, QImage::Format_RGBA8888));
            painter.end();
            rounded.setDevicePixelRatio(2);
            thumbnails_[piece] = rounded;
            if (pictures_.contains(piece)) pictures_[piece]->setPixmap(rounded);
        },
        [](const QString&) {}, Urgency::Idle, [this, piece] { thumbnailOf_.erase(piece); });
}

} // namespace zl::app
