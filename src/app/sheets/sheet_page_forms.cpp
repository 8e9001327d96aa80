// The forms of a sheet's parts.
#include "app/sheets/sheet_page.h"

#include "app/game/answer_row.h"
#include "app/qt_text.h"
#include "app/sheets/section_card.h"
#include "app/sheets/things_beside.h"
#include "app/widgets/ui.h"

#include "core/base/toml_text.h"
#include "core/formats/format.h"
#include "core/learn/sheet_from.h"
#include "core/platform/rule.h"

#include <QComboBox>
#include <QCoreApplication>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

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
    if (help.isEmpty() || isNumber) return;
    auto* words = textLabel(help, "dim");
    words->setContentsMargins(162, 0, 0, 0); // below the value
    form_->addWidget(words);
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

void SheetPage::fillSections(const SheetPart& part) {
    form_->addWidget(headingLabel(QCoreApplication::translate("Sheet", part.title), 3));
    try {
        const platform::SheetText text(draft_.text().toStdString());
        for (const SectionForm& form : part.forms) {
            if (form.isList)
                for (std::size_t i = 0; i < text.count(form.section); ++i)
                    form_->addWidget(new SectionCard(draft_, text, form, i));
            form_->addWidget(new SectionCard(draft_, text, form, std::nullopt));
        }
    } catch (const Error&) { // which is said above the form
        form_->addWidget(textLabel(tr("Mend the text beside it first."), "dim"));
    }
}

void SheetPage::fillNotes() {
    form_->addWidget(headingLabel(tr("Notes"), 3));
    form_->addWidget(
        textLabel(tr("For whoever works with the sheet: where things were read, what is still open. "
                     "They go along when it is given away."),
                  "dim"));
    auto* notes = new QPlainTextEdit(qs(draft_.sheet()->notes));
    notes->setObjectName("notes");
    notes->setAccessibleName(tr("Notes"));
    notes->setMinimumHeight(260);
    notes->installEventFilter(this);
    form_->addWidget(notes);
}

bool SheetPage::eventFilter(QObject* watched, QEvent* event) {
    auto* notes = qobject_cast<QPlainTextEdit*>(watched);
    if (notes && event->type() == QEvent::FocusOut && draft_.sheet() &&
        notes->toPlainText() != qs(draft_.sheet()->notes))
        keepNotes(notes->toPlainText().toStdString());
    return QWidget::eventFilter(watched, event);
}

void SheetPage::keepNotes(const std::string& notes) {
    draft_.edit(tr("change the notes"), [&](platform::SheetText& text) {
        if (notes.empty())
            text.erase("", "notes");
        else
            text.set("", "notes", tomlText(notes));
    });
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
    if (sheet.answers.empty()) return;
    form_->addWidget(headingLabel(tr("What the game said"), 2));
    for (std::size_t i = sheet.answers.size(); i-- > 0;) form_->addLayout(answerRow(sheet.answers[i], sheet));
}

} // namespace zl::app
