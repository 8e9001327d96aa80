#include "app/theme.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QStyleFactory>
#include <QSvgRenderer>
#include <QTemporaryDir>

namespace zl::app {

namespace {

Tokens lightTokens() {
    return {"#F3EEE4", "#FBF8F1", "#DDD3C2", "#20303A", "#5E6B72", "#E59A12", "#FBE8C4",
            "#F0AB32", "#2E7255", "#DCEBE2", "#B4492D", "#F6DDD4", "#2C6C8C", "#D9E8EF",
            "#E3E9E6", "#C5D0CC", "#FFFFFF", "#7A5200", "#20303A", "#FBF8F1", "#24333B"};
}

Tokens duskTokens() {
    return {"#1D262B", "#243037", "#3A4951", "#ECE6D8", "#A3B0B4", "#E9A52B", "#544223",
            "#F3B74B", "#7CC4A0", "#274438", "#EE8A6C", "#53332A", "#7DB9D6", "#27424F",
            "#33424A", "#1F2A30", "#1D262B", "#F0C06A", "#ECE6D8", "#1D262B", "#080C0E"};
}

} // namespace

Theme& Theme::instance() {
    static Theme theme;
    return theme;
}

Theme::Theme() {
    for (const char* font :
         {"Cabin-SemiBold", "Inter-Regular", "Inter-Medium", "Inter-SemiBold", "Inter-Bold"})
        QFontDatabase::addApplicationFont(QString(":/fonts/%1.otf").arg(font));
    qApp->setStyle(QStyleFactory::create("Fusion"));
    apply();
}

void Theme::setDusk(bool dusk) {
    if (dusk == dusk_) return;
    dusk_ = dusk;
    apply();
    Q_EMIT changed();
}

QFont Theme::heading(int pixels) const {
    QFont font("Cabin");
    font.setPixelSize(pixels);
    font.setWeight(QFont::DemiBold);
    return font;
}

QFont Theme::text(int pixels, int weight) const {
    QFont font("Inter");
    font.setPixelSize(pixels);
    font.setWeight(static_cast<QFont::Weight>(weight));
    return font;
}

QIcon Theme::icon(const QString& name, const QColor& colour) const {
    QFile file(QString(":/icons/%1.svg").arg(name));
    if (!file.open(QIODevice::ReadOnly)) return {};
    QByteArray svg = file.readAll();
    svg.replace("currentColor", (colour.isValid() ? colour : tokens_.ink).name().toUtf8());
    svg.replace("stroke-width=\"2\"", "stroke-width=\"1.75\"");
    QSvgRenderer renderer(svg);
    QIcon icon;
    for (const int size : {16, 20, 32, 64}) {
        QPixmap pixmap(size, size);
        pixmap.fill(Qt::transparent);
        QPainter painter(&pixmap);
        renderer.render(&painter);
        icon.addPixmap(pixmap);
    }
    return icon;
}

void Theme::apply() {
    tokens_ = dusk_ ? duskTokens() : lightTokens();
    const Tokens& t = tokens_;
    QPalette palette;
    palette.setColor(QPalette::Window, t.linen);
    palette.setColor(QPalette::Base, t.field);
    palette.setColor(QPalette::AlternateBase, t.paper);
    palette.setColor(QPalette::Button, t.paper);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText,
                            QPalette::HighlightedText})
        palette.setColor(role, t.ink);
    palette.setColor(QPalette::PlaceholderText, t.dim);
    palette.setColor(QPalette::Highlight, t.zestSoft);
    palette.setColor(QPalette::ToolTipBase, t.paper);
    qApp->setPalette(palette);
    qApp->setFont(text(13));

    // Style sheets take pictures from files only; tick and arrow are drawn in the theme's colour once a
    // start.
    static QTemporaryDir folder;
    const QString tick = folder.filePath(dusk_ ? "tick-dusk.png" : "tick.png");
    if (!QFile::exists(tick)) icon("check", dusk_ ? t.linen : QColor(Qt::white)).pixmap(16, 16).save(tick);

    const QString arrow = folder.filePath(dusk_ ? "arrow-dusk.png" : "arrow.png");
    if (!QFile::exists(arrow)) icon("chevron-down", t.dim).pixmap(16, 16).save(arrow);

    QFile file(":/style.qss");
    if (!file.open(QIODevice::ReadOnly)) return;
    QString style = QString::fromUtf8(file.readAll());
    const std::pair<const char*, QColor> names[] = {{"linen", t.linen},
                                                    {"paper", t.paper},
                                                    {"edge", t.edge},
                                                    {"ink", t.ink},
                                                    {"dim", t.dim},
                                                    {"zestSoft", t.zestSoft},
                                                    {"zestHover", t.zestHover},
                                                    {"zest", t.zest},
                                                    {"leaf", t.leaf},
                                                    {"clay", t.clay},
                                                    {"sea", t.sea},
                                                    {"field", t.field},
                                                    {"amber", t.amber},
                                                    {"strong", t.strong},
                                                    {"onStrong", t.onStrong}};
    style.replace("@tick", tick);
    style.replace("@arrow", arrow);
    for (const auto& [name, colour] : names)
        style.replace(QRegularExpression(QString("@%1\\b").arg(name)), colour.name());
    qApp->setStyleSheet(style);
}

} // namespace zl::app
