#pragma once
#include "core/catalogue/catalogue.h"
#include "core/platform/sheet.h"

#include <QAbstractListModel>
#include <QPixmap>
#include <QSet>

#include <map>
#include <memory>
#include <set>

namespace zl::app {

/// What of a catalogue is shown.
struct CatalogueFilter {
    QString words;
    std::set<std::string> packsLeftOut, kindsLeftOut;
    std::set<std::string> prefixes; ///< only codes that begin so; none for all
    catalogue::Order order = catalogue::Order::Name;
};

/// The items of a catalogue in the order and to the extent that they are looked for, with their pictures as
/// far as these were fetched.
class CatalogueList : public QAbstractListModel {
    Q_OBJECT
public:
    enum Role { Line = Qt::UserRole, Code, Meaning, Others };

    explicit CatalogueList(QObject* parent = nullptr) : QAbstractListModel(parent) {}

    void open(std::shared_ptr<const catalogue::Catalogue> catalogue, std::vector<platform::Prefix> legend);
    /// Null before one was opened.
    const std::shared_ptr<const catalogue::Catalogue>& catalogue() const { return catalogue_; }
    void filter(const CatalogueFilter& filter);

    const catalogue::Entry& entryAt(const QModelIndex& row) const {
        return entryOf(places_[std::size_t(row.row())]);
    }
    std::uint32_t placeAt(const QModelIndex& row) const { return places_[std::size_t(row.row())]; }
    const catalogue::Entry& entryOf(std::uint32_t place) const { return catalogue_->entries()[place]; }
    /// Not valid when the filter leaves it out.
    QModelIndex rowOf(std::uint32_t place) const;
    /// What the prefix of a code is and means; null when the legend does not know it.
    const platform::Prefix* prefixOf(const catalogue::Entry& entry) const;
    const std::vector<platform::Prefix>& legend() const { return legend_; }

    bool hasPicture(std::uint32_t place) const { return pictures_.contains(place); }
    /// Null for one that has none.
    void setPicture(std::uint32_t place, const QImage& picture);

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;

private:
    std::shared_ptr<const catalogue::Catalogue> catalogue_;
    std::vector<platform::Prefix> legend_;
    std::map<catalogue::Order, std::vector<std::uint32_t>> orders_; ///< worked out once each
    std::vector<const platform::Prefix*> prefixes_;                 ///< by place
    std::vector<std::uint32_t> places_;                             ///< by row
    std::map<std::uint32_t, QPixmap> pictures_;
};

} // namespace zl::app
