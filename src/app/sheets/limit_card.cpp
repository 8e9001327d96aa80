#include "app/sheets/limit_card.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/plain_number.h"
#include "core/base/toml_text.h"
#include "core/base/units.h"
#include "core/platform/rule.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

/// A number as it is typed: no thousands, a point.
QString typed(double value) {
    return qs(fmt::format("{}", value));
}

QString unitWords(std::string_view unit, const platform::Sheet& sheet) {
    if (unit == "units") return qs(sheet.unitName);
    return qs(std::string(unit));
}

} // namespace

LimitCard::LimitCard(SheetDraft& draft, std::size_t index, QWidget* parent)
    : QFrame(parent), draft_(draft), index_(index) {
    const platform::Sheet& sheet = *draft.sheet();
    const platform::RuleSpec rule = sheet.rules[index];
    id_ = rule.id;
    setObjectName("rule-" + qs(rule.id));
    setProperty("card", true);
    const platform::RuleKind* kind = platform::ruleKind(rule.check);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 10, 10);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setSpacing(8);
    auto* label = new QLineEdit(qs(rule.label));
    label->setObjectName("label");
    label->setAccessibleName(tr("Name of the limit"));
    label->setMinimumWidth(90);
    label->setMaximumWidth(190);
    label->setToolTip(label->text());
    label->setCursorPosition(0);
    head->addWidget(label);
    const auto keep = [this](const QString& what, const std::string& key, std::string value) {
        draft_.edit(what, [&](platform::SheetText& text) { text.set("rule", index_, key, value); });
    };
    connect(label, &QLineEdit::editingFinished, this, [label, keep, old = label->text()] {
        if (label->text() != old && !label->text().isEmpty())
            keep(tr("rename a limit"), "label", tomlText(label->text().toStdString()));
    });
    for (const auto& limit : kind->limits) {
        const auto found = rule.limits.find(std::string(limit.name));
        if (!limit.required && found == rule.limits.end()) continue;
        if (limit.name == "per-object" || limit.name == "per-material") {
            auto* each = textLabel(limit.name == "per-object" ? tr("an object") : tr("a material"), "dim");
            each->setWordWrap(false);
            head->addWidget(each);
            continue;
        }
        auto* name = textLabel(qs(std::string(limit.name)), "dim");
        name->setWordWrap(false);
        head->addWidget(name);
        auto* box = new QLineEdit(found == rule.limits.end() ? QString() : typed(found->second));
        box->setObjectName(qs(std::string(limit.name)));
        box->setAccessibleName(qs(rule.label + ", " + std::string(limit.name)));
        box->setFixedWidth(66);
        box->setAlignment(Qt::AlignRight);
        head->addWidget(box);
        if (!limit.unit.empty()) {
            auto* unit = textLabel(unitWords(limit.unit, sheet), "dim");
            unit->setWordWrap(false);
            head->addWidget(unit);
        }
        connect(box, &QLineEdit::editingFinished, this,
                [this, box, keep, key = std::string(limit.name), old = box->text()] {
                    QString text = box->text();
                    text.remove(' ').remove(QChar(0x202f));
                    const auto value = onlyNumber<double>(text.replace(',', '.').toStdString());
                    restyle(box, "bad", !value.has_value());
                    if (value && box->text() != old) keep(tr("change a limit"), key, tomlNumber(*value));
                });
    }
    head->addStretch(0);
    auto* severity = new QComboBox;
    severity->setObjectName("severity");
    severity->setAccessibleName(tr("Must or should"));
    severity->addItems({tr("must"), tr("should")});
    severity->setFixedWidth(84);
    severity->setCurrentIndex(int(rule.severity));
    connect(severity, &QComboBox::activated, this, [keep](int chosen) {
        keep(tr("change a limit"), "severity", chosen == 0 ? "\"must\"" : "\"should\"");
    });
    head->addWidget(severity);
    auto* away = iconButton("trash-2", tr("Leave this limit out"));
    away->setObjectName("away");
    connect(away, &QToolButton::clicked, this, [this] {
        draft_.edit(tr("leave a limit out"), [&](platform::SheetText& text) { text.remove("rule", index_); });
    });
    head->addWidget(away);
    column->addLayout(head);
    for (const auto& text : kind->texts) {
        const auto found = rule.texts.find(std::string(text.name));
        if (!text.required && (found == rule.texts.end() || found->second.empty())) continue;
        auto* line = new QHBoxLayout;
        line->setSpacing(10);
        auto* name = textLabel(qs(std::string(text.name)), "dim");
        name->setFixedWidth(60);
        line->addWidget(name);
        auto* box = new QLineEdit(found == rule.texts.end() ? QString() : qs(found->second));
        box->setObjectName(qs(std::string(text.name)));
        box->setAccessibleName(qs(rule.label + ", " + std::string(text.name)));
        line->addWidget(box, 1);
        connect(box, &QLineEdit::editingFinished, this,
                [box, keep, key = std::string(text.name), old = box->text()] {
                    if (box->text() != old)
                        keep(tr("change a limit"), key, tomlText(box->text().toStdString()));
                });
        column->addLayout(line);
    }
    auto* why = new QLineEdit(qs(rule.message));
    why->setObjectName("message");
    why->setAccessibleName(tr("Why the game wants it"));
    why->setToolTip(tr("Why the game wants it: it is said where a piece breaks this"));
    connect(why, &QLineEdit::editingFinished, this, [why, keep, old = why->text()] {
        if (why->text() != old && !why->text().isEmpty())
            keep(tr("say why"), "message", tomlText(why->text().toStdString()));
    });
    column->addWidget(why);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(10);
    foot->addWidget(
        textLabel(tr("%1: holds when %2").arg(qs(std::string(kind->name)), qs(std::string(kind->holds))),
                  "dim"),
        1);
    standing_ = textLabel({}, "dim");
    standing_->setObjectName("standing");
    standing_->setWordWrap(false);
    foot->addWidget(standing_, 0, Qt::AlignRight | Qt::AlignTop);
    column->addLayout(foot);
    for (const QString& words : knownFrom(sheet, rule.id)) {
        auto* how = textLabel(words, "dim");
        how->setObjectName("evidence");
        column->addWidget(how);
    }
}

void LimitCard::showStanding(const SheetStanding& standing) {
    const auto* rule = standing.rule(id_);
    if (!rule || rule->all == 0) return standing_->clear();
    standing_->setText(
        rule->holds == rule->all
            ? tr("all %1 hold it").arg(qs(showCount(rule->all, "piece", "pieces")))
            : tr("%1 of %2 hold it").arg(rule->holds).arg(qs(showCount(rule->all, "piece", "pieces"))));
    restyle(standing_, "dim", false);
    restyle(standing_, rule->holds == rule->all ? "good" : "bad", true);
    restyle(standing_, rule->holds == rule->all ? "bad" : "good", false);
    standing_->setToolTip(rule->breaking.join("\n"));
}

} // namespace zl::app
