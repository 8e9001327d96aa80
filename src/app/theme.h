#pragma once
#include <QColor>
#include <QIcon>
#include <QObject>

namespace zl::app {

/// The colours of one theme; names as in the design's table, with a few derived ones.
struct Tokens {
    QColor linen, paper, edge, ink, dim, zest, zestSoft, zestHover, leaf, leafSoft, clay, claySoft, sea,
        seaSoft, mistTop, mistBottom, field, amber, strong, onStrong, shadow;
};

/// Fonts, colours and icons of the whole program. One for the process, made before the first window.
class Theme : public QObject {
    Q_OBJECT
public:
    static Theme& instance();

    const Tokens& tokens() const { return tokens_; }
    bool isDusk() const { return dusk_; }
    void setDusk(bool dusk);

    /// An icon in the theme's ink, or in `colour`.
    QIcon icon(const QString& name, const QColor& colour = {}) const;
    QFont heading(int pixels) const;
    QFont text(int pixels, int weight = 400) const;

Q_SIGNALS:
    void changed();

private:
    Theme();
    void apply();
    Tokens tokens_;
    bool dusk_ = false;
};

inline const Tokens& tokens() {
    return Theme::instance().tokens();
}

} // namespace zl::app
