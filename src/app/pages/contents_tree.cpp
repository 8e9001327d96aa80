#include "app/pages/contents_tree.h"

#include "app/qt_text.h"
#include "app/theme.h"

#include "core/base/letters.h"
#include "core/base/units.h"

#include <QPainter>

#include <algorithm>
#include <unordered_map>

namespace zl::app {

namespace {

const char* iconOf(formats::FileKind kind) {
    switch (kind) {
    case formats::FileKind::Archive:
        return "package";
    case formats::FileKind::Picture:
        return "image";
    case formats::FileKind::Model:
        return "box";
    default:
        return "file";
    }
}

constexpr QSize slot(40, 28);

/// In the middle of the room that every row has for its picture, so that names stand below each other.
QPixmap inSlot(const QPixmap& picture) {
    QPixmap out(slot);
    out.fill(Qt::transparent);
    QPainter painter(&out);
    const QSizeF size = picture.deviceIndependentSize();
    painter.drawPixmap(QPointF((slot.width() - size.width()) / 2, (slot.height() - size.height()) / 2),
                       picture);
    return out;
}

} // namespace

ContentsTree::Laid ContentsTree::lay(const files::Contents& contents, const ContentsFilter& filter,
                                     const Progress& progress) {
    std::vector<std::string> words;
    for (const QString& word : filter.words.split(' ', Qt::SkipEmptyParts))
        words.push_back(lowerCase(word.toStdString()));
    Laid laid;
    laid.nodes.push_back({});
    std::unordered_map<std::string, int> nodeAt{{"", 0}};
    const auto at = [&](const std::string& path, const auto& self) -> int {
        if (const auto found = nodeAt.find(path); found != nodeAt.end()) return found->second;
        const std::size_t slash = path.rfind('/');
        const int parent = self(slash == std::string::npos ? std::string() : path.substr(0, slash), self);
        const int node = int(laid.nodes.size());
        laid.nodes.push_back(
            {qs(slash == std::string::npos ? path : path.substr(slash + 1)), parent, 0, -1, {}});
        laid.nodes[std::size_t(parent)].children.push_back(node);
        nodeAt.emplace(path, node);
        return node;
    };
    for (std::size_t i = 0; i < contents.held.size(); ++i) {
        const std::string& path = contents.held[i].path;
        if (i % 1024 == 0) progress.checkCancel();
        laid.kinds.push_back(formats::kindOf(path));
        if (!filter.kinds.contains(laid.kinds.back())) continue;
        if (!words.empty()) {
            const std::string small = lowerCase(path);
            if (!std::ranges::all_of(words, [&](const auto& word) { return small.find(word) != small.npos; }))
                continue;
        }
        laid.nodes[std::size_t(at(path, at))].held = int(i);
        ++laid.files;
    }
    // An archive of which only something within is shown is still that archive.
    for (std::size_t i = 0; i < contents.held.size(); ++i)
        if (const auto found = nodeAt.find(contents.held[i].path); found != nodeAt.end())
            laid.nodes[std::size_t(found->second)].held = int(i);
    const auto isBefore = [&](int a, int b) { // what opens comes first
        const Node &first = laid.nodes[std::size_t(a)], &second = laid.nodes[std::size_t(b)];
        if (first.children.empty() != second.children.empty()) return second.children.empty();
        return first.name.compare(second.name, Qt::CaseInsensitive) < 0;
    };
    for (Node& node : laid.nodes) {
        progress.checkCancel();
        std::ranges::sort(node.children, isBefore);
        for (std::size_t row = 0; row < node.children.size(); ++row)
            laid.nodes[std::size_t(node.children[row])].row = int(row);
    }
    return laid;
}

void ContentsTree::show(std::shared_ptr<const files::Contents> contents, Laid laid) {
    beginResetModel();
    contents_ = std::move(contents);
    laid_ = std::move(laid);
    endResetModel();
}

void ContentsTree::setPeeked(int held, Peeked peeked) {
    peeked_[held] = std::move(peeked);
    for (std::size_t n = 0; n < laid_.nodes.size(); ++n)
        if (laid_.nodes[n].held == held)
            Q_EMIT dataChanged(createIndex(laid_.nodes[n].row, 0, quintptr(n)),
                               createIndex(laid_.nodes[n].row, Columns - 1, quintptr(n)));
}

const Peeked* ContentsTree::peeked(int held) const {
    const auto found = peeked_.find(held);
    return found == peeked_.end() ? nullptr : &found->second;
}

void ContentsTree::forgetPeeked() {
    peeked_.clear();
}

std::vector<int> ContentsTree::filesAt(const QModelIndexList& rows, bool within) const {
    std::vector<int> found;
    const auto add = [&](int node, const auto& self) -> void {
        const Node& n = laid_.nodes[std::size_t(node)];
        if (n.held >= 0) found.push_back(n.held);
        if (n.held < 0 || within)
            for (const int child : n.children) self(child, self);
    };
    for (const QModelIndex& row : rows)
        if (row.column() == 0) add(int(row.internalId()), add);
    std::ranges::sort(found); // a row may stand below another that was chosen
    found.erase(std::unique(found.begin(), found.end()), found.end());
    return found;
}

QModelIndex ContentsTree::index(int row, int column, const QModelIndex& parent) const {
    const Node& node = nodeOf(parent);
    if (row < 0 || std::size_t(row) >= node.children.size() || column < 0 || column >= Columns) return {};
    return createIndex(row, column, quintptr(node.children[std::size_t(row)]));
}

QModelIndex ContentsTree::parent(const QModelIndex& index) const {
    const int parent = nodeOf(index).parent;
    return !index.isValid() || parent <= 0
               ? QModelIndex()
               : createIndex(laid_.nodes[std::size_t(parent)].row, 0, quintptr(parent));
}

int ContentsTree::rowCount(const QModelIndex& parent) const {
    return parent.column() > 0 ? 0 : int(nodeOf(parent).children.size());
}

QVariant ContentsTree::data(const QModelIndex& index, int role) const {
    const Node& node = nodeOf(index);
    const files::Held* held = node.held >= 0 ? &contents_->held[std::size_t(node.held)] : nullptr;
    const Peeked* known = node.held >= 0 ? peeked(node.held) : nullptr;
    switch (role) {
    case Qt::DisplayRole:
        if (index.column() == Name) return node.name;
        if (index.column() == Kind) return held ? qs(formats::kindName(kindAt(node.held))) : tr("folder");
        if (index.column() == Size && held) return qs(showBytes(double(held->bytes)));
        if (index.column() == Triangles && known && known->triangles)
            return qs(showNumber(double(*known->triangles), 0));
        if (index.column() == Triangles && held && isShut(node.held)) return tr("locked");
        return {};
    case Qt::DecorationRole:
        if (index.column() != Name) return {};
        if (known && !known->picture.isNull())
            return inSlot(QPixmap::fromImage(
                known->picture.scaled(slot, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
        return inSlot(Theme::instance()
                          .icon(!held               ? "folder-open"
                                : isShut(node.held) ? "lock"
                                                    : iconOf(kindAt(node.held)),
                                tokens().dim)
                          .pixmap(18, 18));
    case Qt::ToolTipRole:
        if (known && !known->problem.isEmpty()) return known->problem;
        return held ? qs(held->path) : node.name;
    case Qt::TextAlignmentRole:
        return int((index.column() >= Size ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    case Qt::ForegroundRole:
        if (known && !known->problem.isEmpty()) return tokens().clay;
        return index.column() == Name ? QVariant() : QVariant(tokens().dim);
    default:
        return {};
    }
}

QVariant ContentsTree::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    if (role == Qt::TextAlignmentRole && section >= Size) return int(Qt::AlignRight | Qt::AlignVCenter);
    if (role != Qt::DisplayRole) return {};
    return section == Name   ? tr("Name")
           : section == Kind ? tr("Kind")
           : section == Size ? tr("Size")
                             : tr("Triangles");
}

} // namespace zl::app
