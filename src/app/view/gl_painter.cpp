#include "app/view/gl_painter.h"

#include "app/view/gl_matrix.h"

#include <cstddef>

#include <QOpenGLFunctions>

namespace zl::app {

namespace {

const char* solidVertex = R"(#version 330 core
layout(location = 0) in vec3 position; layout(location = 1) in vec3 normal; layout(location = 2) in vec2 uv; layout(location = 3) in float heat;
uniform mat4 toClip, placing;
out vec3 at; out vec3 facing; out vec2 texel; out float warmth;
void main() {
    vec4 world = placing * vec4(position, 1.0);
    at = world.xyz; facing = mat3(placing) * normal; texel = uv; warmth = heat;
    gl_Position = toClip * world;
})";

const char* solidFragment = R"(#version 330 core
in vec3 at; in vec3 facing; in vec2 texel; in float warmth;
uniform vec4 colour, tint, grid; uniform vec3 eye, above, below; uniform float gloss, opacity; uniform bool textured, heated, wired, faceted, lit; uniform sampler2D picture;
out vec4 pixel;
vec3 scale(float t) { // dark blue, teal, green, yellow: brighter means more, also without colour vision
    vec3 a = vec3(0.24, 0.29, 0.54), b = vec3(0.13, 0.57, 0.55), c = vec3(0.48, 0.77, 0.38), d = vec3(0.97, 0.87, 0.20);
    return t < 0.333 ? mix(a, b, t * 3.0) : t < 0.667 ? mix(b, c, t * 3.0 - 1.0) : mix(c, d, t * 3.0 - 2.0);
}
float edges() { // how near to where blocks meet, along the axes that the face runs on
    vec3 cell = (at - grid.xyz) / grid.w, wide = fwidth(cell), off = abs(fract(cell - 0.5) - 0.5);
    vec3 near = 1.0 - smoothstep(0.4, 1.4, off / max(wide, 1e-6));
    near *= step(1e-4, wide) * clamp(0.35 / max(wide, 1e-6) - 0.7, 0.0, 1.0); // none on the face itself, or too fine
    return max(near.x, max(near.y, near.z));
}
void main() {
    if (wired) { pixel = vec4(colour.rgb, opacity); return; }
    vec3 base = colour.rgb;
    if (textured) base *= texture(picture, texel).rgb;
    if (heated) base = scale(clamp(warmth, 0.0, 1.0));
    if (grid.w > 0.0) base *= 1.0 - 0.42 * edges();
    base = mix(base, tint.rgb, tint.a);
    if (lit) { pixel = vec4(base, opacity); return; }
    vec3 toEye = normalize(eye - at), n = normalize(faceted ? cross(dFdx(at), dFdy(at)) : facing);
    if (dot(n, toEye) < 0.0) n = -n;
    vec3 right = normalize(cross(vec3(0.0, 1.0, 0.0), toEye) + vec3(1e-5, 0.0, 0.0));
    vec3 key = normalize(-0.5 * right + vec3(0.0, 0.9, 0.0) + 0.6 * toEye);
    // A key light, and the sky above and the floor below in their colours.
    vec3 light = vec3(0.60 * max(dot(n, key), 0.0)) + 0.46 * mix(below, above, 0.5 + 0.5 * n.y);
    float shine = gloss * pow(max(dot(reflect(-key, n), toEye), 0.0), mix(8.0, 60.0, gloss));
    pixel = vec4(base * light + shine, opacity);
})";

const char* flatVertex = R"(#version 330 core
layout(location = 0) in vec3 position; uniform mat4 toClip;
void main() { gl_Position = toClip * vec4(position, 1.0); })";
const char* flatFragment = R"(#version 330 core
uniform vec4 colour; uniform float stripes; uniform int hatch; out vec4 pixel;
float band(float at) { return mod(at, stripes) / stripes; }
void main() { // with stripes, bands, that many pixels apart
    vec2 p = gl_FragCoord.xy;
    bool strong = stripes <= 0.0;
    if (!strong) {
        float rising = band(p.y - p.x), falling = band(p.x + p.y), level = band(p.y), upright = band(p.x);
        strong = hatch == 1   ? rising < 0.36
                 : hatch == 3 ? level < 0.36
                 : hatch == 4 ? upright < 0.36
                 : hatch == 5 ? rising < 0.25 || falling < 0.25
                 : hatch == 6 ? level < 0.4 && upright < 0.4
                 : hatch == 7 ? level < 0.25 || upright < 0.25
                              : falling < 0.36;
    }
    pixel = vec4(colour.rgb, strong ? colour.a : (hatch == 2 ? 0.35 : 0.62) * colour.a);
})";
const char* shadowVertex = R"(#version 330 core
uniform mat4 toClip; uniform vec4 square; out vec2 place;
void main() { place = vec2(gl_VertexID & 1, gl_VertexID >> 1); vec2 xz = mix(square.xy, square.zw, place); gl_Position = toClip * vec4(xz.x, 0.0, xz.y, 1.0); })";
const char* shadowFragment = R"(#version 330 core
in vec2 place; uniform sampler2D dark; uniform vec4 colour; out vec4 pixel;
void main() { pixel = vec4(colour.rgb, colour.a * texture(dark, place).r); })";
const char* skyVertex = R"(#version 330 core
out float high;
void main() { vec2 p = vec2((gl_VertexID & 1) * 4 - 1, (gl_VertexID & 2) * 2 - 1); high = p.y * 0.5 + 0.5; gl_Position = vec4(p, 0.999999, 1.0); })";
const char* skyFragment = R"(#version 330 core
in float high; uniform vec4 top, bottom; out vec4 pixel; void main() { pixel = mix(bottom, top, clamp(high, 0.0, 1.0)); })";

QOpenGLTexture::WrapMode wrapMode(Beyond beyond) {
    switch (beyond) {
    case Beyond::Mirror:
        return QOpenGLTexture::MirroredRepeat;
    case Beyond::Clamp:
        return QOpenGLTexture::ClampToEdge;
    case Beyond::Repeat:
        break;
    }
    return QOpenGLTexture::Repeat;
}
/// Colours that are told apart side by side: hues a golden angle apart, in two lightnesses, for eyes that
/// tell hues badly.
glm::vec4 groupColour(int material) {
    if (material < 0) return {0.6f, 0.6f, 0.6f, 1};
    const QColor colour = QColor::fromHsv((40 + material * 137) % 360, 130, material % 2 ? 150 : 220);
    return glColour(colour);
}
QVector4D qt(const glm::vec4& v) {
    return {v.x, v.y, v.z, v.w};
}

} // namespace

GlMesh::GlMesh(const GlGeometry& geometry) : indexCount_(geometry.indices.size()) {
    auto* gl = QOpenGLContext::currentContext()->functions();
    array_.create();
    array_.bind();
    corners_.create();
    corners_.bind();
    corners_.allocate(geometry.corners.data(), int(geometry.corners.size() * sizeof(GlCorner)));
    indices_.create();
    indices_.bind();
    indices_.allocate(geometry.indices.data(), int(geometry.indices.size() * 4));
    const auto attribute = [&](unsigned place, int size, std::size_t offset) {
        gl->glEnableVertexAttribArray(place);
        gl->glVertexAttribPointer(place, size, GL_FLOAT, GL_FALSE, sizeof(GlCorner),
                                  reinterpret_cast<const void*>(offset));
    };
    attribute(0, 3, offsetof(GlCorner, position));
    attribute(1, 3, offsetof(GlCorner, normal));
    attribute(2, 2, offsetof(GlCorner, uv));
    attribute(3, 1, offsetof(GlCorner, heat));
    array_.release();
    std::vector<std::tuple<const Pixels*, Sampler, std::shared_ptr<QOpenGLTexture>>> textures;
    const auto made = [&](const Pixels* pixels, const Sampler& sampler) -> std::shared_ptr<QOpenGLTexture>& {
        for (auto& [of, by, texture] : textures)
            if (of == pixels && by == sampler) return texture;
        return std::get<2>(textures.emplace_back(pixels, sampler, nullptr));
    };
    for (const auto& range : geometry.ranges) {
        std::shared_ptr<QOpenGLTexture> texture;
        if (range.picture && range.picture->width > 0) {
            auto& known = made(range.picture.get(), range.sampler);
            if (!known) {
                const QImage image(range.picture->rgba.data(), range.picture->width, range.picture->height,
                                   QImage::Format_RGBA8888);
                // Small on screen, and software GL pays for every texel it reads.
                const QImage fitting =
                    std::max(image.width(), image.height()) > 2048
                        ? image.scaled(2048, 2048, Qt::KeepAspectRatio, Qt::SmoothTransformation)
                        : image;
                known = std::make_shared<QOpenGLTexture>(fitting, QOpenGLTexture::GenerateMipMaps);
                known->setMinMagFilters(QOpenGLTexture::LinearMipMapLinear, QOpenGLTexture::Linear);
                if (!range.sampler.smooth) known->setMagnificationFilter(QOpenGLTexture::Nearest);
                known->setWrapMode(QOpenGLTexture::DirectionS, wrapMode(range.sampler.across));
                known->setWrapMode(QOpenGLTexture::DirectionT, wrapMode(range.sampler.down));
            }
            texture = known;
        }
        ranges_.push_back({range.first, range.count, range.colour, texture, range.material, range.lit});
    }
}

void GlMesh::moveCorners(const std::vector<GlCorner>& corners) {
    corners_.bind();
    corners_.write(0, corners.data(), int(corners.size() * sizeof(GlCorner)));
    corners_.release();
}

bool GlPainter::start(QString* problem) {
    if (!initializeOpenGLFunctions()) {
        *problem = QObject::tr("This computer offers no OpenGL 3.3; the view cannot be drawn.");
        return false;
    }
    const auto build = [&](QOpenGLShaderProgram& program, const char* vertex, const char* fragment) {
        const bool built = program.addShaderFromSourceCode(QOpenGLShader::Vertex, vertex) &&
                           program.addShaderFromSourceCode(QOpenGLShader::Fragment, fragment) &&
                           program.link();
        if (!built) *problem = program.log();
        return built;
    };
    flatArray_.create();
    flatBuffer_.create();
    return build(solid_, solidVertex, solidFragment) && build(flat_, flatVertex, flatFragment) &&
           build(sky_, skyVertex, skyFragment) && build(shadow_, shadowVertex, shadowFragment);
}

void GlPainter::draw(GlMesh& mesh, const Look& look, std::size_t first, std::size_t count) {
    const std::size_t last =
        count == ~std::size_t(0) ? mesh.indexCount_ : std::min(mesh.indexCount_, first + count);
    solid_.bind();
    solid_.setUniformValue("toClip", qt(look.toClip));
    solid_.setUniformValue("placing", qt(look.placing));
    solid_.setUniformValue("eye", QVector3D(look.eye.x, look.eye.y, look.eye.z));
    solid_.setUniformValue("above", QVector3D(look.above.x, look.above.y, look.above.z));
    solid_.setUniformValue("below", QVector3D(look.below.x, look.below.y, look.below.z));
    solid_.setUniformValue("gloss", look.gloss);
    solid_.setUniformValue("opacity", look.opacity);
    solid_.setUniformValue("heated", look.heat);
    solid_.setUniformValue("wired", look.wire);
    solid_.setUniformValue("faceted", look.faces == Faces::Flat);
    solid_.setUniformValue("tint", qt(look.tint));
    solid_.setUniformValue("grid", qt(look.grid));
    solid_.setUniformValue("picture", 0);
    if (look.opacity < 1) {
        glEnable(GL_BLEND);
        glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE,
                            GL_ONE_MINUS_SRC_ALPHA); // the view itself stays opaque
    }
    if (look.wire) {
        glPolygonMode(GL_FRONT_AND_BACK, GL_LINE);
        glEnable(GL_POLYGON_OFFSET_LINE);
        glPolygonOffset(-1, -1);
    }
    mesh.array_.bind();
    for (const auto& range : mesh.ranges_) {
        const std::size_t from = std::max(first, range.first), to = std::min(last, range.first + range.count);
        if (from >= to) continue;
        const bool pictured = range.texture && look.faces == Faces::Pictured;
        const QVector4D colour = look.faces == Faces::Pictured ? qt(range.colour)
                                 : look.faces == Faces::Groups ? qt(groupColour(range.material))
                                                               : QVector4D(0.72f, 0.70f, 0.66f, 1);
        solid_.setUniformValue("colour", look.wire ? qt(look.tint) : colour);
        solid_.setUniformValue("textured", pictured);
        solid_.setUniformValue("lit", pictured && range.lit && !look.heat);
        if (pictured) range.texture->bind(0);
        glDrawElements(GL_TRIANGLES, GLsizei(to - from), GL_UNSIGNED_INT,
                       reinterpret_cast<const void*>(from * 4));
        if (pictured) range.texture->release();
    }
    mesh.array_.release();
    if (look.wire) {
        glPolygonMode(GL_FRONT_AND_BACK, GL_FILL);
        glDisable(GL_POLYGON_OFFSET_LINE);
    }
    glDisable(GL_BLEND);
    solid_.release();
}

void GlPainter::flat(unsigned mode, const std::vector<glm::vec3>& points, const glm::mat4& toClip,
                     const glm::vec4& colour, float stripes, int hatch) {
    if (points.empty()) return;
    flat_.bind();
    flat_.setUniformValue("toClip", qt(toClip));
    flat_.setUniformValue("colour", qt(colour));
    flat_.setUniformValue("stripes", stripes);
    flat_.setUniformValue("hatch", hatch);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE,
                        GL_ONE_MINUS_SRC_ALPHA); // the view itself stays opaque
    flatArray_.bind();
    flatBuffer_.bind();
    flatBuffer_.allocate(points.data(), int(points.size() * sizeof(glm::vec3)));
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, sizeof(glm::vec3), nullptr);
    glDrawArrays(mode, 0, GLsizei(points.size()));
    flatBuffer_.release();
    flatArray_.release();
    glDisable(GL_BLEND);
    flat_.release();
}

void GlPainter::lines(const std::vector<glm::vec3>& ends, const glm::mat4& toClip, const glm::vec4& colour,
                      float width) {
    glLineWidth(width);
    flat(GL_LINES, ends, toClip, colour);
    glLineWidth(1);
}

void GlPainter::triangles(const std::vector<glm::vec3>& corners, const glm::mat4& toClip,
                          const glm::vec4& colour, float stripes, int hatch) {
    flat(GL_TRIANGLES, corners, toClip, colour, stripes, hatch);
}

void GlPainter::shade(const FloorShadow& shadow, const glm::mat4& toClip, const glm::vec4& colour) {
    if (shadow.edge == 0) return;
    if (shadowOf_ != &shadow || !shadowPicture_) {
        shadowPicture_ = std::make_unique<QOpenGLTexture>(QOpenGLTexture::Target2D);
        shadowPicture_->setFormat(QOpenGLTexture::R8_UNorm);
        shadowPicture_->setSize(shadow.edge, shadow.edge);
        shadowPicture_->setMinMagFilters(QOpenGLTexture::Linear, QOpenGLTexture::Linear);
        shadowPicture_->setWrapMode(QOpenGLTexture::ClampToEdge);
        shadowPicture_->allocateStorage();
        shadowPicture_->setData(QOpenGLTexture::Red, QOpenGLTexture::UInt8, shadow.dark.data());
        shadowOf_ = &shadow;
    }
    shadow_.bind();
    shadow_.setUniformValue("toClip", qt(toClip));
    shadow_.setUniformValue("colour", qt(colour));
    shadow_.setUniformValue("square", QVector4D(float(shadow.least.x), float(shadow.least.y),
                                                float(shadow.most.x), float(shadow.most.y)));
    shadow_.setUniformValue("dark", 0);
    shadowPicture_->bind(0);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
    glDepthMask(GL_FALSE);
    flatArray_.bind();
    glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
    flatArray_.release();
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
    shadowPicture_->release();
    shadow_.release();
}

void GlPainter::background(const QColor& top, const QColor& bottom) {
    sky_.bind();
    const auto vector = [](const QColor& c) {
        return QVector4D(float(c.redF()), float(c.greenF()), float(c.blueF()), 1);
    };
    sky_.setUniformValue("top", vector(top));
    sky_.setUniformValue("bottom", vector(bottom));
    glDisable(GL_DEPTH_TEST);
    flatArray_.bind();
    glDrawArrays(GL_TRIANGLES, 0, 3);
    flatArray_.release();
    glEnable(GL_DEPTH_TEST);
    sky_.release();
}

} // namespace zl::app
