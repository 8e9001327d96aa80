#pragma once
#include "app/surface/surface_look.h"

#include "core/texture/channel_facts.h"

namespace zl::app {

/// A picture made ready to be looked at, from whole to a glance, and what is known of it.
struct PictureLevels {
    QString caption; ///< "source: stall-wood.png, 512 × 512, colour"
    QString name, facts;
    std::vector<std::shared_ptr<const Pixels>> levels; ///< each half as large as the one before
    texture::ChannelFacts channels;
    std::array<QString, 4> holds; ///< what each channel is for; empty for nothing
    std::array<QImage, 4> thumbs; ///< each channel as grey
    bool hasAlpha = false;
    bool seesThrough = false; ///< its alpha is see-through, and not something else
    bool isColour = false;

    QSize size() const { return {levels[0]->width, levels[0]->height}; }
    /// What the numbers of a channel say: "least 0.08, mean 0.41, most 0.93, 214 greys".
    QString channelFacts(int channel) const;
    /// Of all together: "its red equals its green"; empty when there is nothing to say.
    QString remark() const;
    int greys[4] = {0, 0, 0, 0}; ///< different values in each channel
};

/// A picture as a material wears it. Throws Error when it is broken.
std::shared_ptr<const PictureLevels> sourceLevels(const SurfaceLook& look, const MaterialLook& material,
                                                  std::size_t picture, const Progress& progress);
/// A picture as the sheet packs it of a material; throws as packing does.
std::shared_ptr<const PictureLevels> deliveredLevels(const SurfaceLook& look, const MaterialLook& material,
                                                     std::size_t picture, const Progress& progress);

} // namespace zl::app
