#include "app/surface/picture_levels.h"

#include "app/qt_text.h"

#include "core/deliver/packed_pictures.h"
#include "core/texture/picture_memory.h"
#include "core/texture/resized.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"

namespace zl::app {

namespace {

constexpr int thumbEdge = 108;

QImage greyThumb(const Pixels& pixels, std::size_t channel) {
    const QSize size = QSize(pixels.width, pixels.height)
                           .scaled(thumbEdge, thumbEdge, Qt::KeepAspectRatio)
                           .expandedTo({1, 1});
    QImage out(size, QImage::Format_Grayscale8);
    for (int y = 0; y < size.height(); ++y)
        for (int x = 0; x < size.width(); ++x) {
            const std::size_t px = std::size_t(x * pixels.width / size.width()),
                              py = std::size_t(y * pixels.height / size.height());
            out.scanLine(y)[x] = pixels.rgba[4 * (py * std::size_t(pixels.width) + px) + channel];
        }
    return out;
}

/// Fills in all that follows from the pixels.
void finish(PictureLevels& out, std::shared_ptr<const Pixels> pixels, texture::PixelKind kind,
            const Progress& progress) {
    progress.report(0.4, "looking at channels");
    out.channels = texture::channelFacts(*pixels);
    std::array<std::array<bool, 256>, 4> seen{};
    for (std::size_t p = 0; p < pixels->rgba.size(); p += 4)
        for (std::size_t k = 0; k < 4; ++k) seen[k][pixels->rgba[p + k]] = true;
    for (std::size_t k = 0; k < 4; ++k) out.greys[k] = int(std::ranges::count(seen[k], true));
    out.levels.push_back(std::move(pixels));
    while (std::max(out.levels.back()->width, out.levels.back()->height) > 256) {
        progress.report(0.6, "making it smaller");
        out.levels.push_back(std::make_shared<const Pixels>(texture::halved(*out.levels.back(), kind)));
    }
    // Thumbs are taken from a level a little larger than they are.
    const auto fit = std::ranges::find_if(out.levels.rbegin(), out.levels.rend(), [](const auto& level) {
        return std::max(level->width, level->height) >= thumbEdge;
    });
    const Pixels& small = fit == out.levels.rend() ? *out.levels.back() : **fit;
    for (std::size_t k = 0; k < 4; ++k) out.thumbs[k] = greyThumb(small, k);
}

QString sizeWords(const Pixels& pixels) {
    return QObject::tr("%1 × %2").arg(pixels.width).arg(pixels.height);
}

} // namespace

QString PictureLevels::channelFacts(int channel) const {
    const auto& is = channels.channels[std::size_t(channel)];
    const auto share = [](double byte) { return qs(showNumber(byte / 255, 2)); };
    if (is.isOneValue()) return QObject::tr("says nothing: %1 everywhere").arg(share(is.least));
    return QObject::tr("least %1, mean %2, most %3; %4")
        .arg(share(is.least), share(is.mean), share(is.most),
             qs(showCount(greys[channel], "value", "values")));
}

QString PictureLevels::remark() const {
    QStringList words;
    if (hasAlpha && channels.channels[3].isOneValue())
        words << QObject::tr("alpha says nothing (all %1)")
                     .arg(qs(showNumber(channels.channels[3].least / 255.0, 2)));
    if (channels.grey) words << QObject::tr("red, green and blue are equal");
    return words.join("; ");
}

std::shared_ptr<const PictureLevels> sourceLevels(const SurfaceLook& look, const MaterialLook& material,
                                                  std::size_t picture, const Progress& progress) {
    const MaterialLook::Picture& shown = material.pictures[picture];
    const auto& image = look.model.images[std::size_t(shown.image)];
    auto out = std::make_shared<PictureLevels>();
    progress.report(0, "reading the picture");
    auto pixels = texture::pixelsOf(image);
    out->name = qs(image->name);
    out->hasAlpha = image->hasAlpha();
    QStringList roles;
    for (const MaterialLook::Picture& other : material.pictures) {
        if (other.image != shown.image) continue;
        roles << qs(roleName(other.role));
        for (int k = 0; k < 4; ++k) {
            const bool holds = other.channel == PictureChannel::Colour
                                   ? k < 3
                                   : int(other.channel) - int(PictureChannel::Red) == k;
            if (!holds) continue;
            QString& words = out->holds[std::size_t(k)];
            words += (words.isEmpty() ? "" : ", ") + qs(roleName(other.role));
        }
        if (other.role == PictureRole::Opacity && other.channel == PictureChannel::Alpha)
            out->seesThrough = true;
        if (isColour(other.role)) out->isColour = true;
    }
    out->seesThrough = out->seesThrough || (out->hasAlpha && out->isColour && out->holds[3].isEmpty());
    out->caption = QObject::tr("source: %1, %2").arg(out->name, sizeWords(*pixels));
    out->facts = QObject::tr("%1, %2, %3, %4; for %5")
                     .arg(qs(texture::pictureFormat(image->format).name), sizeWords(*pixels),
                          qs(showCount(image->channels, "channel", "channels")),
                          qs(showBytes(double(texture::encodedOf(image)->size()))), roles.join(", "));
    finish(*out, std::move(pixels), texture::pixelKindOf(shown.role), progress);
    return out;
}

namespace {

/// The leading picture as an importer that shrinks shows it.
std::shared_ptr<const PictureLevels> shrunkLevels(const SurfaceLook& look, const MaterialLook& material,
                                                  std::size_t quality, const Progress& progress) {
    const MaterialLook::Picture& shown = material.pictures[0];
    const auto& image = look.model.images[std::size_t(shown.image)];
    const MaterialLook::Delivered& wanted = material.delivered[quality];
    progress.report(0, "shrinking the picture");
    const auto whole = texture::pixelsOf(image);
    const glm::ivec2 size = texture::shrunkTo({whole->width, whole->height}, wanted.edge);
    const auto kind = texture::pixelKindOf(shown.role);
    auto out = std::make_shared<PictureLevels>();
    out->name = wanted.name;
    out->hasAlpha = image->hasAlpha();
    out->isColour = isColour(shown.role);
    out->seesThrough = out->hasAlpha && out->isColour;
    out->caption = QObject::tr("in quality %1: %2").arg(wanted.name, wanted.about);
    const double share = double(size.x) * size.y / (double(whole->width) * whole->height);
    out->facts = share < 1 ? QObject::tr("%1 % of the picture's %2 pixels are shown")
                                 .arg(qs(showNumber(100 * share, share < 0.1 ? 1 : 0)), sizeWords(*whole))
                           : QObject::tr("the whole picture is shown");
    finish(*out,
           share < 1 ? std::make_shared<const Pixels>(texture::resized(*whole, size.x, size.y, kind)) : whole,
           kind, progress);
    return out;
}

/// The colour picture as a console with few bytes for it shows it.
std::shared_ptr<const PictureLevels> heldLevels(const MaterialLook::Delivered& held,
                                                const Progress& progress) {
    auto out = std::make_shared<PictureLevels>();
    out->name = held.name;
    out->isColour = true;
    for (std::size_t p = 3; p < held.held->rgba.size(); p += 4) out->hasAlpha |= held.held->rgba[p] < 255;
    out->seesThrough = out->hasAlpha;
    out->caption = QObject::tr("on the console: %1").arg(held.name);
    out->facts = held.about + ", " + held.detail;
    finish(*out, held.held, texture::PixelKind::Colours, progress);
    return out;
}

} // namespace

std::shared_ptr<const PictureLevels> deliveredLevels(const SurfaceLook& look, const MaterialLook& material,
                                                     std::size_t picture, const Progress& progress) {
    using By = MaterialLook::Delivered::By;
    if (material.delivered[picture].by == By::Importer)
        return shrunkLevels(look, material, picture, progress);
    if (material.delivered[picture].by == By::Console)
        return heldLevels(material.delivered[picture], progress);
    const platform::SheetPicture& wanted = look.sheet->surface.pictures[picture];
    progress.report(0, "packing the picture");
    deliver::PackedPicture packed =
        deliver::packedFor(wanted, look.model.materials[std::size_t(material.index)], look.model);
    auto out = std::make_shared<PictureLevels>();
    out->name = material.delivered[picture].name;
    out->hasAlpha = packed.alpha;
    for (std::size_t k = 0; k < 4; ++k)
        if (wanted.channels[k]) out->holds[k] = qs(textOf(*wanted.channels[k]));
    const auto roles = wanted.roles();
    const auto kind = roles.empty() ? texture::PixelKind::Numbers : texture::pixelKindOf(roles[0]);
    out->isColour = kind == texture::PixelKind::Colours;
    out->seesThrough = wanted.channels[3] && wanted.channels[3]->role == PictureRole::Opacity;
    out->caption = QObject::tr("as delivered: %1").arg(out->name);
    out->facts = QObject::tr("%1, %2, %3")
                     .arg(qs(texture::pictureFormat(wanted.format).name), sizeWords(packed.pixels),
                          packed.alpha ? QObject::tr("with alpha") : QObject::tr("without alpha"));
    for (const std::string& assumed : packed.assumed) out->facts += "; " + qs(assumed);
    for (const std::string& left : packed.leftOut) out->facts += "; " + qs(left);
    finish(*out, std::make_shared<const Pixels>(std::move(packed.pixels)), kind, progress);
    return out;
}

} // namespace zl::app
