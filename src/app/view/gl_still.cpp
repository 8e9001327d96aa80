#include "app/view/gl_still.h"

#include <QOpenGLContext>

namespace zl::app {

namespace {

const char* stillVertex = R"(#version 330 core
void main() { vec2 p = vec2((gl_VertexID & 1) * 4 - 1, (gl_VertexID & 2) * 2 - 1); gl_Position = vec4(p, 0.0, 1.0); })";

const char* stillFragment = R"(#version 330 core
uniform sampler2D colours, depths;
uniform int times; uniform vec2 size; uniform vec4 lens; uniform float reach;
out vec4 pixel;
const int taps = 14;
float depthAt(vec2 at) { return texelFetch(depths, ivec2(clamp(at, vec2(0.0), size - 1.0)) * times, 0).r; }
vec3 placeAt(vec2 at, float depth) { // in the eye's space; lens: 1/P00, 1/P11, P22, P32
    float z = -lens.w / (depth * 2.0 - 1.0 + lens.z);
    vec2 ndc = (at + 0.5) / size * 2.0 - 1.0;
    return vec3(ndc * lens.xy * -z, z);
}
void main() {
    vec2 here = floor(gl_FragCoord.xy);
    vec3 sum = vec3(0.0); float nearest = 1.0;
    for (int y = 0; y < times; ++y) for (int x = 0; x < times; ++x) {
        ivec2 at = ivec2(here) * times + ivec2(x, y);
        sum += texelFetch(colours, at, 0).rgb;
        nearest = min(nearest, texelFetch(depths, at, 0).r);
    }
    sum /= float(times * times);
    gl_FragDepth = nearest;
    float shade = 1.0;
    float depth = depthAt(here);
    if (reach > 0.0 && depth < 1.0) {
        vec3 p = placeAt(here, depth);
        vec3 right = placeAt(here + vec2(1, 0), depthAt(here + vec2(1, 0))) - p, left = p - placeAt(here - vec2(1, 0), depthAt(here - vec2(1, 0)));
        vec3 up = placeAt(here + vec2(0, 1), depthAt(here + vec2(0, 1))) - p, down = p - placeAt(here - vec2(0, 1), depthAt(here - vec2(0, 1)));
        vec3 n = normalize(cross(abs(right.z) < abs(left.z) ? right : left, abs(up.z) < abs(down.z) ? up : down));
        float wide = reach / (-p.z * lens.y) * size.y * 0.5; // of the reach, in pixels
        if (wide > 1.5) {
            float turn = fract(52.9829189 * fract(dot(here, vec2(0.06711056, 0.00583715)))) * 6.2831853;
            float sumOver = 0.0;
            for (int i = 0; i < taps; ++i) {
                float share = (float(i) + 0.5) / float(taps), a = turn + float(i) * 2.3999632;
                vec2 at = here + vec2(cos(a), sin(a)) * wide * share;
                float d = depthAt(at);
                if (d >= 1.0) continue;
                vec3 v = placeAt(floor(at), d) - p;
                float far = dot(v, v), fade = max(0.0, 1.0 - far / (reach * reach));
                sumOver += fade * max(0.0, dot(v, n) - 0.02 * reach) / (sqrt(far) + 0.02 * reach);
            }
            shade = clamp(1.0 - 0.85 * sumOver / float(taps), 0.35, 1.0);
        }
    }
    pixel = vec4(sum * shade, 1.0);
})";

} // namespace

GlStill::GlStill(QSize size, int times) : size_(size), times_(times) {
    initializeOpenGLFunctions();
    const auto texture = [&](unsigned& name, int inside, unsigned format, unsigned type) {
        glGenTextures(1, &name);
        glBindTexture(GL_TEXTURE_2D, name);
        glTexImage2D(GL_TEXTURE_2D, 0, inside, drawn().width(), drawn().height(), 0, format, type, nullptr);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
    };
    texture(colour_, GL_RGBA8, GL_RGBA, GL_UNSIGNED_BYTE);
    texture(depth_, GL_DEPTH24_STENCIL8, GL_DEPTH_STENCIL, GL_UNSIGNED_INT_24_8);
    glBindTexture(GL_TEXTURE_2D, 0);
    glGenFramebuffers(1, &large_);
    glBindFramebuffer(GL_FRAMEBUFFER, large_);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, colour_, 0);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_STENCIL_ATTACHMENT, GL_TEXTURE_2D, depth_, 0);
    done_ = std::make_unique<QOpenGLFramebufferObject>(size, QOpenGLFramebufferObject::CombinedDepthStencil);
    array_.create();
    fine_ = program_.addShaderFromSourceCode(QOpenGLShader::Vertex, stillVertex) &&
            program_.addShaderFromSourceCode(QOpenGLShader::Fragment, stillFragment) && program_.link();
}

GlStill::~GlStill() {
    glDeleteFramebuffers(1, &large_);
    glDeleteTextures(1, &colour_);
    glDeleteTextures(1, &depth_);
}

void GlStill::bind() {
    glBindFramebuffer(GL_FRAMEBUFFER, large_);
    glViewport(0, 0, drawn().width(), drawn().height());
}

void GlStill::finish(const glm::mat4& projection, float reach, int firstRow, int rows) {
    done_->bind();
    glViewport(0, 0, size_.width(), size_.height());
    glEnable(GL_SCISSOR_TEST);
    glScissor(0, firstRow, size_.width(), rows);
    glDisable(GL_BLEND);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_ALWAYS);
    program_.bind();
    glActiveTexture(GL_TEXTURE1);
    glBindTexture(GL_TEXTURE_2D, depth_);
    glActiveTexture(GL_TEXTURE0);
    glBindTexture(GL_TEXTURE_2D, colour_);
    program_.setUniformValue("colours", 0);
    program_.setUniformValue("depths", 1);
    program_.setUniformValue("times", times_);
    program_.setUniformValue("size", QVector2D(float(size_.width()), float(size_.height())));
    program_.setUniformValue(
        "lens", QVector4D(1 / projection[0][0], 1 / projection[1][1], projection[2][2], projection[3][2]));
    program_.setUniformValue("reach", fine_ ? reach : 0.0f);
    array_.bind();
    glDrawArrays(GL_TRIANGLES, 0, 3);
    array_.release();
    program_.release();
    glActiveTexture(GL_TEXTURE1);
    glBindTexture(GL_TEXTURE_2D, 0);
    glActiveTexture(GL_TEXTURE0);
    glBindTexture(GL_TEXTURE_2D, 0);
    glDepthFunc(GL_LESS);
    glDisable(GL_SCISSOR_TEST);
    glFinish();
    done_->release();
}

void GlStill::copyTo(unsigned framebuffer) {
    glBindFramebuffer(GL_READ_FRAMEBUFFER, done_->handle());
    glBindFramebuffer(GL_DRAW_FRAMEBUFFER, framebuffer);
    glBlitFramebuffer(0, 0, size_.width(), size_.height(), 0, 0, size_.width(), size_.height(),
                      GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT, GL_NEAREST);
    glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
}

} // namespace zl::app
