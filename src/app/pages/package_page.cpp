#include "app/pages/package_page.h"

#include "app/pages/resource_panel.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/leaving.h"
#include "app/widgets/ui.h"

#include "core/base/file_set.h"
#include "core/base/units.h"
#include "core/files/resource_files.h"
#include "core/files/terms.h"
#include "core/package/make_mine.h"

#include <QFileDialog>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QSortFilterProxyModel>
#include <QTreeView>
#include <QVBoxLayout>

namespace zl::app {

namespace {

OpenPackage readAndChecked(const std::filesystem::path& file, const Progress& progress) {
    OpenPackage opened;
    opened.package = package::readPackage(file, files::termsOf(file).limits, progress.between(0, 0.6));
    opened.check = checkReferences(opened.package, package::indicesBeside(file, progress.silent()));
    return opened;
}

} // namespace

PackagePage::PackagePage(Session& session, QWidget* parent) : SourcePage(session, parent) {
    auto* finding = makeSide();
    auto* facts = layOut(finding, makeMiddle());
    panel_ = new ResourcePanel(session_, rows_);
    auto* within = scrolled(this, facts);
    within->setContentsMargins(0, 0, 8, 0);
    within->addWidget(panel_, 1);
    connect(panel_, &ResourcePanel::rowAsked, this, &PackagePage::chooseRow);
    connect(panel_, &ResourcePanel::pieceAsked, this, &PackagePage::makePiece);
    connect(panel_, &ResourcePanel::takeOutAsked, this, &PackagePage::takeOut);
    connect(panel_, &ResourcePanel::putBackAsked, this, &PackagePage::putBack);
    connect(panel_, &ResourcePanel::assigned, this, &PackagePage::replace);
}

QWidget* PackagePage::makeSide() {
    QVBoxLayout* side = nullptr;
    auto* box = makeFinding("package", tr("Find a resource…"), 268, side);
    side->addWidget(headingLabel(tr("References"), 2));
    auto* rest = scrolled(this, side);
    rest->setContentsMargins(0, 0, 0, 0);
    verdict_ = textLabel({});
    verdict_->setObjectName("packageVerdict");
    rest->addWidget(verdict_);
    findings_ = textLabel({}, "dim");
    findings_->setObjectName("packageFindings");
    rest->addWidget(findings_);
    rest->addStretch(1);
    side->addWidget(headingLabel(tr("Make it mine"), 2));
    side->addWidget(
        textLabel(tr("A copy beside it in which every name and number is new, and nothing points at the "
                     "original."),
                  "dim"));
    called_ = new QLineEdit;
    called_->setObjectName("mineCalled");
    called_->setPlaceholderText(tr("called, such as my-lantern"));
    called_->setAccessibleName(tr("Called"));
    maker_ = new QLineEdit(QSettings().value("maker").toString());
    maker_->setObjectName("mineMaker");
    maker_->setPlaceholderText(tr("made by"));
    maker_->setAccessibleName(tr("Made by"));
    mine_ = button(tr("Make it mine"), "main");
    mine_->setObjectName("makeMine");
    for (QWidget* widget :
         {static_cast<QWidget*>(called_), static_cast<QWidget*>(maker_), static_cast<QWidget*>(mine_)})
        side->addWidget(widget);
    auto* foot = new QHBoxLayout;
    foot->addWidget(makeBack("leavePackage"));
    foot->addStretch(1);
    save_ = button(tr("Save"));
    save_->setObjectName("savePackage");
    save_->setToolTip(tr("Writes the package with what was put in"));
    foot->addWidget(save_);
    side->addLayout(foot);
    const auto ready = [this] { mine_->setEnabled(!called_->text().isEmpty() && !maker_->text().isEmpty()); };
    connect(called_, &QLineEdit::textChanged, this, ready);
    connect(maker_, &QLineEdit::textChanged, this, ready);
    connect(called_, &QLineEdit::returnPressed, mine_, &QPushButton::click);
    connect(maker_, &QLineEdit::returnPressed, mine_, &QPushButton::click);
    connect(mine_, &QPushButton::clicked, this, &PackagePage::makeMine);
    connect(save_, &QPushButton::clicked, this, [this] { save(); });
    ready();
    return box;
}

QWidget* PackagePage::makeMiddle() {
    auto* box = new QWidget;
    auto* layout = new QVBoxLayout(box);
    layout->setContentsMargins(14, 14, 14, 10);
    layout->setSpacing(8);
    state_ = textLabel({}, "dim");
    state_->setObjectName("packageState");
    layout->addWidget(state_);
    filtered_ = new QSortFilterProxyModel(this);
    filtered_->setSourceModel(&rows_);
    filtered_->setFilterKeyColumn(-1);
    filtered_->setFilterCaseSensitivity(Qt::CaseInsensitive);
    view_ = new QTreeView;
    view_->setObjectName("packageRows");
    view_->setAccessibleName(tr("Resources"));
    view_->setModel(filtered_);
    view_->setRootIsDecorated(false);
    view_->setUniformRowHeights(true);
    view_->setAllColumnsShowFocus(true);
    view_->setSortingEnabled(true);
    view_->sortByColumn(-1, Qt::AscendingOrder); // as in the package
    view_->setTextElideMode(Qt::ElideRight);
    auto* head = view_->header();
    head->setStretchLastSection(true);
    for (const auto& [section, width] : {std::pair{int(PackageRows::Name), 190},
                                         {int(PackageRows::Kind), 80},
                                         {int(PackageRows::Size), 84},
                                         {int(PackageRows::RefersTo), 150}})
        head->resizeSection(section, width);
    layout->addWidget(view_, 1);
    connect(words_, &QLineEdit::textChanged, this, [this](const QString& words) {
        filtered_->setFilterFixedString(words);
        count_->setText(tr("%1 of %2").arg(filtered_->rowCount()).arg(rows_.rowCount()));
    });
    connect(view_->selectionModel(), &QItemSelectionModel::currentChanged, this,
            [this](const QModelIndex& at) {
                panel_->show(at.isValid() ? filtered_->mapToSource(at).row() : -1);
            });
    connect(view_, &QTreeView::activated, this, [this] { makePiece(); });
    return box;
}

void PackagePage::open(const QString& file) {
    if (!mayLeave([this, file] { open(file); })) return;
    file_ = file;
    state_->setText(tr("Reading the package…"));
    state_->show();
    show({});
    verdict_->clear(), findings_->clear(), called_->clear();
    words_->clear();
    words_->setFocus();
    if (reading_) reading_->cancel();
    reading_ = session_.jobs().start<OpenPackage>(
        tr("Opening %1").arg(QFileInfo(file).fileName()), this,
        [path = std::filesystem::path(file.toStdString())](const Progress& progress) {
            return readAndChecked(path, progress);
        },
        [this, file](const OpenPackage& opened) {
            reading_ = nullptr;
            if (file != file_) return;
            state_->hide();
            show(opened);
            showCheck(opened.check);
        },
        [this](const QString& problem) { state_->setText(problem); }, Urgency::Asked,
        [this] { state_->setText(tr("Stopped before all was read.")); });
}

void PackagePage::show(const OpenPackage& opened) {
    rows_.show(opened);
    panel_->show(-1);
    save_->setEnabled(false);
    count_->setText(qs(showCount(rows_.rowCount(), "resource", "resources")) +
                    (opened.package.maker.empty() ? QString() : tr(", by %1").arg(qs(opened.package.maker))));
}

void PackagePage::showCheck(const package::ReferenceCheck& check) {
    const std::size_t all = check.dangling.size() + check.foreign.size() + check.collisions.size();
    verdict_->setText(
        all == 0 ? tr("%1 checked, none leads astray.")
                       .arg(qs(showCount(long(check.references), "reference", "references")))
                 : tr("%1 would mix it up with others:").arg(qs(showCount(long(all), "thing", "things"))));
    restyle(verdict_, "good", all == 0);
    restyle(verdict_, "bad", all > 0);
    QStringList lines;
    constexpr qsizetype most = 20;
    for (const auto* list : {&check.foreign, &check.collisions, &check.dangling})
        for (const auto& finding : *list)
            if (lines.size() < most) lines << qs(finding.why);
    if (all > std::size_t(most)) lines << tr("and %1 more").arg(all - std::size_t(most));
    findings_->setText(breakable(lines.join("\n\n")));
    findings_->setVisible(!lines.isEmpty());
}

void PackagePage::chooseRow(int row) {
    words_->clear();
    const QModelIndex at = filtered_->mapFromSource(rows_.index(row, 0));
    view_->setCurrentIndex(at);
    view_->scrollTo(at);
}

void PackagePage::choose(const QString& name) {
    for (int row = 0; row < rows_.rowCount(); ++row)
        if (qs(rows_.resource(row).name) == name) chooseRow(row);
}

void PackagePage::makePiece() {
    if (panel_->row() < 0 || !rows_.resource(panel_->row()).key.is(files::ResourceKind::Geometry)) return;
    try {
        const std::filesystem::path path = file_.toStdString();
        const files::ResourceFiles held(path, files::termsOf(path).limits);
        if (const auto inside = held.find({}, textOf(rows_.resource(panel_->row()).key)))
            Q_EMIT itemsAsked({itemOf(qs((path / *inside).string()))});
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
}

void PackagePage::takeOut() {
    if (panel_->row() < 0) return;
    const package::Resource& resource = rows_.resource(panel_->row());
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Take out as…"), qs(fileNameFrom(resource.name)));
    if (file.isEmpty()) return;
    try {
        writeFile(file.toStdString(), *resource.bytes);
        Q_EMIT session_.said(tr("Wrote %1").arg(file));
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
}

void PackagePage::putBack() {
    if (panel_->row() < 0) return;
    const QString file = QFileDialog::getOpenFileName(this, tr("Put a file in its place"));
    if (file.isEmpty()) return;
    try {
        replace(panel_->row(), readText(file.toStdString(), 256u << 20));
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
}

void PackagePage::replace(int row, const std::string& bytes) {
    rows_.replace(row, bytes);
    save_->setEnabled(true);
    panel_->show(panel_->row());
    checkAgain();
}

void PackagePage::checkAgain() {
    session_.jobs().start<package::ReferenceCheck>(
        tr("Checking references"), this,
        [package = rows_.package(),
         path = std::filesystem::path(file_.toStdString())](const Progress& progress) {
            return checkReferences(package, package::indicesBeside(path, progress));
        },
        [this, file = file_](const package::ReferenceCheck& check) {
            if (file == file_) showCheck(check);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

bool PackagePage::mayLeave(std::function<void()> then) {
    if (!rows_.hasChanges()) return true;
    const Leaving leaving =
        askHowToLeave(this, tr("\"%1\" has resources that are not saved.").arg(QFileInfo(file_).fileName()));
    if (leaving == Leaving::Save) save(std::move(then));
    if (leaving == Leaving::Drop) rows_.show({});
    return leaving == Leaving::Drop;
}

void PackagePage::save(std::function<void()> then) {
    if (!rows_.hasChanges()) return;
    session_.jobs().start<OpenPackage>(
        tr("Saving %1").arg(QFileInfo(file_).fileName()), this,
        [package = rows_.package(),
         path = std::filesystem::path(file_.toStdString())](const Progress& progress) {
            writeFile(path, bytesOf(package));
            return readAndChecked(path, progress);
        },
        [this, then = std::move(then)](const OpenPackage& opened) {
            show(opened);
            showCheck(opened.check);
            Q_EMIT session_.said(tr("Saved %1").arg(file_));
            if (then) then();
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

std::vector<std::string> PackagePage::prefixes() const {
    std::vector<std::string> out;
    for (const auto& sheet : session_.sheets())
        for (const platform::Prefix& prefix : sheet->prefixes) out.push_back(prefix.code);
    return out;
}

void PackagePage::makeMine() {
    if (!mine_->isEnabled()) return;
    QSettings().setValue("maker", maker_->text());
    const std::filesystem::path path = file_.toStdString();
    const package::Mine mine{called_->text().toStdString(), maker_->text().toStdString(), prefixes()};
    session_.jobs().start<QString>(
        tr("Making %1").arg(called_->text()), this,
        [original = rows_.package(), mine, path](const Progress& progress) {
            const auto others = package::indicesBeside(path, progress.silent());
            const auto index = indexOf(original);
            const auto copied = package::makeMine(original, mine, package::numbersOf(others));
            package::demandClean(package::checkReferences(copied.package, others, &index));
            const std::filesystem::path out = path.parent_path() / (mine.name + ".rowpackage");
            if (std::filesystem::exists(out))
                throw Error("is there already", out.string(), "Choose another name.");
            writeFile(out, bytesOf(copied.package));
            return qs(out.string());
        },
        [this](const QString& out) {
            Q_EMIT session_.said(tr("Wrote %1").arg(out));
            open(out);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

} // namespace zl::app
