// The forms of a sheet's parts.
#include "app/sheets/sheet_page.h"

#include "app/qt_text.h"
#include "app/sheets/things_beside.h"
#include "app/widgets/ui.h"

#include "core/base/toml_text.h"
#include "core/formats/format.h"
#include "core/learn/sheet_from.h"
#include "core/platform/rule.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
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

} // namespace

void SheetPage::addValue(const QString& label, const std::string& section, const std::string& key,
                         const QString& value, bool isNumber, const QStringList& options,
                         const QString& help) {
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    auto* name = textLabel(label, "dim");
    name->setFixedWidth(150);
    row->addWidget(name);
    const auto keep = [this, section, key, label](const std::string& written) {
        draft_.edit(tr("change %1").arg(label.toLower()), [&](platform::SheetText& text) {
            if (written.empty())
                text.erase(section, key);
            else
                text.set(section, key, written);
        });
    };
    if (!options.isEmpty()) {
        auto* box = new QComboBox;
        box->setObjectName(qs(key));
        box->setAccessibleName(label);
        box->addItems(options);
        box->setCurrentText(value);
        connect(box, &QComboBox::activated, this,
                [keep, options](int chosen) { keep(tomlText(options[chosen].toStdString())); });
        row->addWidget(box);
        row->addStretch(1);
    } else {
        auto* box = new QLineEdit(value);
        box->setObjectName(qs(key));
        box->setAccessibleName(label);
        if (isNumber) box->setMaximumWidth(140);
        connect(box, &QLineEdit::editingFinished, this, [box, keep, isNumber, value] {
            if (box->text() == value) return;
            if (!isNumber)
                return keep(box->text().isEmpty() ? std::string() : tomlText(box->text().toStdString()));
            bool good = false;
            const double number = QLocale::c().toDouble(box->text().trimmed().replace(',', '.'), &good);
            restyle(box, "bad", !good);
            if (good) keep(tomlText(number));
        });
        row->addWidget(box, isNumber ? 0 : 1);
        if (isNumber) row->addWidget(textLabel(help, "dim"), 1); // its unit
    }
    form_->addLayout(row);
    if (!help.isEmpty() && !isNumber) form_->addWidget(textLabel(help, "dim"));
}

void SheetPage::fillWhat() {
    const platform::Sheet& sheet = *draft_.sheet();
    form_->addWidget(headingLabel(tr("What it is"), 3));
    addValue(tr("Name"), "", "name", qs(sheet.name), false);
    addValue(tr("Kind"), "", "kind", qs(sheet.kind), false, {},
             tr("What sort of game or site, in a few words."));
    addValue(tr("About"), "", "about", qs(sheet.about), false);
    addValue(tr("Edition"), "", "edition", qs(sheet.edition), false, {},
             tr("As you count: others see by it which one they have."));
}

void SheetPage::fillFrame() {
    const platform::Sheet& sheet = *draft_.sheet();
    const auto number = [](double value) { return qs(fmt::format("{}", value)); };
    form_->addWidget(headingLabel(tr("Unit and axes"), 3));
    auto* things = new ThingsBeside;
    things->show(sheet);
    form_->addWidget(things);
    addValue(tr("One unit is"), "unit", "metres", number(sheet.metresPerUnit), true, {}, tr("in metres"));
    addValue(tr("The unit is called"), "unit", "name", qs(sheet.unitName), false);
    addValue(tr("Up"), "axes", "up", sheet.up == Up::Y ? "Y" : "Z", false, {"Y", "Z"});
    QStringList fronts;
    for (const char* axis : {"X", "Y", "Z"})
        if (QString(axis) != (sheet.up == Up::Y ? "Y" : "Z"))
            fronts << QString("+") + axis << QString("-") + axis;
    addValue(tr("Front"), "axes", "front", qs(sheet.front), false, fronts);
    addValue(tr("A figure stands"), "figure", "height", number(sheet.figureHeight), true, {},
             tr("units tall"));
}

void SheetPage::fillLimits() {
    const platform::Sheet& sheet = *draft_.sheet();
    form_->addWidget(headingLabel(tr("Limits"), 3));
    add_ = new QLineEdit(filter_);
    add_->setObjectName("addLimit");
    add_->setClearButtonEnabled(true);
    add_->setPlaceholderText(tr("Type what you want to limit: bones, names, picture edge…"));
    form_->addWidget(add_);
    auto* found = new QVBoxLayout;
    found->setSpacing(4);
    form_->addLayout(found);
    constexpr std::size_t most = 60; // more are found by typing
    const auto meant = [](const QString& filter, const QString& text) {
        for (const QString& word : filter.split(' ', Qt::SkipEmptyParts))
            if (!text.contains(word, Qt::CaseInsensitive)) return false;
        return true;
    };
    std::size_t shown = 0, all = 0;
    for (std::size_t i = 0; i < sheet.rules.size(); ++i) {
        const auto* kind = platform::ruleKind(sheet.rules[i].check);
        if (!meant(filter_,
                   qs(sheet.rules[i].label + " " + std::string(kind->name) + " " + sheet.rules[i].check)))
            continue;
        if (++all > most) continue;
        auto* card = new LimitCard(draft_, i);
        cards_.push_back(card);
        form_->addWidget(card);
        ++shown;
    }
    if (all > shown) form_->addWidget(textLabel(tr("%1 more: type to find them").arg(all - shown), "dim"));
    const auto offer = [this, found, meant] {
        clearLayout(found);
        if (add_->text().trimmed().size() < 2) return;
        int offered = 0;
        for (const platform::RuleKind& kind : platform::allRuleKinds()) {
            const QString words =
                qs(std::string(kind.name) + " " + std::string(kind.check) + " " + std::string(kind.holds));
            if (!meant(add_->text(), words) || ++offered > 6) continue;
            auto* take =
                button(tr("%1: holds when %2").arg(qs(std::string(kind.name)), qs(std::string(kind.holds))),
                       "dashed", "plus");
            take->setObjectName("add-" + qs(std::string(kind.check)));
            take->setStyleSheet("text-align: left;");
            connect(take, &QPushButton::clicked, this, [this, check = std::string(kind.check)] {
                const auto* kind = platform::ruleKind(check);
                platform::RuleSpec rule;
                rule.check = check, rule.label = kind->name, rule.message = "The game wants it.";
                rule.mends.assign(kind->mends.begin(), kind->mends.end());
                rule.id = check;
                for (int n = 2; draft_.sheet()->rule(rule.id); ++n) rule.id = check + "-" + std::to_string(n);
                for (const auto& limit : kind->limits)
                    if (limit.required)
                        rule.limits[std::string(limit.name)] = limit.name == "least" ? 0 : 100;
                for (const auto& text : kind->texts)
                    if (text.required)
                        rule.texts[std::string(text.name)] = text.name == "pattern"   ? "[A-Za-z0-9_-]+"
                                                             : text.name == "formats" ? "png"
                                                                                      : "*";
                filter_.clear();
                draft_.edit(tr("add %1").arg(qs(rule.label)),
                            [&](platform::SheetText& text) { text.add("rule", learn::ruleSection(rule)); });
            });
            found->addWidget(take);
        }
    };
    connect(add_, &QLineEdit::textChanged, this, offer);
    connect(add_, &QLineEdit::returnPressed, this, [this] {
        filter_ = add_->text();
        rebuild();
    });
    offer();
}

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
    for (const auto& ask : sheet.files.asks) {
        QStringList options;
        for (const std::string& option : ask.options) options << qs(option);
        addSection(tr("Asked: %1").arg(qs(ask.label)),
                   options.isEmpty() ? tr("any text") : options.join(", "));
    }
    for (const auto& file : sheet.files.files) addSection(qs(file.path), fileWords(file));
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
        auto* column =
            addSection(qs(text.path), text.from.empty() ? tr("A text from this template:")
                                                        : tr("From the template %1:").arg(qs(text.from)));
        auto* edit = new QPlainTextEdit(qs(text.text));
        edit->setObjectName("template-" + QString::number(i));
        edit->setAccessibleName(tr("Template of %1").arg(qs(text.path)));
        edit->setFont(text_->font());
        edit->setFixedHeight(170);
        edit->setReadOnly(!text.from.empty());
        column->addWidget(edit);
        auto* keep = button(tr("Take the template over"), nullptr, "check");
        keep->setObjectName("keepTemplate-" + QString::number(i));
        keep->setVisible(false);
        column->addWidget(keep, 0, Qt::AlignLeft);
        connect(edit, &QPlainTextEdit::textChanged, keep, [keep] { keep->setVisible(true); });
        connect(keep, &QPushButton::clicked, this, [this, edit, i] {
            const std::string own = edit->toPlainText().toStdString();
            const bool plain = own.find("'''") == std::string::npos;
            draft_.edit(tr("change a template"), [&](platform::SheetText& text) {
                text.set("text", i, "text", plain ? "'''\n" + own + "'''" : tomlText(own));
            });
        });
    }
}

void SheetPage::fillEvidence() {
    const platform::Sheet& sheet = *draft_.sheet();
    form_->addWidget(headingLabel(tr("Known from"), 3));
    if (sheet.evidence.empty())
        form_->addWidget(textLabel(tr("Nothing says how these limits are known. A sheet that is learnt from "
                                      "files keeps what it was learnt from."),
                                   "dim"));
    for (const auto& known : sheet.evidence) {
        auto* card = new QFrame;
        card->setProperty("card", true);
        auto* column = new QVBoxLayout(card);
        column->setContentsMargins(14, 8, 14, 8);
        column->setSpacing(2);
        const auto* rule = sheet.rule(known.of);
        column->addWidget(headingLabel(rule ? qs(rule->label) : qs(known.of), 2));
        column->addWidget(textLabel(qs(known.said)));
        QStringList names;
        for (const std::string& name : known.names) names << qs(name);
        if (!names.isEmpty()) column->addWidget(textLabel(tr("such as %1").arg(names.join(", ")), "dim"));
        form_->addWidget(card);
    }
}

} // namespace zl::app
