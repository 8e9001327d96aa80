#include "app/pages/deliver_panel.h"

#include "app/game/answer_row.h"
#include "app/pages/chain_dialog.h"
#include "app/pages/bytes_panel.h"
#include "app/pages/cost_panel.h"
#include "app/pages/install_panel.h"
#include "app/pages/upload_dialog.h"
#include "app/fields/field_editor.h"
#include "app/qt_text.h"
#include "app/widgets/chain_table.h"
#include "app/widgets/ui.h"

#include "core/project/dependencies.h"
#include "core/base/file_set.h"
#include "core/deliver/deliver.h"
#include "core/project/other_sizes.h"

#include <QComboBox>
#include <QDateTime>
#include <QDesktopServices>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>
#include <QUrl>
#include <QVBoxLayout>

namespace zl::app {

DeliverPanel::DeliverPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(9);
    layout_ = new QVBoxLayout;
    layout_->setSpacing(9);
    column->addLayout(layout_);
    install_ = new InstallPanel(session_, this);
    column->addWidget(install_);
    connect(install_, &InstallPanel::tryAsked, this, &DeliverPanel::tryAsked);
    cost_ = new CostPanel(this);
    column->addWidget(cost_);
    bytes_ = new BytesPanel(this);
    column->addWidget(bytes_);
    column->addStretch(1);
    connect(&session_, &Session::projectExchanged, this, [this] { built_.clear(), chains_.clear(); });
}

void DeliverPanel::show(const QString& piece, const QString& platform) {
    if (piece != piece_ || platform != platform_) preview_ = {};
    piece_ = piece;
    platform_ = platform;
    rebuild();
}

namespace {

/// Where a chosen folder is remembered: by what it is for, spelt out, so that every run finds it again.
QString folderSetting(const project::Project& project, const QString& piece, const QString& platform) {
    const QString key = QString("%1|%2|%3").arg(qs(project.file.string()), platform, piece);
    return "deliver/" + QString::fromLatin1(key.toUtf8().toPercentEncoding());
}

} // namespace

QString DeliverPanel::folderOf(const QString& piece, const QString& platform) const {
    const QString project = qs(session_.project().file.string());
    const QString chosen = QSettings().value(folderSetting(session_.project(), piece, platform)).toString();
    if (!chosen.isEmpty()) return chosen;
    const QString base = project.isEmpty()
                             ? QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation)
                             : QFileInfo(project).absolutePath();
    return QString("%1/delivered/%2/%3").arg(base, platform, qs(fileNameFrom(piece.toStdString())));
}

const DeliverPanel::Built* DeliverPanel::lastBuilt() const {
    const auto found = built_.find({piece_, platform_});
    return found == built_.end() ? nullptr : &found->second;
}

bool DeliverPanel::isCurrent(const Built& built) const {
    return built.result.fits &&
           built.key == session_.deliveryKey(piece_.toStdString(), platform_.toStdString());
}

bool DeliverPanel::wasBuilt() const {
    const Built* last = lastBuilt();
    return last && isCurrent(*last);
}

void DeliverPanel::build(const std::function<void(const QString&)>& then) {
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (!piece || !sheet || state.kind != CrossingState::Kind::Ready)
        return Q_EMIT session_.said(tr("Wait until the piece has been checked."));
    const auto warnings = project::permissionWarnings(*piece);
    const deliver::Labels labels = project::labelsFor(session_.project(), *piece, sheet->id);
    const nlohmann::json params = deliveryFor(*piece, sheet->id);
    const QString folder = this->folder();
    const std::pair id(piece_, platform_);
    session_.jobs().start<deliver::BuildResult>(
        tr("Building %1 for %2").arg(piece_, qs(sheet->name)), this,
        [source = state.source, hash = state.sourceHash, recipe = recipeFor(*piece, sheet->id), sheet,
         folder = std::filesystem::path(folder.toStdString()), labels, params, project = session_.snapshot(),
         sources = session_.sources(), cache = session_.sharedCache()](const Progress& progress) {
            const project::Companions around(*project, *project->piece(labels.name), *sheet, *sources,
                                             cache.get(), progress);
            const auto others = project::otherSizes(*project, *project->piece(labels.name), *sheet, *sources,
                                                    cache.get(), progress);
            return deliver::build(source, hash, recipe, *sheet, folder, labels, params, cache.get(), progress,
                                  &around, others);
        },
        [this, id, then, folder, warnings,
         key = session_.deliveryKey(piece->name, sheet->id)](deliver::BuildResult result) {
            const bool fits = result.fits;
            QString text =
                fits ? tr("Wrote %1 in %2")
                           .arg(qs(showCount(long(result.files.size()), "file", "files")),
                                qs(showSeconds(result.seconds)))
                     : tr("It does not fit yet, so nothing was written: %1")
                           .arg(qs(showCount(long(result.report.brokenMusts()), "limit is", "limits are")) +
                                tr(" broken"));
            for (const auto& warning : warnings) text += ". " + qs(warning);
            built_[id] = {std::move(result), QDateTime::currentDateTime(), key};
            Q_EMIT session_.said(text);
            rebuild();
            Q_EMIT built();
            if (fits && then) then(folder);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

void DeliverPanel::showCost(const SheetPointer& sheet) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (!sheet->cost.saysSomething() || state.kind != CrossingState::Kind::Ready) return cost_->hide();
    session_.jobs().start<platform::Cost>(
        tr("Reckoning what copies of %1 cost").arg(piece_), this,
        [model = state.evaluation.model, sheet](const Progress&) { return platform::costOf(model, *sheet); },
        [this, sheet, id = std::pair(piece_, platform_)](const platform::Cost& cost) {
            if (id == std::pair(piece_, platform_)) cost_->show(cost, *sheet);
        },
        [this](const QString&) { cost_->hide(); }, Urgency::Shown);
}

void DeliverPanel::showBytesOf(const SheetPointer& sheet) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto limits = sheet->rulesOf("kart-bytes");
    if (limits.empty() || state.kind != CrossingState::Kind::Ready) return bytes_->hide();
    session_.jobs().start<std::vector<formats::KartShare>>(
        tr("Looking what takes the bytes of %1").arg(piece_), this,
        [model = state.evaluation.model, sheet](const Progress& progress) {
            return formats::kartShares(model, {.metresPerUnit = sheet->metresPerUnit, .weighed = true},
                                       progress);
        },
        [this, most = limits.front()->limit("most-kib", 0) * 1024,
         id = std::pair(piece_, platform_)](const std::vector<formats::KartShare>& shares) {
            if (id == std::pair(piece_, platform_)) bytes_->show(shares, most);
        },
        [this](const QString&) { bytes_->hide(); }, Urgency::Shown);
}

void DeliverPanel::rebuild() {
    clearLayout(layout_);
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!piece || !sheet) return;
    layout_->addWidget(textLabel(tr("All files are written together, or none."), "dim"));
    showCost(sheet);
    showBytesOf(sheet);
    addParams(*piece, sheet);
    addPreview();
    if (const Built* last = lastBuilt()) addResult(*last);
    if (!wasBuilt()) addOutlook(sheet);
    if (const auto words = sheet->importerWords(); !words.empty())
        layout_->addWidget(textLabel(qs(words), "dim"));
    addChain(*sheet);
    addGame(*sheet);
    addFolder();
    addCredit(*piece);
    install_->show(sheet, piece_, folder(), wasBuilt());
}

void DeliverPanel::addParams(const project::Piece& piece, const SheetPointer& sheet) {
    const auto usual = deliver::deliverableFor(*sheet);
    const auto now = usual->clone();
    try {
        now->setParams(deliveryFor(piece, sheet->id));
    } catch (const Error& error) { // of another version of the sheet
        layout_->addWidget(textLabel(qs(error.whole()), "bad"));
    }
    if (now->fields().empty()) return;
    auto* editor = new FieldEditor(now->fields(), now->params(),
                                   [&](const fields::Field& field) { return now->isShown(field); },
                                   {sheet, {}, session_.snapshot(), piece.name});
    layout_->addWidget(editor);
    connect(
        editor, &FieldEditor::changed, this,
        [this, usual = nlohmann::json(usual->params())](const QString& name, const nlohmann::json& value) {
            const std::string key = name.toStdString();
            session_.editCrossing(tr("change %1").arg(name), piece_, platform_, [&](project::Crossing& c) {
                if (value == usual.at(key))
                    c.deliver.erase(key);
                else
                    c.deliver[key] = value;
            });
        });
}

void DeliverPanel::addGame(const platform::Sheet& sheet) {
    layout_->addWidget(line());
    layout_->addWidget(headingLabel(tr("In the game itself"), 2));
    const platform::GameAnswer* last = nullptr;
    for (const auto& answer : sheet.answers)
        if (qs(answer.piece) == piece_) last = &answer;
    if (last) layout_->addLayout(answerRow(*last, sheet));
    auto* ask = button(tr("What the game said…"), nullptr, "clipboard");
    ask->setObjectName("gameSaid");
    ask->setToolTip(tr("Keep that the game took it, or refused it and why; find out what it minded"));
    connect(ask, &QPushButton::clicked, this, &DeliverPanel::gameAsked);
    layout_->addWidget(ask, 0, Qt::AlignLeft);
}

void DeliverPanel::addFolder() {
    layout_->addWidget(line());
    layout_->addWidget(headingLabel(tr("Folder"), 2));
    auto* where = textLabel(QDir::toNativeSeparators(folder()), "dim");
    where->setTextInteractionFlags(Qt::TextSelectableByMouse);
    layout_->addWidget(where);
    auto* choose = button(tr("Choose…"), nullptr, "folder-open");
    connect(choose, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getExistingDirectory(this, tr("Folder for the files"), folder());
        if (chosen.isEmpty()) return;
        QSettings().setValue(folderSetting(session_.project(), piece_, platform_), chosen);
        rebuild();
    });
    layout_->addWidget(choose, 0, Qt::AlignLeft);
}

void DeliverPanel::addCredit(const project::Piece& piece) {
    layout_->addWidget(line());
    layout_->addWidget(headingLabel(tr("Credit"), 2));
    layout_->addWidget(textLabel(qs(creditOf(session_.project(), piece, platform_.toStdString())), "dim"));
    for (const auto& warning : project::permissionWarnings(piece))
        layout_->addWidget(textLabel(qs(warning), "warn"));
}

void DeliverPanel::addResult(const Built& last) {
    layout_->addWidget(line());
    layout_->addWidget(headingLabel(last.result.fits ? tr("Written at %1").arg(last.when.toString("HH:mm:ss"))
                                                     : tr("Nothing was written"),
                                    2));
    addFiles(last.result.files);
    for (const auto& rule : last.result.report.rules)
        if (rule.state == platform::State::Broken && rule.severity == platform::Severity::Must)
            layout_->addWidget(textLabel(qs(rule.finding.note), "bad"));
    if (!last.result.fits) return;
    if (!isCurrent(last))
        layout_->addWidget(textLabel(tr("Something it rests on has changed since."), "warn"));
    auto* open = button(tr("Show the folder"), nullptr, "folder-open");
    connect(open, &QPushButton::clicked, this,
            [this] { QDesktopServices::openUrl(QUrl::fromLocalFile(folder())); });
    layout_->addWidget(open, 0, Qt::AlignLeft);
    const bool scene = std::ranges::any_of(last.result.files, [](const auto& file) {
        return std::string_view(file.first).ends_with(".scene.xml");
    });
    if (!scene) return;
    auto* upload = button(tr("Upload…"), nullptr, "upload");
    upload->setObjectName("uploadAsked");
    connect(upload, &QPushButton::clicked, this, [this] {
        try {
            (new UploadDialog(folder(), window()))->open();
        } catch (const Error& error) {
            Q_EMIT session_.said(qs(error.whole()));
        }
    });
    layout_->addWidget(upload, 0, Qt::AlignLeft);
}

void DeliverPanel::addChain(const platform::Sheet& sheet) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (sheet.chain.empty() || state.kind != CrossingState::Kind::Ready) return;
    layout_->addWidget(line());
    const auto found = chains_.find({piece_, platform_});
    const bool measured = found != chains_.end() && found->second.key == state.evaluation.key;
    layout_->addWidget(
        headingLabel(measured ? tr("The way there, as measured") : tr("The way there, as expected"), 2));
    auto* table = new ChainTable;
    table->setObjectName("chainTable");
    try {
        const auto plans = chain::planned(sheet.chain, &sheet, fileNameFrom(piece_.toStdString()));
        if (measured)
            table->showMeasured(found->second.legs);
        else
            table->showExpected(plans, chain::factsOf(state.evaluation.model));
        layout_->addWidget(table);
        auto* actions = new QHBoxLayout;
        auto* run = button(tr("Run the chain"), nullptr, "play");
        run->setObjectName("runChain");
        run->setToolTip(tr("Write every leg, read it back and measure what came through"));
        connect(run, &QPushButton::clicked, this,
                [this, plans, key = state.evaluation.key, model = state.evaluation.model] {
                    session_.jobs().start<chain::Result>(
                        tr("Going through the chain"), this,
                        [model, plans, folder = folder().toStdString() + "-chain"](const Progress& progress) {
                            return chain::run(model, plans, folder, progress);
                        },
                        [this, key, id = std::pair(piece_, platform_)](const chain::Result& result) {
                            chains_[id] = {result.legs, key};
                            rebuild();
                        },
                        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
                });
        auto* compare = button(tr("Compare…"), nullptr, "columns-2");
        compare->setObjectName("compareChains");
        compare->setToolTip(tr("Try another chain beside this one"));
        connect(compare, &QPushButton::clicked, this, [this] {
            auto* dialog = new ChainDialog(session_, piece_, platform_, folder() + "-chain", window());
            dialog->setAttribute(Qt::WA_DeleteOnClose);
            dialog->open();
        });
        actions->addWidget(run);
        actions->addWidget(compare);
        actions->addStretch(1);
        layout_->addLayout(actions);
    } catch (const Error& error) {
        delete table;
        layout_->addWidget(
            textLabel(qs(error.whole()), "bad")); // a sheet of the user's own may name anything
    }
}

} // namespace zl::app
