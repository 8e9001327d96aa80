#include "app/widgets/ui.h"

#include "app/theme.h"

#include <QApplication>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QStyle>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

QString breakable(const QString& text) {
    constexpr int longest = 16, piece = 8;
    constexpr QChar here(0x200b); // a space without width
    const bool rich = Qt::mightBeRichText(text);
    QString out;
    bool inTag = false;
    for (qsizetype i = 0; i < text.size();) {
        qsizetype end = i;
        while (end < text.size() && text[end].isLetterOrNumber()) ++end;
        if (end == i) {
            if (rich && text[i] == '<') inTag = true;
            if (rich && text[i] == '>') inTag = false;
            out += text[i++];
            continue;
        }
        const bool breaks = !inTag && end - i > longest;
        for (qsizetype at = 0; i < end; ++i, ++at) {
            if (breaks && at > 0 && at % piece == 0 && end - i >= 4) out += here;
            out += text[i];
        }
    }
    return out;
}

QLabel* headingLabel(const QString& text, int level) {
    auto* label = new QLabel(breakable(text));
    label->setProperty(level == 0 ? "heading3" : level == 1 ? "heading" : "heading2", true);
    label->setWordWrap(true);
    return label;
}

QLabel* textLabel(const QString& text, const char* tone) {
    auto* label = new QLabel(breakable(text));
    if (tone) label->setProperty(tone, true);
    label->setWordWrap(true);
    return label;
}

namespace {

/// Keeps a button's icon in the theme's ink.
void useIcon(QAbstractButton* button, const QString& icon) {
    const auto set = [button, icon] {
        const bool strong = button->property("strong").toBool(), main = button->property("main").toBool();
        button->setIcon(Theme::instance().icon(icon, strong ? tokens().onStrong
                                                     : main ? QColor("#20303A")
                                                            : QColor()));
    };
    set();
    QObject::connect(&Theme::instance(), &Theme::changed, button, set);
}

} // namespace

QPushButton* button(const QString& text, const char* kind, const QString& icon) {
    auto* made = new QPushButton(
        icon.isEmpty() || text.isEmpty() ? text : " " + text); // the gap between icon and words
    if (kind) made->setProperty(kind, true);
    if (!icon.isEmpty()) useIcon(made, icon);
    made->setCursor(Qt::PointingHandCursor);
    return made;
}

QToolButton* iconButton(const QString& icon, const QString& tip) {
    auto* made = new QToolButton;
    made->setProperty("quiet", true);
    made->setToolTip(tip);
    made->setAccessibleName(tip);
    made->setFocusPolicy(Qt::StrongFocus);
    useIcon(made, icon);
    return made;
}

QPlainTextEdit* codeBox(const char* name, const QString& heard) {
    auto* made = new QPlainTextEdit;
    QFont font("monospace");
    font.setStyleHint(QFont::Monospace);
    font.setPixelSize(12);
    made->setFont(font);
    made->setObjectName(name);
    made->setAccessibleName(heard);
    made->setLineWrapMode(QPlainTextEdit::NoWrap);
    return made;
}

QWidget* line() {
    auto* made = new QFrame;
    made->setProperty("line", true);
    return made;
}

QWidget* sideColumn(int width, QVBoxLayout*& layout) {
    auto* box = new QWidget;
    box->setProperty("side", true);
    box->setAttribute(Qt::WA_StyledBackground);
    box->setFixedWidth(width);
    layout = new QVBoxLayout(box);
    layout->setContentsMargins(16, 16, 16, 14);
    layout->setSpacing(8);
    return box;
}

QString factRow(const QString& name, const QString& value) {
    return QString("<tr><td style='padding-right:14px; color:%1'>%2</td><td><b>%3</b></td></tr>")
        .arg(tokens().dim.name(), name, breakable(value.toHtmlEscaped()));
}

void restyle(QWidget* widget, const char* property, const QVariant& value) {
    if (widget->property(property) == value) return;
    widget->setProperty(property, value);
    widget->style()->unpolish(widget);
    widget->style()->polish(widget);
}

namespace {

void clearOn(QWidget* panel, QLayout* layout) { // one that is taken out no longer knows whose it was
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (QWidget* widget = item->widget()) {
            const QWidget* focus = QApplication::focusWidget();
            if (panel && focus && (focus == widget || widget->isAncestorOf(focus))) panel->setFocus();
            widget->hide();
            widget->deleteLater();
        }
        if (item->layout()) clearOn(panel, item->layout());
        delete item;
    }
}

} // namespace

void clearLayout(QLayout* layout) {
    clearOn(layout->parentWidget(), layout);
}

QVBoxLayout* scrolled(QWidget* parent, QBoxLayout* into, bool sideways) {
    auto* area = new QScrollArea(parent);
    area->setFrameShape(QFrame::NoFrame);
    area->setWidgetResizable(true);
    area->setHorizontalScrollBarPolicy(sideways ? Qt::ScrollBarAsNeeded : Qt::ScrollBarAlwaysOff);
    area->viewport()->setAutoFillBackground(false);
    auto* inner = new QWidget;
    inner->setObjectName("scrolled");
    inner->setAutoFillBackground(false);
    area->setWidget(inner);
    into->addWidget(area, 1);
    return new QVBoxLayout(inner);
}

void scrollSoon(QWidget* panel, std::function<QWidget*()> to, int times) {
    constexpr int wait = 50; // milliseconds; layouts show what is new a few events later, and panels are
                             // made anew while a step runs, which takes them to their top
    QTimer::singleShot(wait, panel, [panel, to = std::move(to), times] {
        if (times > 1) scrollSoon(panel, to, times - 1);
        QWidget* widget = to();
        QScrollArea* area = nullptr;
        for (QWidget* above = panel->parentWidget(); above && !area; above = above->parentWidget())
            area = qobject_cast<QScrollArea*>(above);
        if (!area || !widget || !widget->isVisible()) return;
        const int top = widget->mapTo(area->widget(), QPoint()).y(),
                  seen = area->verticalScrollBar()->value();
        if (top < seen || top + widget->height() > seen + area->viewport()->height())
            area->verticalScrollBar()->setValue(top - 8);
    });
}

} // namespace zl::app
