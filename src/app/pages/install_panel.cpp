#include "app/pages/install_panel.h"

#include "app/game_folder.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"
#include "app/widgets/wrapped_button.h"

#include "core/base/file_set.h"
#include "core/install/city.h"

#include <QDir>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include <array>

namespace zl::app {

InstallPanel::InstallPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(9);
}

QString InstallPanel::game() const {
    return sheet_ ? gameFolder(session_, sheet_->id) : QString();
}

QString InstallPanel::name() const {
    return qs(fileNameFrom(piece_.toStdString()));
}

void InstallPanel::show(const SheetPointer& sheet, const QString& piece, const QString& delivered,
                        bool built) {
    if (piece != piece_) keepAs_.clear(), mergeInto_.clear(), makeWritable_ = false;
    sheet_ = sheet, piece_ = piece, delivered_ = delivered, built_ = built;
    const bool can = sheet && install::canInstall(*sheet);
    setVisible(can);
    if (!can) return clearLayout(layout_);
    look();
}

void InstallPanel::look() {
    looked_.reset();
    if (busy_ || game().isEmpty()) return rebuild();
    const int asked = ++asked_;
    session_.jobs().start<Looked>(
        tr("Looking at the game's folder"), this,
        [game = std::filesystem::path(game().toStdString()), name = name().toStdString(), built = built_,
         delivered = delivered_.toStdString(), wishes = wishes(), sheet = sheet_](const Progress&) {
            Looked out;
            for (const install::Journal& journal : install::installed(game))
                if (journal.name == name) {
                    out.isIn = true, out.originalName = qs(journal.keptAs), out.keeps = !journal.kept.empty();
                    out.found = install::found(game, name);
                }
            if (!built) return out;
            try {
                out.plan = install::preparedFor(*sheet, name, delivered, game, wishes).plan();
            } catch (const Error& error) {
                out.problem = qs(error.whole());
            }
            return out;
        },
        [this, asked](Looked looked) {
            if (asked != asked_) return;
            looked_ = std::move(looked);
            rebuild();
        },
        [this, asked](const QString& problem) {
            if (asked != asked_) return;
            looked_ = Looked{.problem = problem};
            rebuild();
        },
        Urgency::Shown);
    rebuild();
}

void InstallPanel::rebuild() {
    clearLayout(layout_);
    layout_->addWidget(line());
    layout_->addWidget(headingLabel(tr("Into the game"), 2));
    if (game().isEmpty())
        layout_->addWidget(textLabel(tr("Show where the game is, and the files go there by themselves. What "
                                        "it has by that name is kept."),
                                     "dim"));
    else
        layout_->addWidget(textLabel(QDir::toNativeSeparators(game()), "dim"));
    auto* choose =
        button(game().isEmpty() ? tr("The game's folder…") : tr("Another folder…"), nullptr, "folder-open");
    choose->setObjectName("gameFolder");
    connect(choose, &QPushButton::clicked, this, &InstallPanel::chooseGame);
    layout_->addWidget(choose, 0, Qt::AlignLeft);
    if (game().isEmpty()) return;
    if (busy_ || !looked_) {
        layout_->addWidget(textLabel(busy_ ? tr("At work…") : tr("Looking…"), "dim"));
        return;
    }
    if (!looked_->problem.isEmpty())
        layout_->addWidget(textLabel(looked_->problem, "bad"));
    else if (built_)
        addPlan();
    else
        layout_->addWidget(textLabel(tr("Build it first: what is put in is what was built."), "dim"));
    if (looked_->isIn) addTakingOut();
}

void InstallPanel::addPlan() {
    const install::Plan& plan = looked_->plan;
    std::array<long, 5> count{};
    for (const install::Change& change : plan.changes) ++count[std::size_t(change.kind)];
    QStringList words;
    if (count[0]) words << tr("%1 added").arg(qs(showCount(count[0], "file", "files")));
    if (count[1]) words << tr("%1 replaced").arg(qs(showCount(count[1], "file", "files")));
    if (count[2]) words << tr("%1 removed").arg(qs(showCount(count[2], "file", "files")));
    if (count[4]) words << tr("%1 added to").arg(qs(showCount(count[4], "file is", "files are")));
    const bool same = words.isEmpty() && plan.problems.empty();
    layout_->addWidget(
        textLabel(same ? tr("It is in the game as it was built.") : words.join(", "), same ? "good" : "dim"));
    if (!plan.keptAs.empty() && !looked_->isIn) {
        layout_->addWidget(textLabel(tr("The game's own becomes an entry of its own, called")));
        auto* keep = new QLineEdit(keepAs_.isEmpty() ? qs(plan.keptAs) : keepAs_);
        keep->setObjectName("keepAs");
        keep->setAccessibleName(tr("Name for the original"));
        connect(keep, &QLineEdit::editingFinished, this, [this, keep] {
            const QString typed = keep->text().trimmed();
            if (typed == keepAs_ || (keepAs_.isEmpty() && typed == qs(looked_->plan.keptAs))) return;
            keepAs_ = typed;
            QMetaObject::invokeMethod(this, &InstallPanel::look, Qt::QueuedConnection); // the field goes
        });
        layout_->addWidget(keep);
    }
    addDetails();
    for (const std::string& note : plan.notes) layout_->addWidget(textLabel(qs(note), "dim"));
    for (const std::string& problem : plan.problems) layout_->addWidget(textLabel(qs(problem), "bad"));
    addMends();
    if (same) return;
    auto* put = button(looked_->isIn ? tr("Bring up to date") : tr("Put into the game"), "main", "package");
    put->setObjectName("putIn");
    put->setEnabled(plan.problems.empty());
    put->setToolTip(plan.problems.empty() ? tr("All of it, or nothing") : tr("Something stands in the way"));
    connect(put, &QPushButton::clicked, this, &InstallPanel::putIn);
    layout_->addWidget(put, 0, Qt::AlignLeft);
}

install::Wishes InstallPanel::wishes() const {
    return {.keepAs = keepAs_.toStdString(),
            .makeWritable = makeWritable_,
            .mergeInto = mergeInto_.toStdString()};
}

void InstallPanel::addDetails() {
    for (const install::Change& change : looked_->plan.changes) {
        if (change.details.empty()) continue;
        auto* name = textLabel(QString("+ %1").arg(qs(change.path)));
        name->setStyleSheet("font-weight: 600;");
        layout_->addWidget(name);
        for (const std::string& detail : change.details) layout_->addWidget(textLabel(qs(detail), "dim"));
    }
}

void InstallPanel::addMends() {
    const install::Plan& plan = looked_->plan;
    if (!plan.readOnly.empty()) {
        auto* writable = button(tr("Make it writable"), nullptr, "lock-open");
        writable->setObjectName("makeWritable");
        writable->setToolTip(tr("%1; read-only again once this is taken out").arg(qs(plan.readOnly[0])));
        connect(writable, &QPushButton::clicked, this, [this] { makeWritable_ = true, look(); });
        layout_->addWidget(writable, 0, Qt::AlignLeft);
    }
    for (const std::string& file : plan.mergeInto) {
        auto* merge = new WrappedButton(tr("Put its body into %1").arg(qs(file)));
        merge->setObjectName("mergeInto-" + qs(file));
        merge->setToolTip(tr("What is in it stays; taking out again gives it back as it was"));
        connect(merge, &QPushButton::clicked, this, [this, file] { mergeInto_ = qs(file), look(); });
        layout_->addWidget(merge);
    }
    if (!mergeInto_.isEmpty()) {
        auto* own = button(tr("A file of its own"), nullptr, "undo-2");
        own->setObjectName("mergeIntoNone");
        connect(own, &QPushButton::clicked, this, [this] { mergeInto_.clear(), look(); });
        layout_->addWidget(own, 0, Qt::AlignLeft);
    }
}

void InstallPanel::addTakingOut() {
    for (const std::string& line : looked_->found)
        layout_->addWidget(textLabel(tr("there: %1").arg(qs(line)), "dim"));
    layout_->addWidget(
        textLabel(looked_->originalName.isEmpty() && looked_->keeps
                      ? tr("It is in the game; what stood there before is kept, and comes back.")
                  : looked_->originalName.isEmpty()
                      ? tr("It is in the game, which had nothing of that name.")
                      : tr("It is in the game; the game's own is \"%1\".").arg(looked_->originalName),
                  "dim"));
    if (install::isCity(game().toStdString())) {
        auto* tries = button(tr("Try it among the others"), nullptr, "play");
        tries->setObjectName("tryInGame");
        tries->setToolTip(tr("Opens the game's own folder in its stand-in"));
        connect(tries, &QPushButton::clicked, this, [this] { Q_EMIT tryAsked(game()); });
        layout_->addWidget(tries, 0, Qt::AlignLeft);
    }
    auto* out = button(tr("Take out again"), nullptr, "undo-2");
    out->setObjectName("takeOut");
    out->setToolTip(tr("The game is as it was before, to the byte"));
    connect(out, &QPushButton::clicked, this, &InstallPanel::takeOut);
    layout_->addWidget(out, 0, Qt::AlignLeft);
}

void InstallPanel::chooseGame() {
    const QString chosen = QFileDialog::getExistingDirectory(this, tr("The game's folder"), game());
    if (chosen.isEmpty()) return;
    setGameFolder(sheet_->id, chosen);
    look();
}

void InstallPanel::run(const QString& title, std::function<install::Plan(const Progress&)> work,
                       const QString& done) {
    busy_ = true;
    rebuild();
    const auto ended = [this](const QString& text) {
        busy_ = false;
        if (!text.isEmpty()) Q_EMIT session_.said(text);
        look();
    };
    session_.jobs().start<install::Plan>(
        title, this, std::move(work), [ended, done](const install::Plan&) { ended(done); }, ended,
        Urgency::Asked, [ended] { ended({}); });
}

void InstallPanel::putIn() {
    run(
        tr("Putting %1 into the game").arg(piece_),
        [delivered = delivered_.toStdString(), game = game().toStdString(), wishes = wishes(), sheet = sheet_,
         name = name().toStdString()](const Progress& progress) {
            progress.report(0, "reading");
            const auto work = install::preparedFor(*sheet, name, delivered, game, wishes);
            work.carryOut(progress);
            return work.plan();
        },
        tr("%1 is in the game's folder and was read back").arg(piece_));
}

void InstallPanel::takeOut() {
    run(
        tr("Taking %1 out of the game").arg(piece_),
        [name = name().toStdString(), game = game().toStdString()](const Progress& progress) {
            return install::takeOut(game, name, {}, progress);
        },
        tr("The game's folder is as it was before"));
}

} // namespace zl::app
