#include "app/surface/surface_look.h"

#include "app/qt_image.h"
#include "app/qt_text.h"

#include "core/platform/delivered_pictures.h"
#include "core/platform/small_pictures.h"
#include "core/texture/picture_memory.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/fitted_picture.h"
#include "core/texture/picture_cache.h"
#include "core/texture/resized.h"
#include "core/uv/outline.h"
#include "core/uv/overlap.h"

namespace zl::app {

namespace {

constexpr int swatchEdge = 40;

QImage plainSwatch(const glm::vec4& colour) {
    QImage out(swatchEdge, swatchEdge, QImage::Format_RGB32);
    out.fill(
        QColor(texture::toSrgbByte(colour.r), texture::toSrgbByte(colour.g), texture::toSrgbByte(colour.b)));
    return out;
}

/// A picture, or one channel of it in grey, brought down to a small square; nothing for a broken one.
QImage thumbOf(const std::shared_ptr<const Image>& image, PictureRole role, PictureChannel channel) {
    try {
        Pixels small =
            texture::resized(*texture::pixelsOf(image), swatchEdge, swatchEdge, texture::pixelKindOf(role));
        for (std::size_t p = 0; p < small.rgba.size(); p += 4) {
            if (channel != PictureChannel::Colour)
                std::fill_n(&small.rgba[p], 3,
                            small.rgba[p + std::size_t(channel) - std::size_t(PictureChannel::Red)]);
            small.rgba[p + 3] = 255;
        }
        return imageOf(small);
    } catch (const Error&) {
        return {};
    }
}

/// What the importer makes of the leading picture at each of its qualities.
void addQualities(MaterialLook& out, const Model& model, const platform::Sheet& sheet) {
    const Image& image = *model.images[std::size_t(out.pictures[0].image)];
    for (const auto& quality : sheet.cost.qualities) {
        const glm::ivec2 size = texture::shrunkTo({image.width, image.height}, quality.edge);
        if (quality.usual) out.usual = out.delivered.size();
        out.delivered.push_back({qs(quality.name) + (quality.usual ? QObject::tr(" ✓ usual") : QString()),
                                 QObject::tr("%1 × %2 px").arg(size.x).arg(size.y),
                                 {},
                                 MaterialLook::Delivered::By::Importer,
                                 quality.edge});
    }
}

/// What a console with so many bytes a picture makes of the colour picture: as it is where that fits, else
/// each format at its largest size, what loses least first.
void addHeld(MaterialLook& out, const Model& model, std::size_t most, const Progress& progress) {
    const MaterialLook::Picture& first = out.pictures[0];
    if (first.role != PictureRole::Colour) return;
    try {
        const auto pixels = texture::pixelsOf(model.images[std::size_t(first.image)]);
        const auto add = [&](const texture::SmallChoice& choice, bool exact) {
            QString detail = QObject::tr("%1 × %2 px").arg(choice.width).arg(choice.height);
            detail += exact ? QObject::tr(", as it is")
                            : QObject::tr(", off by %1 of 255").arg(qs(showNumber(choice.error, 1)));
            out.delivered.push_back({qs(texture::infoOf(choice.format).name),
                                     QObject::tr("%1 bytes").arg(qs(showNumber(double(choice.bytes), 0))),
                                     {},
                                     MaterialLook::Delivered::By::Console,
                                     0,
                                     std::make_shared<const Pixels>(choice.pixels),
                                     detail});
        };
        const auto format = texture::smallestFor(*pixels);
        const std::size_t bytes = texture::bytesHeld(format, pixels->width, pixels->height);
        if (bytes <= most)
            return add(
                {format, pixels->width, pixels->height, bytes, 0, texture::asHeld(*pixels, format, false)},
                true);
        for (const auto& choice : texture::smallChoices(*pixels, most, true, progress)) add(choice, false);
    } catch (const Cancelled&) {
        throw;
    } catch (const Error&) { // a broken picture is reported on Gather
        return;
    }
}

MaterialLook lookOf(const Model& model, const platform::Sheet& sheet, int index, const Progress& progress) {
    MaterialLook out;
    out.index = index;
    const Material none;
    const Material& material = index < 0 ? none : model.materials[std::size_t(index)];
    out.name = index < 0 ? QObject::tr("no material") : qs(material.name);
    for (const PictureRole role : allPictureRoles)
        if (const PictureUse& use = material.picture(role))
            out.pictures.push_back({role, use.channel, use.image,
                                    thumbOf(model.images[std::size_t(use.image)], role, use.channel)});
    // What shines by its picture alone looks like that.
    const bool shines = material.baseColour == glm::vec4(0, 0, 0, 1) && out.pictures.size() == 1 &&
                        out.pictures[0].role == PictureRole::Emission;
    if (!out.pictures.empty() && (out.pictures[0].role == PictureRole::Colour || shines))
        out.swatch = out.pictures[0].thumb;
    if (out.swatch.isNull()) out.swatch = plainSwatch(material.baseColour);
    if (!material.leading()) return out;
    std::vector<PictureRole> wanted;
    for (const platform::SheetPicture& picture : sheet.surface.pictures) {
        QStringList roles;
        for (const PictureRole role : picture.roles()) roles << qs(roleName(role));
        out.delivered.push_back({qs(picture.nameFor(material.name)), roles.join(", "), picture.roles()});
        for (const PictureRole role : picture.roles())
            if (std::ranges::find(wanted, role) == wanted.end()) wanted.push_back(role);
    }
    if (const auto most = platform::smallPictureBytes(sheet))
        addHeld(out, model, *most, progress);
    else if (out.delivered.empty())
        addQualities(out, model, sheet);
    for (const PictureRole role : wanted)
        if (!material.picture(role) && !material.picture(otherSayingOf(role)))
            out.missing.push_back(qs(roleName(role)));
    return out;
}

} // namespace

const MaterialLook* SurfaceLook::material(const QString& name) const {
    const auto found = std::ranges::find(materials, name, &MaterialLook::name);
    return found == materials.end() ? nullptr : &*found;
}

std::shared_ptr<const SurfaceLook> makeSurfaceLook(const Model& model, SheetPointer sheet,
                                                   const Progress& progress) {
    auto out = std::make_shared<SurfaceLook>();
    out->model = model;
    out->sheet = sheet;
    progress.report(0, "looking at surfaces");
    const auto used = usedMaterials(model);
    std::map<int, std::size_t> placeOf;
    std::map<QString, int> called;
    for (const int index : used) {
        placeOf[index] = out->materials.size();
        out->materials.push_back(lookOf(model, *sheet, index, progress.silent()));
        MaterialLook& made = out->materials.back();
        if (const int nth = ++called[made.name]; nth > 1)
            made.name = QString("%1 (%2)").arg(made.name).arg(nth);
        progress.report(0.3 * double(out->materials.size()) / double(used.size()));
    }
    for (const int node : shownNodes(model))
        for (const MaterialRun& run : model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)]->runs)
            if (const auto at = placeOf.find(run.material); at != placeOf.end())
                out->materials[at->second].triangles += run.triangleCount;
    out->faces = uv::uvFaces(model);
    progress.report(0.4);
    out->islands = uv::islandsOf(model, out->faces);
    progress.report(0.6);
    std::vector<double> texels(out->materials.size(), 0), area(out->materials.size(), 0);
    for (const uv::UvIsland& island : out->islands) {
        out->outlines.push_back(uv::outlineOf(out->faces, island));
        const std::size_t at = placeOf[island.material];
        texels[at] += island.density * island.density * island.area, area[at] += island.area;
    }
    for (std::size_t m = 0; m < area.size(); ++m)
        if (area[m] > 0) out->materials[m].density = std::sqrt(texels[m] / area[m]);
    for (const platform::DeliveredPicture& picture : platform::deliveredPictures(model, *sheet))
        for (MaterialLook& material : out->materials) {
            const bool wears = picture.material >= 0 ? picture.material == material.index
                                                     : std::ranges::find(material.pictures, picture.image,
                                                                         &MaterialLook::Picture::image) !=
                                                           material.pictures.end();
            if (wears) material.memory += picture.memory();
        }
    progress.report(0.8);
    std::vector<char> lit(out->faces.faces.size(), 0);
    const uv::Overlap overlap = uv::overlapOf(out->faces);
    for (const std::uint32_t face : overlap.faces) lit[face] = 1;
    for (const uv::UvIsland& island : out->islands)
        out->overlapping.push_back(
            std::ranges::any_of(island.faces, [&](std::uint32_t f) { return lit[f] != 0; }));
    return out;
}

} // namespace zl::app
