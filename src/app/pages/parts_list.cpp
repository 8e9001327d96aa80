#include "app/pages/parts_list.h"

#include "app/qt_text.h"
#include "app/theme.h"

#include "core/base/units.h"

namespace zl::app {

namespace {

QColor colourOf(const std::vector<glm::vec3>& swatches, int material) {
    if (material < 0 || std::size_t(material) >= swatches.size()) return tokens().edge;
    const glm::vec3 c = glm::clamp(swatches[std::size_t(material)], 0.0f, 1.0f);
    return QColor::fromRgbF(c.r, c.g, c.b);
}

} // namespace

void PartsList::show(const Model& model, const std::vector<glm::vec3>& swatches) {
    beginResetModel();
    rows_.clear();
    rowOf_.clear();
    const auto paths = nodePaths(model);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        if (node.mesh < 0) continue;
        Row row;
        row.path = paths[n];
        row.name = qs(node.name);
        if (node.parent >= 0) row.where = qs(model.nodes[std::size_t(node.parent)].name);
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        row.triangles = mesh.triangleCount();
        std::map<int, std::size_t> worn;
        for (const MaterialRun& run : mesh.runs) worn[run.material] += run.triangleCount;
        int most = -1;
        QStringList names;
        for (const auto& [material, count] : worn) {
            if (count > 0 && (most < 0 || count > worn[most])) most = material;
            names << (material < 0 ? tr("no material") : qs(model.materials[std::size_t(material)].name));
        }
        row.swatch = colourOf(swatches, most);
        row.materials = names.join(", ");
        rowOf_[row.path] = int(rows_.size());
        rows_.push_back(std::move(row));
    }
    endResetModel();
}

void PartsList::setHidden(std::set<NodePath> hidden) {
    if (hidden == hidden_) return;
    hidden_ = std::move(hidden);
    if (!rows_.empty()) Q_EMIT dataChanged(index(0, 0), index(int(rows_.size()) - 1, Columns - 1));
    Q_EMIT hiddenChanged();
}

int PartsList::rowOf(const NodePath& path) const {
    const auto found = rowOf_.find(path);
    return found == rowOf_.end() ? -1 : found->second;
}

int PartsList::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : int(rows_.size());
}

QVariant PartsList::data(const QModelIndex& index, int role) const {
    const Row& row = rows_.at(std::size_t(index.row()));
    const bool hidden = hidden_.contains(row.path);
    switch (role) {
    case PathRole:
        return qs(row.path);
    case SwatchRole:
        return row.swatch;
    case SortRole:
        return index.column() == Triangles ? QVariant(qulonglong(row.triangles))
               : index.column() == Shown   ? QVariant(hidden)
                                           : QVariant(row.name.toLower());
    case Qt::DisplayRole:
        if (index.column() == Name) return row.name;
        if (index.column() == Triangles) return qs(showNumber(double(row.triangles), 0));
        return {};
    case Qt::ToolTipRole:
        if (index.column() == Shown) return hidden ? tr("Show it") : tr("Hide it from view");
        return row.where.isEmpty() ? tr("%1, %2").arg(row.name, row.materials)
                                   : tr("%1, below %2, %3").arg(row.name, row.where, row.materials);
    case Qt::AccessibleTextRole:
        return tr("%1, %2 triangles%3")
            .arg(row.name, qs(showNumber(double(row.triangles), 0)), hidden ? tr(", hidden") : QString());
    case Qt::TextAlignmentRole:
        return int((index.column() == Triangles ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    case Qt::ForegroundRole:
        return hidden ? QVariant(tokens().dim) : QVariant();
    default:
        return {};
    }
}

QVariant PartsList::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation == Qt::Horizontal && role == Qt::TextAlignmentRole && section == Triangles)
        return int(Qt::AlignRight | Qt::AlignVCenter);
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
    return section == Name ? tr("Part") : section == Triangles ? tr("Triangles") : QString();
}

} // namespace zl::app
