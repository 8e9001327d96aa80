#pragma once
#include "app/session.h"

#include "core/uv/islands.h"

#include <QImage>

namespace zl::app {

/// One material as the Surface stage shows it.
struct MaterialLook {
    int index = -1; ///< of the model's materials; -1 for faces without one
    QString name;   ///< a number behind it where others are called the same
    QImage swatch;  ///< a small square of how it looks
    std::size_t triangles = 0;
    double density = 0; ///< pixels along a metre
    double memory = 0;  ///< bytes on a graphics card, as it is delivered
    struct Picture {
        PictureRole role;
        PictureChannel channel;
        int image;
        QImage thumb;
    };
    std::vector<Picture> pictures;
    /// What is made of its pictures: what the sheet packs, in its order; or the leading picture in each
    /// quality of an importer that shrinks what it gets; or in each format of a console that has few bytes
    /// for it.
    struct Delivered {
        enum class By { Packing, Importer, Console };

        QString name, about;
        std::vector<PictureRole> roles{}; ///< that it is made of
        By by = By::Packing;
        int edge = 0;                         ///< that the importer shrinks to
        std::shared_ptr<const Pixels> held{}; ///< as the console shows them
        QString detail{};                     ///< what else is to be known of it
    };
    std::vector<Delivered> delivered;
    std::size_t usual = 0;        ///< the one that is shown first
    std::vector<QString> missing; ///< "metalness": roles that the sheet packs and that have no picture
};

/// What the Surface stage shows of a piece: its materials and how it lies on their pictures.
struct SurfaceLook {
    Model model;
    SheetPointer sheet;
    std::vector<MaterialLook> materials; ///< used ones
    uv::UvFaces faces;
    std::vector<uv::UvIsland> islands;
    std::vector<std::vector<std::vector<glm::vec2>>> outlines; ///< by island
    std::vector<char> overlapping; ///< by island: some of it lies where others lie

    const MaterialLook* material(const QString& name) const;
};

/// Made beside the window.
std::shared_ptr<const SurfaceLook> makeSurfaceLook(const Model& model, SheetPointer sheet,
                                                   const Progress& progress);

} // namespace zl::app
