#include "app/view/shaded_painter.h"

#include "app/view/gl_matrix.h"

#include <cstddef>

namespace zl::app {

using namespace standins::world;

namespace {

constexpr std::size_t mostPictures = 3;

const char* vertex = R"(#version 330 core
layout(location = 0) in vec3 position; layout(location = 1) in vec3 normal; layout(location = 2) in vec3 across; layout(location = 3) in vec3 down; layout(location = 4) in vec2 uv;
uniform mat4 toClip, placing;
out vec3 at, facing, wide, tall; out vec2 texel;
void main() {
    vec4 world = placing * vec4(position, 1.0);
    mat3 turn = mat3(placing);
    at = world.xyz; facing = turn * normal; wide = turn * across; tall = turn * down; texel = uv;
    gl_Position = toClip * world;
})";

const char* fragmentHead = R"(#version 330 core
in vec3 at, facing, wide, tall; in vec2 texel;
uniform sampler2D first, second, third; uniform vec3 levels; uniform vec4 eye, own;
out vec4 pixel;
vec4 sampled(int which, vec2 uv) {
    return which == 0 ? textureLod(first, uv, levels.x) : which == 1 ? textureLod(second, uv, levels.y) : textureLod(third, uv, levels.z);
}
)";
const char* fragmentTail = "\nvoid main() { pixel = lit(at, facing, wide, tall, texel); }";

std::shared_ptr<QOpenGLTexture> textureOf(const PictureLevels& levels) {
    auto out = std::make_shared<QOpenGLTexture>(QOpenGLTexture::Target2D);
    out->setFormat(QOpenGLTexture::RGBA8_UNorm);
    out->setSize(levels.pictures[0].width, levels.pictures[0].height);
    out->setMipLevels(int(levels.pictures.size()));
    out->allocateStorage(QOpenGLTexture::RGBA, QOpenGLTexture::UInt8);
    for (std::size_t k = 0; k < levels.pictures.size(); ++k)
        out->setData(int(k), QOpenGLTexture::RGBA, QOpenGLTexture::UInt8, levels.pictures[k].rgba.data());
    out->setMinMagFilters(QOpenGLTexture::LinearMipMapLinear, QOpenGLTexture::Linear);
    out->setWrapMode(QOpenGLTexture::Repeat);
    return out;
}

} // namespace

bool ShadedPainter::start(const Shading& shading, QString* problem) {
    if (!initializeOpenGLFunctions()) {
        *problem = QObject::tr("This computer offers no OpenGL 3.3; the view cannot be drawn.");
        return false;
    }
    QByteArray fragment = fragmentHead;
    for (const Shading::Value& value : shading.values())
        fragment += QByteArray("uniform vec4 ") + value.name + ";\n";
    fragment += QByteArray(shading.text().data(), qsizetype(shading.text().size())) + fragmentTail;
    if (!program_.addShaderFromSourceCode(QOpenGLShader::Vertex, vertex) ||
        !program_.addShaderFromSourceCode(QOpenGLShader::Fragment, fragment) || !program_.link()) {
        *problem = program_.log();
        return false;
    }
    for (const ShadedItem& item : shading.items()) upload(item);
    return true;
}

void ShadedPainter::upload(const ShadedItem& item) {
    auto made = std::make_unique<Uploaded>();
    made->array.create();
    made->array.bind();
    made->corners.create();
    made->corners.bind();
    made->corners.allocate(item.corners.data(), int(item.corners.size() * sizeof(ShadedCorner)));
    made->indices.create();
    made->indices.bind();
    made->indices.allocate(item.indices.data(), int(item.indices.size() * 4));
    const auto attribute = [&](unsigned place, int size, std::size_t offset) {
        glEnableVertexAttribArray(place);
        glVertexAttribPointer(place, size, GL_FLOAT, GL_FALSE, sizeof(ShadedCorner),
                              reinterpret_cast<const void*>(offset));
    };
    attribute(0, 3, offsetof(ShadedCorner, position));
    attribute(1, 3, offsetof(ShadedCorner, normal));
    attribute(2, 3, offsetof(ShadedCorner, across));
    attribute(3, 3, offsetof(ShadedCorner, down));
    attribute(4, 2, offsetof(ShadedCorner, uv));
    made->array.release();
    for (const auto& picture : item.pictures) {
        auto& texture = textures_[picture.get()];
        if (!texture && picture && !picture->pictures.empty()) texture = textureOf(*picture);
        made->pictures.push_back(texture);
    }
    items_.push_back(std::move(made));
}

void ShadedPainter::draw(const Shading& shading, int item, const glm::mat4& pose, const Lens& lens) {
    const ShadedItem& shown = shading.items()[std::size_t(item)];
    Uploaded& uploaded = *items_[std::size_t(item)];
    const auto vector = [](const glm::vec4& v) { return QVector4D(v.x, v.y, v.z, v.w); };
    program_.bind();
    for (const Shading::Value& value : shading.values())
        program_.setUniformValue(value.name, vector(value.value));
    const glm::vec3 levels = shown.levelsFrom(lens, pose);
    program_.setUniformValue("levels", QVector3D(levels.x, levels.y, levels.z));
    program_.setUniformValue("eye", vector(glm::vec4(lens.eye, 1)));
    program_.setUniformValue("own", vector(shown.own));
    program_.setUniformValue("placing", qt(pose));
    program_.setUniformValue("toClip", qt(lens.projection * lens.view));
    constexpr const char* names[mostPictures] = {"first", "second", "third"};
    const std::size_t count = std::min(mostPictures, uploaded.pictures.size());
    for (std::size_t k = 0; k < count; ++k) {
        program_.setUniformValue(names[k], int(k));
        if (uploaded.pictures[k]) uploaded.pictures[k]->bind(unsigned(k));
    }
    uploaded.array.bind();
    glDrawElements(GL_TRIANGLES, GLsizei(shown.indices.size()), GL_UNSIGNED_INT, nullptr);
    uploaded.array.release();
    for (std::size_t k = 0; k < count; ++k)
        if (uploaded.pictures[k]) uploaded.pictures[k]->release(unsigned(k));
    program_.release();
}

} // namespace zl::app
