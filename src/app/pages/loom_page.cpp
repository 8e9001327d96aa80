#include "app/pages/loom_page.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/render/snapshot.h"

#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QToolButton>

namespace zl::app {

namespace {

/// A limit as something that is wanted: "of 40 000" is "at most 40 000".
QString wanted(const std::string& limit) {
    return limit.starts_with("of ") ? QObject::tr("at most %1").arg(qs(limit.substr(3))) : qs(limit);
}

/// The tightest limit in a word or two: "triangles 19.7×", "fits 61 %".
QString shortVerdict(const platform::FitReport& report) {
    const auto* rule = report.tightest();
    if (!rule) return QObject::tr("no limits");
    const double share = rule->finding.share;
    const QString label = qs(rule->label).toLower();
    if (rule->state == platform::State::Broken) {
        if (rule->severity == platform::Severity::Should) return QObject::tr("fits, %1?").arg(label);
        if (rule->finding.limit.rfind("of ", 0) == 0 && share > 1 && share < 10 && rule->finding.value < 100)
            return QString("%1 %2 of %3")
                .arg(label, qs(rule->finding.measured), qs(rule->finding.limit).section(' ', 1, 1));
        if (share > 1) return QString("%1 %2×").arg(label, qs(showNumber(share, share < 100 ? 1 : 0)));
        return label;
    }
    if (rule->state == platform::State::Tight)
        return QString("%1 %2 %").arg(label).arg(std::lround(share * 100));
    return share > 0 && rule->finding.canBeTight ? QObject::tr("fits, %1 %").arg(std::lround(share * 100))
                                                 : QObject::tr("fits");
}
} // namespace

CrossingButton::CrossingButton(QString piece, QString platform, QWidget* parent)
    : QAbstractButton(parent), piece_(std::move(piece)), platform_(std::move(platform)) {
    setObjectName(QString("crossing-%1-%2").arg(piece_, platform_));
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setCheckable(true);
}

void CrossingButton::show(const CrossingState& state, bool setUp) {
    using Kind = CrossingState::Kind;
    mark_ = !setUp                       ? Mark::None
            : state.kind == Kind::Ready  ? markOf(state.report)
            : state.kind == Kind::Failed ? Mark::Broken
                                         : Mark::Busy;
    words_ = !setUp                       ? tr("not set up")
             : state.kind == Kind::Ready  ? shortVerdict(state.report)
             : state.kind == Kind::Failed ? tr("cannot be read")
                                          : tr("checking");
    setAccessibleName(tr("%1 on %2: %3").arg(piece_, platform_, words_));
    setToolTip(setUp ? tr("Enter or double click opens it") : tr("Click to set %1 up here").arg(piece_));
    update();
}

void CrossingButton::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        Q_EMIT opened();
        return;
    }
    QAbstractButton::keyPressEvent(event);
}

void CrossingButton::paintEvent(QPaintEvent*) {
    const Tokens& t = tokens();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(t.edge, 2)); // the warp thread behind it
    painter.drawLine(QPointF(width() / 2.0, 0), QPointF(width() / 2.0, height()));
    const QRectF box = QRectF(rect()).adjusted(7, 6, -7, -6);
    QPen edge(isChecked() ? t.ink : mark_ == Mark::None ? t.edge : markSoft(mark_), isChecked() ? 2 : 1);
    if (mark_ == Mark::None && !isChecked()) edge.setStyle(Qt::DashLine);
    painter.setPen(edge);
    painter.setBrush(mark_ == Mark::None || mark_ == Mark::Busy ? t.linen : markSoft(mark_));
    painter.drawRoundedRect(box, 8, 8);
    const QColor ink = mark_ == Mark::None || mark_ == Mark::Busy ? t.dim : markInk(mark_);
    painter.setFont(Theme::instance().text(12, mark_ == Mark::None ? 400 : 600));
    painter.setPen(ink);
    if (mark_ == Mark::None) {
        painter.drawText(box, Qt::AlignCenter, words_);
    } else {
        paintMark(painter, mark_, QPointF(box.center().x(), box.top() + 15), 14);
        painter.drawText(QRectF(box.left() + 4, box.top() + 25, box.width() - 8, 20), Qt::AlignCenter,
                         painter.fontMetrics().elidedText(words_, Qt::ElideRight, int(box.width() - 8)));
    }
    if (hasFocus()) {
        painter.setPen(QPen(t.sea, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(box.adjusted(-3, -3, 3, 3), 10, 10);
    }
}

LoomPage::LoomPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    auto* left = new QVBoxLayout;
    left->setContentsMargins(18, 16, 6, 8);
    layout->addLayout(left, 1);
    auto* inner = scrolled(this, left);
    inner->setContentsMargins(0, 0, 12, 0);
    table_ = new QWidget;
    grid_ = new QGridLayout(table_);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setSpacing(0);
    inner->addWidget(table_);
    inner->addStretch(1);

    auto* panel = new QWidget;
    panel->setObjectName("sidePanel");
    panel->setAttribute(Qt::WA_StyledBackground);
    panel->setFixedWidth(300);
    auto* panelLayout = new QVBoxLayout(panel);
    panelLayout->setContentsMargins(16, 16, 8, 12);
    side_ = scrolled(panel, panelLayout);
    side_->setContentsMargins(0, 0, 8, 0);
    side_->setSpacing(8);
    layout->addWidget(panel);

    connect(&session_, &Session::projectChanged, this, &LoomPage::rebuild);
    connect(&session_, &Session::crossingChanged, this, &LoomPage::showCrossing);
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        layoutKey_.clear();
        thumbnailOf_.clear();
        rebuild();
    });
}

void LoomPage::rebuild() {
    if (!session_.isOpen()) return;
    const auto& project = session_.project();
    // The table is made anew only when its rows or columns change; a new verdict repaints one crossing.
    QString key = qs(project.name);
    for (const auto& piece : project.pieces) key += "\n" + qs(piece.name);
    for (const auto& platform : project.platforms) key += "\t" + qs(platform);
    if (key != layoutKey_) {
        layoutKey_ = key;
        clearLayout(grid_);
        crossings_.clear(), pictures_.clear(), facts_.clear(), counts_.clear();
        auto* corner = new QWidget;
        auto* cornerLayout = new QVBoxLayout(corner);
        cornerLayout->setContentsMargins(0, 0, 0, 8);
        cornerLayout->setSpacing(0);
        auto* title = headingLabel(tr("Loom"), 0);
        cornerLayout->addWidget(title);
        cornerLayout->addWidget(
            textLabel(tr("%1 on %2")
                          .arg(qs(showCount(long(project.pieces.size()), "piece", "pieces")),
                               qs(showCount(long(project.platforms.size()), "platform", "platforms"))),
                      "dim"));
        grid_->addWidget(corner, 0, 0);
        grid_->setColumnStretch(0, 3);
        for (int c = 1; c < grid_->columnCount(); ++c) grid_->setColumnStretch(c, 0);
        int column = 1;
        for (const auto& id : project.platforms) {
            const auto sheet = session_.sheet(id);
            auto* head = new QWidget;
            auto* headLayout = new QVBoxLayout(head);
            headLayout->setContentsMargins(4, 6, 4, 8);
            headLayout->setSpacing(0);
            auto* name = headingLabel(sheet ? qs(sheet->name) : qs(id), 2);
            name->setAlignment(Qt::AlignCenter);
            auto* count = textLabel(sheet ? "" : tr("no sheet"), "dim");
            count->setAlignment(Qt::AlignCenter);
            counts_[qs(id)] = count;
            headLayout->addWidget(name);
            headLayout->addWidget(count);
            if (sheet) head->setToolTip(QString("%1: %2").arg(qs(sheet->kind), qs(sheet->about)));
            grid_->addWidget(head, 0, column);
            grid_->setColumnStretch(column++, 2);
        }
        grid_->addWidget(line(), 1, 0, 1, column);
        int row = 2;
        for (const auto& piece : project.pieces) {
            const QString name = qs(piece.name);
            auto* head = new QWidget;
            auto* headLayout = new QHBoxLayout(head);
            headLayout->setContentsMargins(0, 6, 8, 6);
            headLayout->setSpacing(10);
            auto* picture = new QLabel;
            picture->setFixedSize(56, 50);
            pictures_[name] = picture;
            auto* words = new QVBoxLayout;
            words->setSpacing(1);
            words->addStretch(1);
            words->addWidget(headingLabel(name, 2));
            auto* facts = textLabel(tr("being read…"), "dim");
            facts_[name] = facts;
            words->addWidget(facts);
            words->addStretch(1);
            headLayout->addWidget(picture);
            headLayout->addLayout(words, 1);
            auto* more = iconButton("trash-2", tr("Take %1 out of the project").arg(name));
            connect(more, &QToolButton::clicked, this, [this, name] {
                session_.edit(tr("take out %1").arg(name), [&](project::Project& p) {
                    std::erase_if(p.pieces,
                                  [&](const auto& piece) { return piece.name == name.toStdString(); });
                });
            });
            headLayout->addWidget(more);
            grid_->addWidget(head, row, 0);
            column = 1;
            for (const auto& id : project.platforms) {
                auto* crossing = new CrossingButton(name, qs(id), table_);
                crossings_[{name, qs(id)}] = crossing;
                grid_->addWidget(crossing, row, column++);
                connect(crossing, &QAbstractButton::clicked, this, [this, crossing] {
                    const auto* piece = session_.project().piece(crossing->piece().toStdString());
                    if (piece && !piece->on(crossing->platform().toStdString()))
                        session_.edit(tr("set up %1").arg(crossing->piece()), [&](project::Project& p) {
                            for (auto& candidate : p.pieces)
                                if (candidate.name == piece->name)
                                    candidate.crossings.push_back(
                                        {crossing->platform().toStdString(), {}, ""});
                        });
                    select(crossing->piece(), crossing->platform());
                });
                connect(crossing, &CrossingButton::opened, this,
                        [this, crossing] { Q_EMIT openAsked(crossing->piece(), crossing->platform()); });
            }
            grid_->addWidget(line(), row + 1, 0, 1, column);
            row += 2;
        }
        if (project.pieces.empty()) {
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
            connect(bring, &QPushButton::clicked, this, &LoomPage::bringInAsked);
            emptyLayout->addWidget(words);
            emptyLayout->addWidget(hint);
            emptyLayout->addWidget(bring, 0, Qt::AlignCenter);
            grid_->addWidget(empty, row++, 0, 1, std::max(1, column));
        } else {
            auto* legend = new QWidget;
            auto* legendLayout = new QHBoxLayout(legend);
            legendLayout->setContentsMargins(0, 12, 0, 0);
            legendLayout->setSpacing(6);
            for (const auto& [mark, text] : {std::pair{Mark::Fits, tr("fits")},
                                             {Mark::Tight, tr("fits, but near a limit or worth a look")},
                                             {Mark::Broken, tr("breaks a limit")}}) {
                QPixmap pixmap(16, 16);
                pixmap.fill(Qt::transparent);
                QPainter painter(&pixmap);
                paintMark(painter, mark, {8, 8}, 12);
                painter.end();
                auto* sign = new QLabel;
                sign->setPixmap(pixmap);
                auto* words = textLabel(text, "dim");
                words->setWordWrap(false);
                legendLayout->addWidget(sign);
                legendLayout->addWidget(words);
                legendLayout->addSpacing(14);
            }
            legendLayout->addStretch(1);
            grid_->addWidget(legend, row++, 0, 1, column);
        }
    }
    if (piece_.isEmpty() || !project.piece(piece_.toStdString())) {
        piece_ = project.pieces.empty() ? QString() : qs(project.pieces.front().name);
        platform_ = project.platforms.empty() ? QString() : qs(project.platforms.front());
    }
    for (const auto& piece : project.pieces)
        for (const auto& id : project.platforms) showCrossing(qs(piece.name), qs(id));
    select(piece_, platform_);
}

void LoomPage::select(const QString& piece, const QString& platform) {
    piece_ = piece;
    platform_ = platform;
    for (auto& [key, crossing] : crossings_)
        crossing->setChecked(key.first == piece && key.second == platform);
    showSide();
}

void LoomPage::showCrossing(const QString& piece, const QString& platform) {
    const auto found = crossings_.find({piece, platform});
    const auto* p = session_.project().piece(piece.toStdString());
    if (found == crossings_.end() || !p) return;
    const auto& state = session_.state(piece.toStdString(), platform.toStdString());
    found->second->show(state, p->on(platform.toStdString()) != nullptr);
    int fit = 0, all = 0;
    for (const auto& other : session_.project().pieces) {
        if (!other.on(platform.toStdString())) continue;
        ++all;
        const auto& s = session_.state(other.name, platform.toStdString());
        fit += s.kind == CrossingState::Kind::Ready && s.report.fits();
    }
    if (counts_.contains(platform) && session_.sheet(platform.toStdString()))
        counts_[platform]->setText(tr("%1 of %2 fit").arg(fit).arg(all));
    if (state.kind == CrossingState::Kind::Ready) {
        const Model& model = state.source;
        QStringList facts{qs(showCount(long(triangleCount(model)), "triangle", "triangles"))};
        if (objectCount(model) > 1) facts << qs(showCount(long(objectCount(model)), "object", "objects"));
        if (!model.materials.empty())
            facts << qs(showCount(long(model.materials.size()), "material", "materials"));
        if (!model.clips.empty()) facts << qs(showCount(long(model.clips.size()), "clip", "clips"));
        facts_[piece]->setText(facts.join(" · "));
        thumbnail(piece);
    } else if (state.kind == CrossingState::Kind::Failed) {
        facts_[piece]->setText(tr("cannot be read"));
    }
    if (piece == piece_ && platform == platform_) showSide();
}

void LoomPage::thumbnail(const QString& piece) {
    const auto* p = session_.project().piece(piece.toStdString());
    if (!p || p->crossings.empty()) return;
    const auto& state = session_.state(piece.toStdString(), p->crossings.front().platform);
    if (thumbnails_.contains(piece) && pictures_.contains(piece))
        pictures_[piece]->setPixmap(thumbnails_[piece]);
    if (state.kind != CrossingState::Kind::Ready || thumbnailOf_[piece] == state.sourceHash) return;
    thumbnailOf_[piece] = state.sourceHash;
    session_.jobs().start<Pixels>(
        tr("Picture of %1").arg(piece), this,
        [model = state.source, dusk = Theme::instance().isDusk()](const Progress& progress) {
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
        [](const QString&) {}, -5);
}

void LoomPage::showSide() {
    clearLayout(side_);
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!piece || !sheet) {
        side_->addWidget(textLabel(tr("Select a crossing to see what the platform says."), "dim"));
        side_->addStretch(1);
        return;
    }
    const auto& state = session_.state(piece->name, sheet->id);
    side_->addWidget(headingLabel(tr("%1 on %2").arg(piece_, qs(sheet->name))));
    auto* summary = textLabel("", "dim");
    side_->addWidget(summary);
    bool fits = false, offer = false;
    if (!piece->on(sheet->id)) {
        summary->setText(tr("Not set up on this platform."));
    } else if (state.kind == CrossingState::Kind::Failed) {
        summary->setText(qs(state.problem));
        restyle(summary, "bad", true);
    } else if (state.kind != CrossingState::Kind::Ready) {
        summary->setText(tr("Being checked…"));
    } else {
        fits = state.report.fits();
        const auto broken = state.report.brokenMusts();
        std::size_t advice = 0;
        for (const auto& rule : state.report.rules)
            advice += rule.state == platform::State::Broken && rule.severity == platform::Severity::Should;
        summary->setText(
            fits ? (advice ? tr("Fits, with %1")
                                 .arg(qs(showCount(long(advice), "piece of advice", "pieces of advice")))
                           : tr("Fits every limit of %1").arg(qs(sheet->name)))
                 : tr("%1 broken").arg(qs(showCount(long(broken), "limit", "limits"))));
        offer = broken + advice > 0;
        for (const auto& rule : state.report.rules) {
            if (rule.state == platform::State::Fits) continue;
            side_->addWidget(line());
            auto* row = new QHBoxLayout;
            row->setSpacing(8);
            auto* sign = new QLabel;
            QPixmap pixmap(18, 18);
            pixmap.fill(Qt::transparent);
            QPainter painter(&pixmap);
            paintMark(painter, markOf(rule), {9, 9}, 14);
            painter.end();
            sign->setPixmap(pixmap);
            row->addWidget(sign, 0, Qt::AlignTop);
            auto* words = new QVBoxLayout;
            words->setSpacing(1);
            auto* what = textLabel(qs(rule.finding.note));
            what->setStyleSheet("font-weight: 600;");
            words->addWidget(what);
            words->addWidget(
                textLabel(tr("Wants %1. %2").arg(wanted(rule.finding.limit), qs(rule.message)), "dim"));
            row->addLayout(words, 1);
            side_->addLayout(row);
        }
    }
    auto* actions = new QHBoxLayout;
    auto* suggest = button(tr("Suggest a fit"), offer ? "main" : nullptr, "wand-sparkles");
    suggest->setObjectName("loomSuggest");
    suggest->setVisible(offer);
    auto* open = button(tr("Open"), offer ? nullptr : "main");
    open->setObjectName("loomOpen");
    connect(suggest, &QPushButton::clicked, this, [this] { Q_EMIT suggestAsked(piece_, platform_); });
    connect(open, &QPushButton::clicked, this, [this] { Q_EMIT openAsked(piece_, platform_); });
    actions->addWidget(suggest);
    actions->addWidget(open);
    actions->addStretch(1);
    side_->addSpacing(6);
    side_->addLayout(actions);
    for (const auto& source : piece->sources) {
        const bool cleared = source.permission == project::Permission::OwnWork ||
                             source.permission == project::Permission::Allowed;
        const auto name = project::permissionName(source.permission);
        side_->addWidget(
            textLabel(tr("Permission: %1").arg(QString::fromUtf8(name.data(), qsizetype(name.size()))),
                      cleared ? "good" : "warn"));
        if (!source.author.empty())
            side_->addWidget(textLabel(
                tr("by %1%2").arg(qs(source.author), source.licence.empty() ? "" : ", " + qs(source.licence)),
                "dim"));
    }
    side_->addStretch(1);
}

} // namespace zl::app
