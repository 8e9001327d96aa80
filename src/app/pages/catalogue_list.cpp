#include "app/pages/catalogue_list.h"

#include "app/qt_text.h"

#include <algorithm>

namespace zl::app {

namespace {

constexpr std::size_t mostPictures = 3000; ///< kept; about 300 MB with the large ones of a dense screen

} // namespace

void CatalogueList::open(std::shared_ptr<const catalogue::Catalogue> catalogue,
                         std::vector<platform::Prefix> legend) {
    beginResetModel();
    catalogue_ = std::move(catalogue);
    legend_ = std::move(legend);
    orders_.clear(), places_.clear(), pictures_.clear(), prefixes_.clear();
    if (catalogue_)
        for (const catalogue::Entry& entry : catalogue_->entries()) {
            const platform::Prefix* found = nullptr;
            for (const platform::Prefix& prefix : legend_)
                if (entry.code.starts_with(prefix.code) &&
                    (!found || prefix.code.size() > found->code.size()))
                    found = &prefix;
            prefixes_.push_back(found);
        }
    endResetModel();
}

void CatalogueList::filter(const CatalogueFilter& filter) {
    if (!catalogue_) return;
    const auto& entries = catalogue_->entries();
    std::vector<bool> found(entries.size());
    for (const std::uint32_t place : catalogue_->find(filter.words.toStdString())) found[place] = true;
    auto& order = orders_[filter.order];
    if (order.empty()) order = catalogue_->ordered(filter.order);
    beginResetModel();
    places_.clear();
    for (const std::uint32_t place : order) {
        const catalogue::Entry& entry = entries[place];
        if (!found[place] || filter.packsLeftOut.contains(entry.pack) ||
            filter.kindsLeftOut.contains(entry.kind))
            continue;
        if (!filter.prefixes.empty() &&
            !(prefixes_[place] && filter.prefixes.contains(prefixes_[place]->code)))
            continue;
        places_.push_back(place);
    }
    endResetModel();
}

QModelIndex CatalogueList::rowOf(std::uint32_t place) const {
    const auto found = std::ranges::find(places_, place);
    return found == places_.end() ? QModelIndex() : index(int(found - places_.begin()));
}

const platform::Prefix* CatalogueList::prefixOf(const catalogue::Entry& entry) const {
    return prefixes_[std::size_t(&entry - catalogue_->entries().data())];
}

void CatalogueList::setPicture(std::uint32_t place, const QImage& picture) {
    if (pictures_.size() >= mostPictures) pictures_.clear();
    pictures_[place] = QPixmap::fromImage(picture);
    if (const QModelIndex row = rowOf(place); row.isValid())
        Q_EMIT dataChanged(row, row, {Qt::DecorationRole});
}

int CatalogueList::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : int(places_.size());
}

QVariant CatalogueList::data(const QModelIndex& index, int role) const {
    if (!index.isValid()) return {};
    const catalogue::Entry& entry = entryAt(index);
    const platform::Prefix* prefix = prefixes_[placeAt(index)];
    switch (role) {
    case Qt::DisplayRole:
        return qs(entry.title);
    case Line: {
        QStringList parts;
        for (const std::string* part : {&entry.pack, &entry.kind})
            if (!part->empty()) parts << qs(*part);
        QString line = parts.join(QString::fromUtf8(" · "));
        if (!entry.place.empty()) line += ", " + qs(entry.place);
        return line;
    }
    case Code:
        return prefix ? qs(prefix->code) : qs(entry.code);
    case Meaning:
        return prefix ? qs(prefix->means) : QString();
    case Others:
        return entry.isOthersWork();
    case Qt::DecorationRole: {
        const auto found = pictures_.find(placeAt(index));
        return found == pictures_.end() ? QVariant() : QVariant(found->second);
    }
    case Qt::ToolTipRole:
        return prefix ? tr("%1\n%2 means %3").arg(qs(entry.code), qs(prefix->code), qs(prefix->means))
                      : qs(entry.code);
    case Qt::AccessibleTextRole:
        return QString("%1, %2, %3")
            .arg(qs(entry.title), data(index, Line).toString(), data(index, Meaning).toString());
    default:
        return {};
    }
}

} // namespace zl::app
