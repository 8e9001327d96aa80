#pragma once
#include "core/package/reference_check.h"
#include "core/package/references.h"

#include <QAbstractTableModel>

#include <memory>
#include <set>

namespace zl::app {

/// A package as the window has it open.
struct OpenPackage {
    package::Package package;
    package::ReferenceCheck check;
};

/// The resources of a package as rows: kind in words, name, size, what it refers to and what refers to it.
class PackageRows : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column { Name, Kind, Size, RefersTo, ReferredBy, columns };

    explicit PackageRows(QObject* parent = nullptr) : QAbstractTableModel(parent) {}

    void show(const OpenPackage& opened);
    const package::Package& package() const { return package_; }
    const package::Links* links() const { return links_.get(); }
    const package::Resource& resource(int row) const { return package_.resources[std::size_t(row)]; }
    /// Other bytes in place of a resource's: kept here until they are saved.
    void replace(int row, std::string bytes);
    bool isChanged(int row) const { return changed_.contains(row); }
    bool hasChanges() const { return !changed_.empty(); }

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex&) const override { return columns; }
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
    QString namesOf(const std::vector<std::size_t>& rows) const;

    package::Package package_;
    std::unique_ptr<package::Links> links_;
    std::set<int> changed_;
};

} // namespace zl::app
