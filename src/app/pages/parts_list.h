#pragma once
#include "app/selected.h"

#include <QAbstractTableModel>
#include <QColor>

namespace zl::app {

/// The parts of a model as rows: whether it is shown, its material's colour and name, triangles. Hidden is a
/// way of looking at it; nothing else knows.
class PartsList : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column { Shown, Name, Triangles, Columns };
    /// Of a row: its path, the colour of its largest material, and its triangles as a number to sort by.
    enum Role { PathRole = Qt::UserRole, SwatchRole, SortRole };

    using QAbstractTableModel::QAbstractTableModel;

    /// `swatches` has a colour a material; materials beyond its end are shown plain.
    void show(const Model& model, const std::vector<glm::vec3>& swatches);
    const std::set<NodePath>& hidden() const { return hidden_; }
    void setHidden(std::set<NodePath> hidden);
    const NodePath& path(int row) const { return rows_.at(std::size_t(row)).path; }
    /// The row of a part; -1 when it is not there.
    int rowOf(const NodePath& path) const;

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex&) const override { return Columns; }
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

Q_SIGNALS:
    void hiddenChanged();

private:
    struct Row {
        NodePath path;
        QString name, where, materials;
        QColor swatch;
        std::size_t triangles = 0;
    };
    std::vector<Row> rows_;
    std::map<NodePath, int> rowOf_;
    std::set<NodePath> hidden_;
};

} // namespace zl::app
