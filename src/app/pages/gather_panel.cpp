#include "app/pages/gather_panel.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/project/dependencies.h"

#include <QFileDialog>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

GatherPanel::GatherPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(10);
}

void GatherPanel::show(const QString& piece, const QString& platform) {
    piece_ = piece;
    platform_ = platform;
    rebuild();
}

void GatherPanel::editSource(int index, const QString& what,
                             const std::function<void(project::Source&)>& change, const QString& mergeKey) {
    session_.editPiece(
        what, piece_,
        [&](project::Piece& piece) {
            if (index < int(piece.sources.size())) change(piece.sources[index]);
        },
        mergeKey);
}

QWidget* GatherPanel::sourceCard(const project::Source& source, int index) {
    auto* card = new QFrame;
    card->setProperty("card", true);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(13, 10, 13, 12);
    auto* head = new QHBoxLayout;
    head->addWidget(headingLabel(qs(source.path.filename().string()), 2), 1);
    if (index > 0) {
        auto* remove = iconButton("trash-2", tr("Take this source out"));
        connect(remove, &QToolButton::clicked, this, [this, index] {
            session_.editPiece(tr("take out a source"), piece_, [&](project::Piece& piece) {
                piece.sources.erase(piece.sources.begin() + index);
            });
        });
        head->addWidget(remove);
    }
    layout->addLayout(head);
    auto* where = textLabel(qs(source.path.parent_path().empty() ? std::string("beside the project")
                                                                 : source.path.parent_path().string()),
                            "dim");
    layout->addWidget(where);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(12);
    form->setVerticalSpacing(7);
    const auto lineFor = [&](const QString& label, const std::string& value, const QString& placeholder,
                             std::string project::Source::*member, const char* name) {
        auto* edit = new QLineEdit(qs(value));
        edit->setPlaceholderText(placeholder);
        edit->setObjectName(name);
        form->addRow(label, edit);
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, index, member, label, was = value] {
            if (edit->text().toStdString() == was) return;
            editSource(index, tr("change %1").arg(label.toLower()),
                       [&](project::Source& s) { s.*member = edit->text().toStdString(); });
        });
    };
    lineFor(tr("Author"), source.author, tr("who made it"), &project::Source::author, "sourceAuthor");
    lineFor(tr("Licence"), source.licence, tr("e.g. CC BY 4.0"), &project::Source::licence, "sourceLicence");
    lineFor(tr("Found at"), source.link, tr("where its author is found"), &project::Source::link,
            "sourceLink");
    if (hasSizes()) lineFor(tr("Size"), source.size, tr("e.g. slim"), &project::Source::size, "sourceSize");
    auto* permission = new ChoiceBox;
    permission->setObjectName("sourcePermission");
    for (const auto p : {project::Permission::OwnWork, project::Permission::Allowed,
                         project::Permission::AskFirst, project::Permission::NotAllowed})
        permission->addItem(qs(project::permissionName(p)), int(p));
    permission->setCurrentIndex(int(source.permission));
    connect(permission, &QComboBox::activated, this, [this, permission, index] {
        editSource(index, tr("change the permission"), [&](project::Source& s) {
            s.permission = project::Permission(permission->currentData().toInt());
        });
    });
    form->addRow(tr("Publishing"), permission);
    layout->addLayout(form);
    return card;
}

void GatherPanel::rebuild() {
    clearLayout(layout_);
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return;
    addName();
    for (std::size_t i = 0; i < piece->sources.size(); ++i)
        layout_->addWidget(sourceCard(piece->sources[i], int(i)));
    for (const auto& warning : project::permissionWarnings(*piece))
        layout_->addWidget(textLabel(qs(warning), "warn"));

    auto* add = button(tr("Add a source to this piece…"), "dashed", "plus");
    connect(add, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("Add a source"));
        if (file.isEmpty()) return;
        session_.editPiece(tr("add a source"), piece_, [&](project::Piece& piece) {
            piece.sources.push_back({file.toStdString(), "", "", project::Permission::AskFirst});
        });
    });
    layout_->addWidget(add);
    addSizes(*piece);

    addYardsticks();
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (state.kind == CrossingState::Kind::Ready) {
        const Model& model = state.source;
        layout_->addWidget(line());
        layout_->addWidget(headingLabel(tr("In the file"), 2));
        const auto fact = [&](const QString& name, const QString& value) {
            auto* row = new QHBoxLayout;
            row->addWidget(textLabel(name, "dim"));
            auto* right = textLabel(value);
            right->setAlignment(Qt::AlignRight);
            row->addWidget(right, 1);
            layout_->addLayout(row);
        };
        fact(tr("Format"), qs(model.format).toUpper());
        fact(tr("Unit"), qs(model.frame.unit.name) + (model.frame.unitAssumed ? tr(" (assumed)") : ""));
        fact(tr("Up"), qs(upName(model.frame.up)) + (model.frame.upAssumed ? tr(" (assumed)") : ""));
        fact(tr("Triangles"), qs(showNumber(double(triangleCount(model)), 0)));
        fact(tr("Corners"), qs(showNumber(double(vertexCount(model)), 0)));
        fact(tr("Objects"), qs(showNumber(double(objectCount(model)), 0)));
        fact(tr("Materials"), qs(showNumber(double(model.materials.size()), 0)));
        for (const auto& image : model.images)
            if (image) fact(qs(image->name), tr("%1 × %2 px").arg(image->width).arg(image->height));
        for (const auto& text : model.warnings) layout_->addWidget(textLabel(qs(text), "warn"));
        for (const auto& text : model.dropped)
            layout_->addWidget(textLabel(tr("Not taken over: %1").arg(qs(text)), "dim"));
    }
    layout_->addStretch(1);
}

bool GatherPanel::hasSizes() const {
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    return piece && sheet && (!sheet->sizes.empty() || piece->sizes().size() > 1);
}

void GatherPanel::addSizes(const project::Piece& piece) {
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!sheet) return;
    // What the platform wants and is not there yet, else any.
    const auto have = piece.sizes();
    std::string next;
    for (const std::string& size : sheet->sizes)
        if (next.empty() && std::ranges::find(have, size) == have.end() &&
            (have[0] != "" || size != sheet->sizes[0]))
            next = size;
    auto* add = button(next.empty() ? tr("Add another size…") : tr("Add the %1 size…").arg(qs(next)),
                       "dashed", "plus");
    add->setObjectName("addSize");
    add->setToolTip(tr("A file that is alike corner for corner; the recipe runs on it too"));
    connect(add, &QPushButton::clicked, this, [this, next, sizes = sheet->sizes] {
        const QString file = QFileDialog::getOpenFileName(this, tr("Add another size"));
        if (file.isEmpty()) return;
        const std::string path = file.toStdString();
        session_.editPiece(tr("add a size"), piece_, [&](project::Piece& piece) {
            if (piece.sources.empty()) return;
            for (project::Source& source : piece.sources)
                if (source.size.empty()) source.size = sizes.empty() ? "first" : sizes[0];
            project::Source source = piece.sources[0]; // by the same maker, most likely
            source.path = project::keptPath(session_.project(), std::filesystem::absolute(path));
            source.size = next.empty() ? std::filesystem::path(path).stem().string() : next;
            piece.sources.push_back(std::move(source));
        });
    });
    layout_->addWidget(add);
}

void GatherPanel::addName() {
    auto* name = new QLineEdit(piece_);
    name->setObjectName("pieceName");
    name->setToolTip(tr("What the piece is called; other pieces that take it in follow"));
    name->setAccessibleName(tr("Name of the piece"));
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    row->addWidget(textLabel(tr("Called"), "dim"));
    row->addWidget(name, 1);
    layout_->addLayout(row);
    connect(name, &QLineEdit::editingFinished, this, [this, name, was = piece_] {
        if (name->text() == was) return;
        try {
            session_.renamePiece(was, name->text().trimmed());
        } catch (const Error& error) {
            Q_EMIT session_.said(qs(error.whole()));
            name->setText(was);
        }
    });
}

void GatherPanel::addYardsticks() {
    layout_->addWidget(line());
    layout_->addWidget(headingLabel(tr("Yardsticks"), 2));
    const auto& yardsticks = session_.project().yardsticks;
    if (yardsticks.empty())
        layout_->addWidget(textLabel(tr("An object you know from the game, to measure against. It is shared "
                                        "by all pieces and never delivered."),
                                     "dim"));
    for (std::size_t i = 0; i < yardsticks.size(); ++i) {
        auto* row = new QHBoxLayout;
        row->addWidget(
            textLabel(tr("%1 (%2)").arg(qs(yardsticks[i].name), qs(yardsticks[i].path.filename().string()))),
            1);
        auto* remove = iconButton("trash-2", tr("Take this yardstick out"));
        connect(remove, &QToolButton::clicked, this, [this, i] {
            session_.edit(tr("take out a yardstick"), [&](project::Project& project) {
                if (i < project.yardsticks.size())
                    project.yardsticks.erase(project.yardsticks.begin() + std::ptrdiff_t(i));
            });
        });
        row->addWidget(remove);
        layout_->addLayout(row);
    }
    auto* add = button(tr("Add a yardstick…"), "dashed", "ruler");
    add->setObjectName("addYardstick");
    connect(add, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("A model of a known object"));
        if (!file.isEmpty()) session_.addYardstick(file);
    });
    layout_->addWidget(add);
}

} // namespace zl::app
