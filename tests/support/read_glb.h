#pragma once
#include "core/formats/format.h"
#include "support/glb_builder.h"
#include "support/temporary_folder.h"

/// What the product reads from a GLB that was put together, "made.glb".
inline zl::Model read(const GlbBuilder& glb) {
    TemporaryFolder folder;
    return zl::formats::readModel(folder.write("made.glb", glb.bytes()));
}
