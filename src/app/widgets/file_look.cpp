#include "app/widgets/file_look.h"

#include "app/qt_image.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/passing_folder.h"
#include "core/base/error.h"
#include "core/base/units.h"
#include "core/formats/format.h"
#include "core/learn/file_facts.h"
#include "core/render/snapshot.h"

#include <QBuffer>
#include <QImageReader>
#include <QLabel>
#include <QPlainTextEdit>
#include <QVBoxLayout>

#include <fstream>

namespace zl::app {

namespace {

constexpr qsizetype mostText = 200'000; ///< letters that are shown

/// Whether people can read it: UTF-8 without the bytes that no text has.
bool isText(const std::string& bytes) {
    const std::string_view begin = std::string_view(bytes).substr(0, 4096);
    return std::ranges::none_of(begin, [](char c) {
        return static_cast<unsigned char>(c) < 32 && c != '\n' && c != '\r' && c != '\t';
    });
}

/// Whether it is a model by its ending.
bool isModel(const std::string& name) {
    std::string ending = std::filesystem::path(name).extension().string();
    if (ending.size() < 2) return false;
    ending = QString::fromStdString(ending.substr(1)).toLower().toStdString();
    return std::ranges::any_of(formats::allFormats(), [&](const formats::Format& format) {
        return format.read && std::ranges::find(format.extensions, ending) != format.extensions.end();
    });
}

} // namespace

FileLook::Drawn FileLook::pictured(QImageReader& reader) {
    Drawn out;
    const QSize size = reader.size();
    out.words = tr("%1 × %2").arg(size.width()).arg(size.height());
    out.picture = reader.read();
    if (out.picture.isNull()) out.words = reader.errorString();
    return out;
}

FileLook::Drawn FileLook::drawn(const std::filesystem::path& folder, const std::string& name,
                                const Progress& progress) {
    Drawn out;
    const auto facts = learn::factsOf(folder, name, progress);
    if (!facts.model) {
        out.words = qs(facts.problem);
        return out;
    }
    out.words = tr("%1, %2, %3")
                    .arg(qs(showCount(double(facts.model->triangles), "triangle", "triangles")),
                         qs(showCount(double(facts.model->objects), "object", "objects")),
                         qs(showCount(double(facts.model->materials), "material", "materials")));
    out.picture = imageOf(render::snapshot(formats::readModel(folder / name, progress),
                                           {.width = 640, .height = 400}, progress));
    return out;
}

FileLook::FileLook(Jobs& jobs, QWidget* parent) : QWidget(parent), jobs_(jobs) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    words_ = textLabel({}, "dim");
    words_->setObjectName("lookWords");
    column->addWidget(words_);
    picture_ = new QLabel;
    picture_->setObjectName("lookPicture");
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setMinimumSize(80, 80);
    picture_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
    column->addWidget(picture_, 1);
    text_ = codeBox("lookText", tr("Text of the file"));
    text_->setReadOnly(true);
    column->addWidget(text_, 1);
    text_->hide();
}

void FileLook::showText(const QString& text) {
    text_->setPlainText(text.left(mostText));
    text_->show();
    picture_->hide();
}

void FileLook::show(const Files& files, std::size_t which) {
    const OutFile& file = (*files)[which];
    begin(file.name, double(file.bytes.size()), file.bytes.substr(0, std::size_t(mostText)),
          [files, which](const Progress& progress) {
              const OutFile& own = (*files)[which];
              QByteArray bytes = QByteArray::fromRawData(own.bytes.data(), qsizetype(own.bytes.size()));
              QBuffer buffer(&bytes);
              QImageReader reader(&buffer);
              if (reader.canRead()) return pictured(reader);
              const PassingFolder folder("look");
              writeAllOrNone(folder.path(), *files);
              return drawn(folder.path(), own.name, progress);
          });
}

void FileLook::show(const std::filesystem::path& file) {
    std::error_code error;
    const auto size = std::filesystem::file_size(file, error);
    std::string head(std::size_t(mostText), '\0');
    std::ifstream in(file, std::ios::binary);
    in.read(head.data(), std::streamsize(head.size()));
    head.resize(std::size_t(in.gcount()));
    if (error || (head.empty() && size > 0)) {
        clear();
        return words_->setText(tr("It lies in an archive, or is gone"));
    }
    begin(file.filename().string(), double(size), head, [file](const Progress& progress) {
        QImageReader reader(qs(file.string()));
        reader.setDecideFormatFromContent(true);
        return reader.canRead() ? pictured(reader)
                                : drawn(file.parent_path(), file.filename().string(), progress);
    });
}

void FileLook::clear() {
    if (working_) working_->cancel();
    name_.clear(), image_ = {};
    picture_->clear(), words_->clear();
    picture_->show(), text_->hide();
}

void FileLook::begin(const std::string& name, double size, const std::string& head, Draw draw) {
    clear();
    name_ = qs(name);
    words_->setText(tr("%1, %2").arg(name_, qs(showBytes(size))));
    picture_->setAccessibleName(name_);
    QByteArray bytes = QByteArray::fromRawData(head.data(), qsizetype(head.size()));
    QBuffer buffer(&bytes);
    const bool isDrawn = isModel(name) || QImageReader(&buffer).canRead();
    if (isText(head)) {
        showText(qs(head));
        if (!isDrawn) return;
    }
    if (!isDrawn) return words_->setText(words_->text() + tr(": only the game reads it"));
    working_ = jobs_.start<Drawn>(
        tr("Drawing %1").arg(name_), this, std::move(draw),
        [this, words = words_->text(), shown = name_](const Drawn& made) {
            if (shown != name_) return;
            words_->setText(words + ", " + made.words);
            image_ = made.picture;
            if (image_.isNull()) return;
            text_->hide(), picture_->show();
            this->draw();
        },
        [this, shown = name_](const QString& problem) {
            if (shown == name_) words_->setText(name_ + ": " + problem);
        },
        Urgency::Shown);
}

void FileLook::draw() {
    if (image_.isNull()) return;
    const double ratio = devicePixelRatioF();
    const QSize room = picture_->size() * ratio;
    // Small pictures stay as they are: their pixels are what is looked at.
    const bool smaller = image_.width() < room.width() && image_.height() < room.height();
    QPixmap pixels = QPixmap::fromImage(
        smaller ? image_ : image_.scaled(room, Qt::KeepAspectRatio, Qt::SmoothTransformation));
    pixels.setDevicePixelRatio(ratio);
    picture_->setPixmap(pixels);
}

void FileLook::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    draw();
}

} // namespace zl::app
