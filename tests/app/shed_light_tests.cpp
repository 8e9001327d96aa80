// The shed's light, drawn by the graphics card and by rays: one text, two compilers, the same picture.
#include "desk.h"
#include "support/shapes.h"

#include "app/view/shaded_painter.h"
#include "standins/shed/shed_shading.h"
#include "standins/world/ray_still.h"

#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLExtraFunctions>
#include <QOpenGLFramebufferObject>

#include <random>

using namespace zl;
using namespace zl::standins;

namespace {

/// A picture of gentle waves, so that neighbouring pixels are related as in pictures that people make.
world::Picture waves(int edge, unsigned seed) {
    std::mt19937 random(seed);
    world::Picture out{edge, edge, std::vector<unsigned char>(std::size_t(4) * edge * edge)};
    for (int k = 0; k < 4; ++k) {
        const double across = 1 + random() % 3, down = 1 + random() % 3, turn = double(random() % 628) / 100;
        for (int y = 0; y < edge; ++y)
            for (int x = 0; x < edge; ++x)
                out.rgba[4 * (std::size_t(y) * edge + std::size_t(x)) + std::size_t(k)] =
                    static_cast<unsigned char>(
                        128 + 100 * std::sin(turn + 6.2831853 * (across * x + down * y) / edge));
    }
    return out;
}

/// Normals that lean at most 30 degrees, with the height in alpha.
world::Picture leaning(int edge, unsigned seed) {
    world::Picture out = waves(edge, seed);
    for (std::size_t p = 0; p < out.rgba.size(); p += 4) {
        const glm::vec3 n =
            glm::normalize(glm::vec3((out.rgba[p] - 128) / 250.0f, (out.rgba[p + 1] - 128) / 250.0f, 1.0f));
        for (int k = 0; k < 3; ++k)
            out.rgba[p + std::size_t(k)] = static_cast<unsigned char>(n[k] * 127.5f + 127.5f);
    }
    return out;
}

shed::Asset ballAndFloor() {
    shed::Asset asset;
    for (unsigned seed : {1u, 7u})
        asset.materials.push_back(
            {"wave@metal", {waves(64, seed), leaning(64, seed + 1), waves(64, seed + 2)}});
    const Mesh ball = shapes::sphere(24, 16);
    world::Shape round;
    round.positions = ball.positions, round.indices = ball.indices;
    for (const glm::vec3& p : ball.positions) {
        round.normals.push_back(glm::normalize(p));
        round.uvs.push_back({p.x * 2, p.y * 2 + p.z});
    }
    world::Shape floor = world::boxShape({-2, -1.2f, -2}, {2, -1, 2});
    world::makeFlat(floor);
    for (const glm::vec3& p : floor.positions) floor.uvs.push_back({p.x + p.y, p.z - p.y});
    floor.uvs.resize(floor.positions.size());
    asset.items = {{"ball", round}, {"floor", floor}};
    asset.materialOf = {0, 1};
    asset.low = {-2, -1.2f, -2}, asset.high = {2, 1, 2};
    return asset;
}

struct Differences {
    std::size_t compared = 0, over = 0;
    int worst = 0;
};

/// Pixels whose neighbours show something too: at an edge the two may disagree on who covers the pixel.
Differences differences(const world::Picture& rays, const QImage& card) {
    Differences out;
    const auto at = [&](int x, int y) {
        return &rays.rgba[4 * (std::size_t(y) * rays.width + std::size_t(x))];
    };
    for (int y = 1; y + 1 < rays.height; ++y)
        for (int x = 1; x + 1 < rays.width; ++x) {
            bool inside = true;
            for (int j = -1; j <= 1; ++j)
                for (int i = -1; i <= 1; ++i) inside = inside && at(x + i, y + j)[3] == 255;
            if (!inside) continue;
            const QColor shown = card.pixelColor(x, y);
            const int by =
                std::max({std::abs(shown.red() - at(x, y)[0]), std::abs(shown.green() - at(x, y)[1]),
                          std::abs(shown.blue() - at(x, y)[2])});
            ++out.compared;
            out.over += by > 3;
            out.worst = std::max(out.worst, by);
        }
    return out;
}

} // namespace

TEST_CASE("the shed's light is the same by the graphics card and by rays") {
    QSurfaceFormat format;
    format.setVersion(3, 3), format.setProfile(QSurfaceFormat::CoreProfile);
    QOpenGLContext context;
    context.setFormat(format);
    REQUIRE(context.create());
    QOffscreenSurface surface;
    surface.setFormat(context.format());
    surface.create();
    REQUIRE(context.makeCurrent(&surface));
    {
        shed::ShedShading shading(ballAndFloor());
        app::ShadedPainter painter;
        QString problem;
        REQUIRE(painter.start(shading, &problem));
        const world::Lens lens = world::lensFor({-2, -1.2f, -2}, {2, 1, 2}, 480, 360);
        const std::vector<world::Drawn> drawn{{0, glm::mat4(1.0f)}, {1, glm::mat4(1.0f)}};
        QOpenGLFramebufferObject target(480, 360, QOpenGLFramebufferObject::CombinedDepthStencil);
        std::vector<double> lightness;
        for (int view = 0; view < 3; ++view)
            for (int light = 0; light < 4; ++light) {
                shading.light = shed::ShedShading::Light(light);
                shading.view = shed::ShedShading::View(view);
                target.bind();
                auto* gl = context.extraFunctions();
                gl->glViewport(0, 0, 480, 360);
                gl->glEnable(GL_DEPTH_TEST);
                gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
                for (const auto& one : drawn) painter.draw(shading, one.item, one.pose, lens);
                target.release();
                const world::Picture rays = world::rayStill(shading, drawn, lens);
                const Differences found = differences(rays, target.toImage());
                INFO("light " << light << ", view " << view << ", worst " << found.worst << ", over "
                              << found.over << " of " << found.compared);
                CHECK(found.compared > 15000);
                // Where the ball hides the floor a pixel may be either's; nothing else may differ.
                CHECK(found.over < found.compared / 500);
                double sum = 0;
                for (std::size_t p = 0; p < rays.rgba.size(); p += 4) sum += rays.rgba[p];
                lightness.push_back(sum);
            }
        CHECK(std::set<double>(lightness.begin(), lightness.begin() + 4).size() == 4); // lights differ
        CHECK(lightness[0] != lightness[4]); // parallax moves things
        CHECK(lightness[8] == lightness[9]); // where relief lies does not hang on the light
    }
    context.doneCurrent();
}
