#include "app/solids/solids_card.h"

#include "app/fields/choice_box.h"
#include "app/fields/field_editor.h"
#include "app/qt_text.h"
#include "app/solids/solid_forms.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/solids/scene_model.h"

#include <QApplication>
#include <QHeaderView>
#include <QLabel>
#include <QTreeWidget>
#include <QVBoxLayout>

#include <functional>

namespace zl::app {

namespace {

constexpr int numberRole = Qt::UserRole;
constexpr int treeHeight = 210;

QString nameOf(const std::string& name, const QString& otherwise) {
    return name.empty() ? otherwise : qs(name);
}

} // namespace

SolidsCard::SolidsCard(QWidget* parent) : SideCard(parent) {
    setObjectName("solidsCard");
    setFocusPolicy(Qt::ClickFocus); // it has the keyboard while its fields are built anew
    layout_->addWidget(headingLabel(tr("Scene"), 2));
    tree_ = new QTreeWidget;
    tree_->setObjectName("solidsTree");
    tree_->setAccessibleName(tr("Groups and solids"));
    tree_->setColumnCount(2);
    tree_->setHeaderHidden(true);
    tree_->header()->setStretchLastSection(false);
    tree_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    tree_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    tree_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    tree_->setFixedHeight(treeHeight);
    layout_->addWidget(tree_);
    connect(tree_, &QTreeWidget::itemSelectionChanged, this, [this] {
        std::set<solids::Number> numbers;
        const std::function<void(QTreeWidgetItem*)> add = [&](QTreeWidgetItem* item) {
            const int number = item->data(0, numberRole).toInt();
            if (scene_.groups.contains(number))
                for (int k = 0; k < item->childCount(); ++k) add(item->child(k));
            else
                numbers.insert(number);
        };
        for (QTreeWidgetItem* item : tree_->selectedItems()) add(item);
        if (numbers != chosen_) Q_EMIT chose(numbers);
    });
    tree_->setToolTip(tr("F2 or a double click names a group, a solid or a light"));
    connect(tree_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column) {
        if (column == 0) Q_EMIT renamed(item->data(0, numberRole).toInt(), item->text(0).trimmed().left(100));
    });
    hide();
}

void SolidsCard::show(const solids::Scene* scene, const std::set<solids::Number>& chosen,
                      const SheetPointer& sheet, const QStringList& pictures) {
    setVisible(scene);
    if (!scene) {
        shown_ = false;
        return;
    }
    const bool same = shown_ && *scene == scene_;
    if (same && chosen == chosen_ && sheet == sheet_ && pictures == pictures_) return;
    sheet_ = sheet, pictures_ = pictures;
    if (!same) {
        scene_ = *scene;
        buildTree(scene_);
    }
    chosen_ = chosen;
    shown_ = true;
    choose(chosen_);
    buildForms();
}

void SolidsCard::buildTree(const solids::Scene& scene) {
    const QSignalBlocker quiet(tree_);
    std::set<int> closed;
    const std::function<void(QTreeWidgetItem*)> note = [&](QTreeWidgetItem* item) {
        if (item->childCount() > 0 && !item->isExpanded()) closed.insert(item->data(0, numberRole).toInt());
        for (int k = 0; k < item->childCount(); ++k) note(item->child(k));
    };
    const bool first = tree_->topLevelItemCount() == 0;
    note(tree_->invisibleRootItem());
    tree_->clear();
    const auto within = scene.groupsWithin();
    const auto in = scene.solidsIn();
    const auto row = [&](QTreeWidgetItem* parent, int number, const QString& name, const QString& what) {
        auto* item = new QTreeWidgetItem(parent, {name, what});
        item->setData(0, numberRole, number);
        item->setFlags(item->flags() | Qt::ItemIsEditable);
        return item;
    };
    const std::function<std::size_t(int)> countIn = [&](int group) {
        const auto own = in.find(group);
        std::size_t out = own == in.end() ? 0 : own->second.size();
        if (const auto inner = within.find(group); inner != within.end())
            for (const int one : inner->second) out += countIn(one);
        return out;
    };
    const std::function<void(QTreeWidgetItem*, int)> fill = [&](QTreeWidgetItem* parent, int group) {
        const int lead = group == 0 ? 0 : scene.leadOf(group);
        if (const auto found = within.find(group); found != within.end())
            for (const int inner : found->second) {
                auto* item =
                    row(parent, inner, nameOf(scene.groups.at(inner).name, tr("group %1").arg(inner)),
                        qs(showCount(long(countIn(inner)), "solid", "solids")));
                fill(item, inner);
                item->setExpanded(first ? scene.groups.at(inner).within == 0 && scene.solids.size() < 12
                                        : !closed.contains(inner));
            }
        if (const auto found = in.find(group); found != in.end())
            for (const int number : found->second) {
                const solids::Solid& solid = scene.solids.at(number);
                row(parent, number, nameOf(solid.name, tr("solid %1").arg(number)),
                    number == lead ? tr("leads") : qs(std::string(solids::nameOf(solid.shape.kind))));
            }
    };
    fill(tree_->invisibleRootItem(), 0);
    for (const auto& [number, light] : scene.lights)
        row(tree_->invisibleRootItem(), number, nameOf(light.name, tr("light %1").arg(number)),
            qs(std::string(solids::nameOf(light.kind))));
}

void SolidsCard::choose(const std::set<solids::Number>& numbers) {
    const QSignalBlocker quiet(tree_);
    QTreeWidgetItem* last = nullptr;
    const std::function<void(QTreeWidgetItem*)> each = [&](QTreeWidgetItem* item) {
        const int number = item->data(0, numberRole).toInt();
        const bool is = numbers.contains(number);
        // A group that was chosen stays so while all in it is.
        if (!scene_.groups.contains(number)) item->setSelected(is);
        if (is) last = item;
        for (int k = 0; k < item->childCount(); ++k) each(item->child(k));
    };
    each(tree_->invisibleRootItem());
    if (last && numbers.size() == 1) tree_->scrollToItem(last);
}

void SolidsCard::buildForms() {
    // What had the keyboard has it again: somebody tabs from field to field.
    const QWidget* held = QApplication::focusWidget();
    QString focus, focusForm;
    if (forms_ && held && forms_->isAncestorOf(held)) {
        focus = held->objectName();
        focusForm = held->parentWidget()->objectName();
        setFocus();
    }
    if (forms_) { // gone later: one of its fields may be what asks for this
        for (QWidget* child : forms_->findChildren<QWidget*>()) child->setObjectName(QString());
        layout_->removeWidget(forms_);
        forms_->hide();
        forms_->deleteLater();
    }
    fillForms();
    if (focus.isEmpty()) return;
    for (QWidget* child : forms_->findChildren<QWidget*>(focus))
        if (child->parentWidget()->objectName() == focusForm) child->setFocus();
}

void SolidsCard::fillForms() {
    forms_ = new QWidget;
    auto* column = new QVBoxLayout(forms_);
    column->setContentsMargins(0, 4, 0, 0);
    layout_->addWidget(forms_);
    std::vector<int> solidsIn, lights;
    for (const int number : chosen_) (scene_.solids.contains(number) ? solidsIn : lights).push_back(number);
    EditingPlace place;
    place.sheet = sheet_;
    const auto form = [&](const char* name, auto values) {
        using Form = decltype(values);
        auto* editor = new FieldEditor(
            Form::fields, fields::printed(Form::fields, &values),
            [&values](const fields::Field& field) { return fields::isShown(Form::fields, &values, field); },
            place);
        editor->setObjectName(QString("form-") + name);
        connect(editor, &FieldEditor::changed, this,
                [this, name](const QString& field, const nlohmann::json& value) {
                    Q_EMIT edited(name, field, value, face_);
                });
        column->addWidget(editor);
    };
    if (solidsIn.empty() && lights.empty()) {
        column->addWidget(
            textLabel(tr("Click a solid or a light to edit it; with Shift several. A drag moves it level, "
                         "with Alt up and down."),
                      "dim"));
        form("scene", SceneForm::of(scene_));
        return;
    }
    if (solidsIn.size() > 1)
        column->addWidget(textLabel(tr("%n solids are edited together; the first one's numbers are shown.",
                                       nullptr, int(solidsIn.size())),
                                    "dim"));
    if (!solidsIn.empty()) {
        const solids::Solid& solid = scene_.solids.at(solidsIn[0]);
        const solids::Look& look = face_ < 0 ? solid.look : solid.lookOf(face_);
        column->addWidget(headingLabel(tr("Looks"), 3));
        column->addWidget(makeFaces());
        form("look", LookForm::of(look));
        auto* row = new QHBoxLayout;
        auto* label = textLabel(tr("Picture"));
        label->setWordWrap(false);
        row->addWidget(label);
        row->addWidget(makePictures(look), 1);
        column->addLayout(row);
        if (!look.picture.empty()) form("picture", PictureForm::of(look));
        column->addWidget(headingLabel(tr("Solid"), 3));
        form("solid", SolidForm::of(solid));
    } else {
        column->addWidget(headingLabel(tr("Light"), 3));
        form("light", LightForm::of(scene_.lights.at(lights[0])));
    }
}

QWidget* SolidsCard::makeFaces() {
    auto* faces = new ChoiceBox;
    faces->setObjectName("solid-face");
    faces->setAccessibleName(tr("Face"));
    faces->addItem(tr("all faces"), -1);
    const QString names[] = {tr("foot"),
                             tr("head"),
                             tr("front, or all around"),
                             tr("side +X"),
                             tr("back"),
                             tr("side −X"),
                             tr("bore"),
                             tr("inside of the hollow"),
                             tr("where the gap begins"),
                             tr("where it ends")};
    for (int face = 0; face < solids::faceCount; ++face) faces->addItem(names[face], face);
    faces->setCurrentIndex(face_ + 1);
    connect(faces, &QComboBox::currentIndexChanged, this, [this](int index) {
        face_ = index - 1;
        QMetaObject::invokeMethod(
            this, [this] { buildForms(); }, Qt::QueuedConnection);
    });
    return faces;
}

QWidget* SolidsCard::makePictures(const solids::Look& look) {
    auto* pictures = new ChoiceBox;
    pictures->setObjectName("solid-picture");
    pictures->setAccessibleName(tr("Picture"));
    pictures->addItem(tr("no picture"));
    QStringList names = pictures_;
    for (const std::string& name : solids::picturesOf(scene_))
        if (!names.contains(qs(name))) names << qs(name);
    pictures->addItems(names);
    pictures->insertSeparator(pictures->count());
    pictures->addItem(tr("another file…"));
    const int last = pictures->count() - 1;
    pictures->setCurrentIndex(look.picture.empty() ? 0 : 1 + int(names.indexOf(qs(look.picture))));
    connect(
        pictures, &QComboBox::activated, this,
        [this, names, last](int index) {
            const int face = face_;
            if (index == last)
                Q_EMIT pictureSought(face);
            else
                Q_EMIT pictured(index > 0 && index <= names.size() ? names[index - 1] : QString(), face);
        },
        Qt::QueuedConnection); // this card may be built anew by it
    return pictures;
}

} // namespace zl::app
