#pragma once
#include "app/surface/surface_look.h"

#include <QWidget>

class QVBoxLayout;

namespace zl::app {

/// A picture of a material that is looked at: one that it wears, or one that is packed of it.
struct ChosenPicture {
    bool delivered = false;
    std::size_t index = 0;
    bool operator==(const ChosenPicture&) const = default;
};

/// The materials of a piece as cards, one open at a time with its pictures by role.
class MaterialsPanel : public QWidget {
    Q_OBJECT
public:
    explicit MaterialsPanel(QWidget* parent = nullptr);

    void show(std::shared_ptr<const SurfaceLook> look);
    /// Shows no cards, and why there are none.
    void showNone(const QString& why);
    void open(const QString& material);
    const QString& opened() const { return opened_; }
    /// Shows which picture is looked at.
    void setShown(std::optional<ChosenPicture> picture);

Q_SIGNALS:
    void openedChanged();
    void pictureChosen(const ChosenPicture& picture);
    void bindAsked();

private:
    void rebuild();
    bool isLit() const; ///< whether a scene of solids is shown whose pictures hold its light
    QWidget* card(const MaterialLook& material);
    void addPictures(const MaterialLook& material, QVBoxLayout* into);

    std::shared_ptr<const SurfaceLook> look_;
    QString opened_;
    std::optional<ChosenPicture> shown_;
    QVBoxLayout* layout_;
};

} // namespace zl::app
