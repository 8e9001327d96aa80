// The form of what a sheet has written, with what comes of it for one of the project's pieces.
#include "app/sheets/sheet_page.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/toml_text.h"
#include "core/base/units.h"
#include "core/formats/format.h"

#include <QComboBox>
#include <QLabel>
#include <QVBoxLayout>

namespace zl::app {

namespace {

/// "GLB, one for each object, pictures beside it".
QString fileWords(const platform::FileOutput& file) {
    using Pictures = platform::FileOutput::Pictures;
    const auto* format = formats::formatWithId(file.format);
    QStringList words{format ? qs(std::string(format->name)) : qs(file.format)};
    if (file.what == platform::FileOutput::What::Body) words << QObject::tr("the body for physics");
    words << (file.each == platform::Each::Object     ? QObject::tr("one for each object")
              : file.each == platform::Each::Material ? QObject::tr("one for each material")
                                                      : QObject::tr("all in one"));
    if (file.pictures == Pictures::Packed) words << QObject::tr("pictures packed as below");
    if (file.pictures == Pictures::Beside || !file.pictureFolder.empty())
        words << QObject::tr("pictures in %1")
                     .arg(file.pictureFolder.empty() ? QObject::tr("the same folder")
                                                     : qs(file.pictureFolder));
    if (file.pictures == Pictures::None) words << QObject::tr("no pictures");
    if (!file.when.ask.empty())
        words << QObject::tr("only where %1 is %2").arg(qs(file.when.ask), qs(file.when.answer));
    return words.join(", ");
}

QString tableWords(const platform::TableOutput& table) {
    const QString words =
        QObject::tr("The game's own table gets an entry, told apart by %1").arg(qs(table.key));
    if (table.numbered.empty()) return words + ".";
    return words + QObject::tr("; in %1 it gets a number that is free, from %2 to %3.")
                       .arg(qs(table.numbered))
                       .arg(table.numbers.first)
                       .arg(table.numbers.second);
}

} // namespace

void SheetPage::fillFiles() {
    const platform::Sheet& sheet = *draft_.sheet();
    form_->addWidget(headingLabel(tr("Files"), 3));
    if (sheet.deliverable.empty() || sheet.deliverable != "files") {
        form_->addWidget(textLabel(
            sheet.deliverable.empty()
                ? tr("Nothing is delivered yet. Learn from files, or write [[file]] sections in the text.")
                : tr("Its files are made by the program's own way \"%1\".").arg(qs(sheet.deliverable)),
            "dim"));
        return;
    }
    addValue(tr("Called"), "deliver", "name", qs(sheet.files.name), false);
    addValue(tr("In one archive"), "deliver", "packed", qs(sheet.files.packed), false, {},
             tr("Its name, ending in .zip or .7z; empty for a folder."));
    addValue(tr("Installed into"), "deliver", "installed", qs(sheet.files.installed), false, {},
             tr("A folder of the game, such as props/{name}; a point for the game's own. Empty: by hand."));
    addSample();
    const auto addSection = [this](const QString& title, const QString& words) {
        auto* card = new QFrame;
        card->setProperty("card", true);
        auto* column = new QVBoxLayout(card);
        column->setContentsMargins(14, 10, 14, 10);
        column->addWidget(headingLabel(title, 2));
        column->addWidget(textLabel(words, "dim"));
        form_->addWidget(card);
        return column;
    };
    const auto addMade = [this](QVBoxLayout* column, FilesPreview::Section kind, std::size_t index) {
        auto* made = textLabel({}, "dim");
        made->setObjectName(QString("made-%1-%2").arg(int(kind)).arg(index));
        column->addWidget(made);
        made_.push_back({kind, index, made, nullptr});
    };
    for (const auto& ask : sheet.files.asks) {
        QStringList options;
        for (const std::string& option : ask.options) options << qs(option);
        addSection(tr("Asked: %1").arg(qs(ask.label)),
                   options.isEmpty() ? tr("any text") : options.join(", "));
    }
    for (std::size_t i = 0; i < sheet.files.files.size(); ++i)
        addMade(addSection(qs(sheet.files.files[i].path), fileWords(sheet.files.files[i])),
                FilesPreview::Section::File, i);
    for (std::size_t i = 0; i < sheet.files.stills.size(); ++i) {
        const auto& still = sheet.files.stills[i];
        addMade(addSection(qs(still.path),
                           tr("A picture of the piece, %1 × %2").arg(still.width).arg(still.height)),
                FilesPreview::Section::Still, i);
    }
    for (std::size_t i = 0; i < sheet.files.tables.size(); ++i) {
        const auto& table = sheet.files.tables[i];
        addTemplate({.name = "table-" + QString::number(i),
                     .path = qs(table.path),
                     .text = qs(table.entry),
                     .about = tableWords(table),
                     .isShort = true},
                    FilesPreview::Section::Table, i, "table", "entry");
    }
    for (const auto& picture : sheet.surface.pictures) {
        QStringList channels;
        const char* names[] = {"red", "green", "blue", "alpha"};
        for (std::size_t k = 0; k < 4; ++k)
            if (picture.channels[k])
                channels << QString("%1 %2").arg(names[k], qs(platform::textOf(*picture.channels[k])));
        addSection(qs(picture.name), channels.join(", "));
    }
    for (std::size_t i = 0; i < sheet.files.texts.size(); ++i) {
        const auto& text = sheet.files.texts[i];
        addTemplate({.name = "text-" + QString::number(i),
                     .path = qs(text.path),
                     .text = qs(text.text),
                     .about = text.from.empty()
                                  ? QString()
                                  : tr("From the file %1; once changed here, it stands in the sheet itself.")
                                        .arg(qs(text.from))},
                    FilesPreview::Section::Text, i, "text", "text");
    }
    askForFiles();
}

void SheetPage::addTemplate(const TemplateCard::Said& said, FilesPreview::Section kind, std::size_t index,
                            const std::string& list, const std::string& key) {
    auto* card = new TemplateCard(said);
    form_->addWidget(card);
    made_.push_back({kind, index, nullptr, card});
    connect(card, &TemplateCard::typed, this, &SheetPage::askForFiles);
    connect(card, &TemplateCard::kept, this, [this, index, list, key](const QString& typed) {
        const std::string own = typed.toStdString();
        const bool plain = own.find("'''") == std::string::npos;
        draft_.edit(tr("change a template"), [&](platform::SheetText& text) {
            text.set(list, index, key, plain ? "'''\n" + own + "'''" : tomlText(own));
            text.erase(list, index, "from");
        });
    });
}

void SheetPage::addSample() {
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    auto* name = textLabel(tr("Shown as for"), "dim");
    name->setFixedWidth(150);
    row->addWidget(name);
    auto* box = new QComboBox;
    box->setObjectName("samplePiece");
    box->setAccessibleName(tr("The piece whose files are shown"));
    for (const auto& piece : session_.project().pieces) box->addItem(qs(piece.name));
    if (const int at = box->findText(sample_); at >= 0)
        box->setCurrentIndex(at);
    else
        for (const auto& piece : session_.project().pieces)
            if (piece.on(id_)) box->setCurrentText(qs(piece.name));
    sample_ = box->currentText();
    box->setEnabled(box->count() > 0);
    connect(box, &QComboBox::activated, this, [this, box] {
        sample_ = box->currentText();
        askForFiles();
    });
    row->addWidget(box);
    previewProblem_ = textLabel({}, "dim");
    previewProblem_->setObjectName("previewProblem");
    row->addWidget(previewProblem_, 1);
    form_->addLayout(row);
}

void SheetPage::askForFiles() {
    if (!draft_.sheet()) return;
    auto sheet = std::make_shared<platform::Sheet>(*draft_.sheet());
    for (const Made& one : made_) // as it is being typed
        if (one.card && one.card->isTyped())
            (one.kind == FilesPreview::Section::Text ? sheet->files.texts[one.index].text
                                                     : sheet->files.tables[one.index].entry) =
                one.card->text().toStdString();
    preview_.ask(sheet, sample_.toStdString(), id_);
}

void SheetPage::showFiles() {
    if (part_ != Part::Files || !previewProblem_) return;
    previewProblem_->setText(preview_.problem());
    for (const Made& one : made_) {
        const auto* made = preview_.section(one.kind, one.index);
        if (one.card) {
            one.card->show(made);
            continue;
        }
        if (!made) {
            one.words->clear();
            continue;
        }
        constexpr std::size_t most = 8;
        QStringList names;
        for (std::size_t i = 0; i < std::min(made->files.size(), most); ++i)
            names << tr("%1 (%2)").arg(qs(made->files[i].name),
                                       qs(showBytes(double(made->files[i].bytes.size()))));
        if (made->files.size() > most) names << tr("and %1 more").arg(made->files.size() - most);
        const bool bad = !made->problem.empty();
        one.words->setText(bad               ? qs(made->problem)
                           : names.isEmpty() ? tr("Nothing is written of it for this piece.")
                                             : names.join("\n"));
        restyle(one.words, "bad", bad);
        restyle(one.words, "dim", !bad);
    }
}

} // namespace zl::app
