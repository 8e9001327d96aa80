#include "app/pages/package_rows.h"

#include "app/qt_text.h"
#include "app/theme.h"

#include "core/base/units.h"

namespace zl::app {

void PackageRows::show(const OpenPackage& opened) {
    beginResetModel();
    package_ = opened.package;
    links_ = std::make_unique<package::Links>(package_);
    changed_.clear();
    endResetModel();
}

void PackageRows::replace(int row, std::string bytes) {
    package_.resources[std::size_t(row)].bytes = std::make_shared<const std::string>(std::move(bytes));
    links_ = std::make_unique<package::Links>(package_);
    changed_.insert(row);
    Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, columns - 1));
}

int PackageRows::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : int(package_.resources.size());
}

QString PackageRows::namesOf(const std::vector<std::size_t>& rows) const {
    QStringList names;
    constexpr std::size_t most = 6;
    for (const std::size_t row : rows) {
        if (names.size() == qsizetype(most)) {
            names << tr("and %1 more").arg(rows.size() - most);
            break;
        }
        names << qs(package_.resources[row].name);
    }
    return names.join(", ");
}

QVariant PackageRows::data(const QModelIndex& index, int role) const {
    if (!index.isValid()) return {};
    const package::Resource& resource = package_.resources[std::size_t(index.row())];
    const bool changed = changed_.contains(index.row());
    if (role == Qt::FontRole && index.column() == Name && changed) return Theme::instance().text(13, 700);
    if (role == Qt::TextAlignmentRole && index.column() == Size)
        return int(Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::ForegroundRole && index.column() >= RefersTo) return tokens().dim;
    if (role == Qt::ToolTipRole && index.column() == Name)
        return tr("%1, number %2")
            .arg(qs(files::kindWord(resource.key.kind)),
                 QString::number(resource.key.number, 16).rightJustified(16, '0'));
    if (role != Qt::DisplayRole && role != Qt::ToolTipRole) return {};
    switch (index.column()) {
    case Name:
        return changed ? tr("%1 (not saved)").arg(qs(resource.name)) : qs(resource.name);
    case Kind:
        return qs(files::kindWord(resource.key.kind));
    case Size:
        return qs(showBytes(double(resource.bytes->size())));
    case RefersTo:
        return namesOf(links_->refersTo(std::size_t(index.row())));
    case ReferredBy:
        return namesOf(links_->referredBy(std::size_t(index.row())));
    default:
        return {};
    }
}

QVariant PackageRows::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
    const QStringList names{tr("Name"), tr("Kind"), tr("Size"), tr("Refers to"), tr("Referred by")};
    return names.value(section);
}

} // namespace zl::app
