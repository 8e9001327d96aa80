#include "app/sheets/section_card.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/toml_text.h"
#include "core/base/words.h"

#include <QComboBox>
#include <QCoreApplication>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

using Kind = SectionField::Kind;

QString words(const char* text) {
    return QCoreApplication::translate("Sheet", text);
}

/// A value as it is typed.
QString shown(const std::optional<platform::SheetText::Value>& value) {
    if (!value) return {};
    if (const auto* text = std::get_if<std::string>(&*value)) return qs(*text);
    if (const auto* number = std::get_if<double>(&*value)) return qs(tomlNumber(*number));
    if (const auto* list = std::get_if<std::vector<std::string>>(&*value)) return qs(inARow(*list));
    return std::get<bool>(*value) ? "true" : "false";
}

} // namespace

SectionCard::SectionCard(SheetDraft& draft, const platform::SheetText& text, const SectionForm& form,
                         std::optional<std::size_t> index, QWidget* parent)
    : QFrame(parent), draft_(draft), form_(form), index_(index) {
    setProperty("card", true);
    setObjectName(QString("section-%1").arg(form.section) + (index         ? QString("-%1").arg(*index)
                                                             : form.isList ? QString("-new")
                                                                           : QString()));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 10);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->addWidget(headingLabel(words(form.title), 2), 1);
    column->addLayout(head);
    const bool there = form.isList ? index.has_value() : text.has(form.section);
    if (!there) {
        if (*form.about) column->addWidget(textLabel(words(form.about), "dim"));
        auto* add = button(tr("Add"), "dashed", "plus");
        add->setObjectName(QString("add-%1").arg(form.section));
        column->addWidget(add, 0, Qt::AlignLeft);
        connect(add, &QPushButton::clicked, this, [this] {
            draft_.edit(tr("add %1").arg(words(form_.title).toLower()),
                        [&](platform::SheetText& sheet) { sheet.add(form_.section, form_.fresh); });
        });
        return;
    }
    if (form.isList) {
        auto* away = iconButton("trash-2", tr("Take it away"));
        away->setObjectName("takeAway");
        head->addWidget(away);
        connect(away, &QToolButton::clicked, this, [this] {
            draft_.edit(tr("take %1 away").arg(words(form_.title).toLower()),
                        [&](platform::SheetText& sheet) { sheet.remove(form_.section, *index_); });
        });
    }
    for (const SectionField& field : form.fields) addField(text, field);
}

void SectionCard::keep(const SectionField& field, const QString& typed) {
    std::string written;
    if (field.kind == Kind::List) {
        std::vector<std::string> quoted;
        for (const QString& one : typed.split(',', Qt::SkipEmptyParts))
            if (!one.trimmed().isEmpty()) quoted.push_back(tomlText(one.trimmed().toStdString()));
        if (!quoted.empty()) written = "[" + inARow(quoted) + "]";
    } else if (field.kind == Kind::Number) {
        bool good = false;
        const double number = QLocale::c().toDouble(typed.trimmed().replace(',', '.'), &good);
        if (good) written = tomlNumber(number);
    } else if (!typed.isEmpty()) {
        written = tomlText(typed.toStdString());
    }
    draft_.edit(tr("change %1").arg(words(field.label).toLower()), [&](platform::SheetText& sheet) {
        if (index_ && written.empty())
            sheet.erase(form_.section, *index_, field.key);
        else if (index_)
            sheet.set(form_.section, *index_, field.key, written);
        else if (written.empty())
            sheet.erase(form_.section, field.key);
        else
            sheet.set(form_.section, field.key, written);
    });
}

void SectionCard::addField(const platform::SheetText& text, const SectionField& field) {
    const QString value =
        shown(index_ ? text.get(form_.section, *index_, field.key) : text.get(form_.section, field.key));
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    auto* name = textLabel(words(field.label), "dim");
    name->setFixedWidth(130);
    row->addWidget(name);
    if (field.kind == Kind::Choice) {
        auto* box = new QComboBox;
        box->setObjectName(field.key);
        box->setAccessibleName(words(field.label));
        for (const std::string& option : field.options()) box->addItem(qs(option));
        if (!value.isEmpty()) box->setCurrentText(value);
        connect(box, &QComboBox::activated, this, [this, &field, box] { keep(field, box->currentText()); });
        row->addWidget(box);
        row->addStretch(1);
    } else {
        auto* box = new QLineEdit(value);
        box->setObjectName(field.key);
        box->setAccessibleName(words(field.label));
        if (field.kind == Kind::Number) box->setMaximumWidth(120);
        connect(box, &QLineEdit::editingFinished, this, [this, &field, box, value] {
            if (box->text() == value) return;
            bool good = true;
            if (field.kind == Kind::Number && !box->text().isEmpty())
                QLocale::c().toDouble(box->text().trimmed().replace(',', '.'), &good);
            if (field.required && box->text().trimmed().isEmpty()) good = false;
            restyle(box, "bad", !good);
            if (good) keep(field, box->text());
        });
        row->addWidget(box, field.kind == Kind::Number ? 0 : 1);
        if (*field.help) row->addWidget(textLabel(words(field.help), "dim"), 1);
    }
    qobject_cast<QVBoxLayout*>(layout())->addLayout(row);
}

} // namespace zl::app
