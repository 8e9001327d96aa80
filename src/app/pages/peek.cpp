#include "app/pages/peek.h"

#include "app/qt_image.h"
#include "app/qt_text.h"

#include "core/files/source_file.h"
#include "core/formats/format.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

namespace zl::app {

namespace {

constexpr int wide = 264, high = 180;

} // namespace

QImage thumbnailFrom(std::string_view bytes) {
    constexpr int mostEdge = 2048;
    try {
        const auto picture = texture::pictureFromBytes("thumbnail", std::string(bytes));
        if (picture->width > mostEdge || picture->height > mostEdge) return {};
        return imageOf(texture::decode(*picture));
    } catch (const Error&) {
        return {};
    }
}

Peeked peekAt(const std::filesystem::path& path, formats::FileKind kind, bool dusk,
              const Progress& progress) {
    Peeked out;
    try {
        if (kind == formats::FileKind::Model) {
            const Model model = formats::readModel(path, progress.between(0, 0.7));
            out.triangles = triangleCount(model);
            out.clothing = project::clothingOf(model);
            render::SnapshotOptions options;
            options.width = wide, options.height = high, options.dusk = dusk;
            out.picture = imageOf(render::snapshot(model, options, progress.between(0.7, 1)));
        } else if (kind == formats::FileKind::Picture) {
            const FileBytes bytes = files::SourceFile(files::addressOf(path), progress).bytes();
            const texture::PictureFormat* format = texture::pictureFormatOf(bytes.text());
            if (!format) throw Error("is no picture that can be shown", path.string());
            out.picture = imageOf(format->read(bytes.text()))
                              .scaled(wide, high, Qt::KeepAspectRatio, Qt::SmoothTransformation);
        }
    } catch (const Error& error) {
        out.problem = QString::fromUtf8(error.what());
    }
    return out;
}

} // namespace zl::app
