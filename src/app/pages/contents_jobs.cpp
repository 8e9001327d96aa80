// What the page of an archive's contents does beside the window: looking, making pieces, taking out.
#include "app/pages/contents_page.h"

#include "app/pages/peek.h"
#include "app/qt_text.h"
#include "app/theme.h"

#include "core/base/units.h"
#include "core/files/take_out.h"
#include "core/formats/format.h"

#include <QFileDialog>
#include <QSettings>
#include <QTreeView>

namespace zl::app {

using formats::FileKind;

namespace {

constexpr std::uint64_t mostPeekedBytes = 32u << 20; ///< of a model that is looked at unasked

/// Of a model that cannot be read nothing is known; it becomes a piece all the same, which says why.
project::Clothing clothingAt(const std::filesystem::path& path, const Progress& progress) {
    try {
        return project::clothingOf(formats::readModel(path, progress));
    } catch (const Error&) {
        return {};
    }
}

} // namespace

platform::RoleEndings ContentsPage::endings() {
    platform::RoleEndings general = platform::usualRoleEndings();
    try {
        general = platform::generalRoleEndings();
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
    return project::roleEndingsFor(session_.project().platforms, session_.sheets(), general);
}

std::shared_ptr<const project::PictureShelf> ContentsPage::shelfOf(const files::Contents& contents,
                                                                   const platform::RoleEndings& endings) {
    std::vector<std::string> pictures;
    for (const files::Held& held : contents.held)
        if (formats::kindOf(held.path) == FileKind::Picture) pictures.push_back(held.path);
    return std::make_shared<const project::PictureShelf>(std::move(pictures), endings);
}

void ContentsPage::peekNext() {
    if (peeking_ || !isVisible()) return;
    const auto isWanted = [this](const QModelIndex& row, bool asked) {
        const int held = row.isValid() ? tree_->heldAt(row) : -1;
        if (held < 0 || tree_->peeked(held)) return false;
        const files::Held& file = contents_->held[std::size_t(held)];
        const FileKind kind = tree_->kindAt(held);
        return (kind == FileKind::Model || kind == FileKind::Picture) &&
               (asked || file.bytes <= mostPeekedBytes) && !tree_->isShut(held);
    };
    QModelIndex wanted;
    const auto chosen = chosenRows();
    if (chosen.size() == 1 && isWanted(chosen[0], true)) wanted = chosen[0];
    const int bottom = view_->viewport()->height();
    for (QModelIndex row = view_->indexAt({4, 4}); !wanted.isValid() && row.isValid();
         row = view_->indexBelow(row)) {
        if (view_->visualRect(row).top() > bottom) break;
        if (isWanted(row, false)) wanted = row;
    }
    if (!wanted.isValid()) return;
    const int held = tree_->heldAt(wanted);
    const auto next = [this, held, contents = contents_](Peeked peeked) {
        peeking_ = nullptr;
        if (contents == contents_) tree_->setPeeked(held, std::move(peeked));
        peekNext();
    };
    peeking_ = session_.jobs().start<Peeked>(
        tr("Looking at %1").arg(tree_->data(wanted.siblingAtColumn(0), Qt::DisplayRole).toString()), this,
        [path = std::filesystem::path(pathOf(held).toStdString()), kind = tree_->kindAt(held),
         dusk = Theme::instance().isDusk()](const Progress& progress) {
            return peekAt(path, kind, dusk, progress);
        },
        next,
        [next](const QString& problem) {
            next({{}, {}, {}, problem});
        },
        Urgency::Idle, [this] { peeking_ = nullptr; });
}

void ContentsPage::makePieces() {
    struct Wanted {
        std::string path; ///< in the archive
        std::optional<project::Clothing> clothing;
        std::optional<std::vector<project::OfferedPicture>> wears; ///< as it was chosen by hand
    };
    std::vector<Wanted> wanted;
    for (const int held : chosenModels()) {
        const Peeked* known = tree_->peeked(held);
        const auto by = wears_.find(held);
        wanted.push_back({contents_->held[std::size_t(held)].path, known ? known->clothing : std::nullopt,
                          by == wears_.end() ? std::nullopt : std::optional(by->second)});
    }
    if (wanted.empty()) return;
    session_.jobs().start<std::vector<ItemSource>>(
        tr("Finding the pictures that go with %1").arg(qs(showCount(long(wanted.size()), "model", "models"))),
        this,
        [archive = file_, shelf = shelf_, wanted](const Progress& progress) {
            std::vector<ItemSource> items;
            for (std::size_t i = 0; i < wanted.size(); ++i) {
                const Wanted& model = wanted[i];
                items.push_back(itemOf(archive + "/" + qs(model.path)));
                auto wears = model.wears;
                if (!wears && shelf && !shelf->empty()) {
                    const auto own =
                        model.clothing ? *model.clothing
                                       : clothingAt(items.back().source.path,
                                                    progress.between(double(i) / double(wanted.size()),
                                                                     double(i + 1) / double(wanted.size())));
                    wears = shelf->matching(model.path, own);
                }
                if (wears) items.back().recipe = project::wearing(*wears, archive.toStdString());
            }
            return items;
        },
        [this](const std::vector<ItemSource>& items) { Q_EMIT itemsAsked(items); },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked,
        [this] { Q_EMIT session_.said(tr("Stopped; no piece was made")); });
}

void ContentsPage::takeOut() {
    std::vector<std::string> insides;
    for (const int held : tree_->filesAt(chosenRows(), false))
        insides.push_back(contents_->held[std::size_t(held)].path);
    if (insides.empty()) return;
    const QString before = QSettings().value("takeOutFolder").toString();
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Take out into…"), before);
    if (folder.isEmpty()) return;
    QSettings().setValue("takeOutFolder", folder);
    session_.jobs().start<files::TakenOut>(
        tr("Taking out of %1").arg(QFileInfo(file_).fileName()), this,
        [file = std::filesystem::path(file_.toStdString()), insides, folder](const Progress& progress) {
            return files::takeOut(file, insides, folder.toStdString(), files::termsOf(file), progress);
        },
        [this, folder](const files::TakenOut& taken) {
            const auto renamed = std::ranges::count_if(taken.files, &files::TakenOut::File::renamed);
            QString said = tr("Took %1 out into %2")
                               .arg(qs(showCount(long(taken.files.size()), "file", "files")), folder);
            if (renamed > 0) said += tr("; %1 another name").arg(qs(showCount(long(renamed), "got", "got")));
            if (!taken.refused.empty())
                said += tr("; not \"%1\": %2%3")
                            .arg(qs(taken.refused[0].path), qs(taken.refused[0].why),
                                 taken.refused.size() > 1 ? tr(" (and %1 more)").arg(taken.refused.size() - 1)
                                                          : QString());
            Q_EMIT session_.said(said);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked,
        [this] { Q_EMIT session_.said(tr("Stopped; what was taken out so far is whole")); });
}

} // namespace zl::app
