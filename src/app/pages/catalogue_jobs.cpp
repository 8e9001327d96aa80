// What the catalogue's page does beside the window: pictures, what a model comes to, taking out.
#include "app/pages/catalogue_page.h"

#include "app/pages/item_delegate.h"
#include "app/pages/item_panel.h"
#include "app/pages/peek.h"
#include "app/qt_text.h"

#include "core/base/units.h"
#include "core/catalogue/take_out_as.h"
#include "core/files/terms.h"
#include "core/formats/row_mesh.h"

#include <QFileDialog>
#include <QListView>
#include <QSettings>

namespace zl::app {

namespace {

QString modelWords(const std::filesystem::path& file, const catalogue::Entry& entry,
                   const Progress& progress) {
    try {
        const auto item =
            package::readItem(file, {std::uint32_t(files::ResourceKind::Entry), 0, entry.resource},
                              files::termsOf(file).limits, progress);
        std::uint64_t triangles = 0;
        long pictures = 0;
        for (const package::Resource& resource : item.resources) {
            if (resource.key.is(files::ResourceKind::Geometry))
                triangles += formats::rowMeshHead(*resource.bytes, resource.name).triangles;
            if (resource.key.is(files::ResourceKind::Picture) && resource.key.number != entry.thumbnail)
                ++pictures;
        }
        return QObject::tr("%1, %2").arg(qs(showCount(long(triangles), "triangle", "triangles")),
                                         qs(showCount(pictures, "picture", "pictures")));
    } catch (const Error&) {
        return QObject::tr("not in this file");
    }
}

} // namespace

void CataloguePage::fetchPictures() {
    if (fetching_ || !list_.catalogue() || !isVisible()) return;
    using Pictures = std::vector<std::pair<std::uint32_t, QImage>>;
    std::vector<std::uint32_t> wanted;
    constexpr std::size_t most = 24; // so that scrolling on is noticed soon
    const QRect seen = view_->viewport()->rect().adjusted(0, -60, 0, 200);
    QModelIndex first = view_->indexAt({10, 10});
    for (int row = first.isValid() ? first.row() : 0; row < list_.rowCount() && wanted.size() < most; ++row) {
        const QModelIndex index = list_.index(row);
        if (view_->visualRect(index).top() > seen.bottom()) break;
        if (!list_.hasPicture(list_.placeAt(index))) wanted.push_back(list_.placeAt(index));
    }
    if (wanted.empty()) return;
    fetching_ = session_.jobs().start<Pictures>(
        tr("Fetching pictures"), this,
        [catalogue = list_.catalogue(), wanted, size = delegate_->pictureSize()](const Progress& progress) {
            Pictures pictures;
            for (const std::uint32_t place : wanted) {
                progress.checkCancel();
                const QImage whole = thumbnailFrom(catalogue->thumbnail(catalogue->entries()[place]));
                // To the size in which it is shown, so that painting has nothing to scale.
                pictures.emplace_back(place, whole.isNull()
                                                 ? whole
                                                 : whole.scaled(size, Qt::KeepAspectRatioByExpanding,
                                                                Qt::SmoothTransformation));
            }
            return pictures;
        },
        [this, catalogue = list_.catalogue()](const Pictures& pictures) {
            fetching_ = nullptr;
            if (catalogue != list_.catalogue()) return;
            for (const auto& [place, picture] : pictures) list_.setPicture(place, picture);
            panel_->showPicture();
            fetchPictures();
        },
        [this](const QString& problem) {
            fetching_ = nullptr;
            Q_EMIT session_.said(problem);
        },
        Urgency::Shown, [this] { fetching_ = nullptr; });
}

void CataloguePage::fetchModel() {
    if (measuring_) measuring_->cancel();
    if (panel_->chosen().size() != 1) return;
    const std::uint32_t place = panel_->chosen()[0];
    measuring_ = session_.jobs().start<QString>(
        tr("Looking at %1").arg(qs(list_.entryOf(place).title)), this,
        [file = list_.catalogue()->file(), entry = list_.entryOf(place)](const Progress& progress) {
            return modelWords(file, entry, progress);
        },
        [this, place](const QString& words) { panel_->setModel(place, words); }, [](const QString&) {},
        Urgency::Shown);
}

void CataloguePage::makePieces(const std::string& figure) {
    if (panel_->chosen().empty()) return;
    const auto names = panel_->names();
    std::vector<catalogue::Entry> entries;
    for (const std::uint32_t place : panel_->chosen()) entries.push_back(list_.entryOf(place));
    using Paths = std::vector<std::string>;
    session_.jobs().start<Paths>(
        tr("Looking up %1").arg(qs(showCount(long(entries.size()), "item", "items"))), this,
        [catalogue = list_.catalogue(), entries](const Progress& progress) {
            Paths paths;
            for (const catalogue::Entry& entry : entries) {
                progress.report(double(paths.size()) / double(entries.size()), entry.title);
                paths.push_back((catalogue->file() / catalogue->geometryOf(entry)).string());
            }
            return paths;
        },
        [this, names, entries, figure](const Paths& paths) {
            std::vector<ItemSource> items;
            for (std::size_t i = 0; i < paths.size(); ++i) {
                const catalogue::Entry& entry = entries[i];
                project::Source source{paths[i], entry.maker.empty() ? entry.pack : entry.maker,
                                       entry.licence};
                source.permission = project::permissionFrom(entry.permission).value_or(source.permission);
                source.link = entry.pack;
                if (!entry.link.empty()) source.link += (source.link.empty() ? "" : ", ") + entry.link;
                items.push_back({names[i], std::move(source)});
                if (!figure.empty())
                    items.back().worn =
                        project::Worn{figure, entry.kind == "worn" ? entry.bone : "", entry.place};
            }
            Q_EMIT itemsAsked(items);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

void CataloguePage::takeOut() {
    if (panel_->chosen().empty()) return;
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Take out into…"),
                                                             QSettings().value("takeOutFolder").toString());
    if (folder.isEmpty()) return;
    QSettings().setValue("takeOutFolder", folder);
    std::vector<catalogue::Entry> entries;
    for (const std::uint32_t place : panel_->chosen()) entries.push_back(list_.entryOf(place));
    using Taken = std::vector<std::filesystem::path>;
    session_.jobs().start<Taken>(
        tr("Taking %1 out").arg(qs(showCount(long(entries.size()), "item", "items"))), this,
        [file = list_.catalogue()->file(), entries, names = panel_->names(),
         folder](const Progress& progress) {
            return catalogue::takeOutAs(file, entries, names, folder.toStdString(),
                                        files::termsOf(file).limits, progress);
        },
        [this, folder](const Taken& taken) {
            Q_EMIT session_.said(
                tr("Took %1 out into %2").arg(qs(showCount(long(taken.size()), "item", "items")), folder));
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked,
        [this] { Q_EMIT session_.said(tr("Stopped; what was taken out so far is whole")); });
}

} // namespace zl::app
