// A piece in two sizes in the window: brought in together, held against each other, picked on either.
#include "desk.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSlider>
#include <QWheelEvent>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

Model coat(double wide) {
    Model model = shapes::modelOf(shapes::sphere(48, 24, 0.4), "coat");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    for (auto& p : mesh->positions) p = glm::vec3(wide * p.x, p.y + 1, p.z);
    model.meshes[0] = mesh;
    return model;
}

Model lessOne(Model model) {
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->indices.resize(mesh->indices.size() - 3);
    --mesh->runs.back().triangleCount;
    model.meshes[0] = mesh;
    return model;
}

QString fileIn(Desk& desk, const Model& model, const char* name) {
    writeAllOrNone(desk.folder.path(), formats::writeGlb(model, {name}, nullptr));
    return QString::fromStdString((desk.folder / (std::string(name) + ".glb")).string());
}

/// Shows both sizes: `shown` is 3 where one can be blended between them.
void openBoth(Desk& desk, std::size_t shown = 3) {
    REQUIRE(desk.idle());
    desk.session().editCrossing("open", "Coat", "fellmark", [](project::Crossing&) {});
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Coat", "fellmark");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.window->workbench().setStage(steps::Stage::Shape);
    desk.click("mode-sizes");
    REQUIRE(waitFor([&] {
        const auto scene = desk.window->workbench().view().scene();
        return scene && objectCount(scene->model) == shown && desk.window->workbench().isSettled();
    }));
}

} // namespace

TEST_CASE("two sizes brought in together are one piece; what is picked on one is picked on both and cut out of both") {
    Desk desk;
    const auto before = desk.session().project().pieces.size();
    desk.session().bringIn(QStringList{fileIn(desk, coat(1), "coat_slim"), fileIn(desk, coat(1.4), "coat_broad")});
    REQUIRE(desk.session().project().pieces.size() == before + 1);
    CHECK(desk.session().project().piece("Coat")->sizes() == std::vector<std::string>{"slim", "broad"});
    openBoth(desk);
    CHECK(desk.find<QLabel>("sizesVerdict")->text().contains("are alike"));
    auto& bench = desk.window->workbench();
    auto& view = bench.view();
    desk.click("mode-faces");
    desk.find<QComboBox>("pickTakes")->setCurrentIndex(1);
    // The broad one stands on the right.
    const double away = 1.3 * 0.8 * 1.4;
    QTest::mouseClick(&view, Qt::LeftButton, {}, view.onScreen({away, 1, 0.4}).toPoint() + QPoint(3, 4));
    for (int i = 0; i < 3; ++i) desk.click("pickGrow");
    const auto& slim = desk.session().state("Coat", "fellmark").evaluation.model;
    const std::size_t count = bench.selected().in(slim).count();
    CHECK(count > 30); // on the slim one's own faces
    desk.click("cutOut");
    REQUIRE(desk.idle());
    const auto& state = desk.session().state("Coat", "fellmark");
    REQUIRE(state.others.size() == 1);
    for (const Model* model : {&state.evaluation.model, &state.others[0].evaluation.model}) {
        REQUIRE(objectCount(*model) == 2);
        CHECK(model->meshes[std::size_t(model->nodes.back().mesh)]->triangleCount() == count);
    }
    REQUIRE(waitFor([&] { return objectCount(view.scene()->model) == 6; }));
    // Blended wholly to broad, the middle one is as wide as the broad one.
    desk.find<QSlider>("sizesSlider")->setValue(100);
    REQUIRE(waitFor([&] { return bench.isSettled(); }));
    CHECK(state.report.rule("twins-equal")->state == platform::State::Fits);
    desk.click("mode-sizes");
    REQUIRE(waitFor([&] { return bench.isSettled() && objectCount(view.scene()->model) == 2; }));
}

TEST_CASE("sizes that differ are told at once: which object, which counts, and where") {
    Desk desk;
    desk.session().bringIn(QStringList{fileIn(desk, coat(1), "coat_slim"), fileIn(desk, lessOne(coat(1.4)), "coat_broad")});
    openBoth(desk);
    QString verdict = desk.find<QLabel>("sizesVerdict")->text();
    INFO(verdict.toStdString());
    CHECK(verdict.remove(QChar(0x200b)).contains("\"coat\" has 2208 triangles in slim and 2207 triangles in broad"));
    desk.click("sizesDiffer-0");
    CHECK(desk.session().state("Coat", "fellmark").report.rule("twins-equal")->state == platform::State::Broken);
}

TEST_CASE("a size is added on Gather, named as the platform wants it, and undone") {
    Desk desk;
    desk.session().bringIn(QStringList{fileIn(desk, coat(1), "coat")});
    const QString broad = fileIn(desk, coat(1.4), "wide");
    REQUIRE(desk.idle());
    desk.session().editCrossing("open", "Coat", "fellmark", [](project::Crossing&) {});
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Coat", "fellmark");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    CHECK(desk.find<QPushButton>("addSize")->text().trimmed() == "Add the broad size…");
    desk::answerDialog(broad);
    desk.click("addSize");
    REQUIRE(waitFor([&] { return desk.session().project().piece("Coat")->sources.size() == 2; }));
    CHECK(desk.session().project().piece("Coat")->sizes() == std::vector<std::string>{"slim", "broad"});
    REQUIRE(desk.idle());
    CHECK(desk.session().state("Coat", "fellmark").others.size() == 1);
    auto* permission = desk.find<QComboBox>("sourcePermission"); // the wheel scrolls what it lies on
    const QPointF middle(permission->rect().center());
    QWheelEvent turned(middle, permission->mapToGlobal(middle), {}, {0, -120}, {}, {}, Qt::NoScrollPhase, false);
    QCoreApplication::sendEvent(permission, &turned);
    CHECK(permission->currentIndex() == int(project::Permission::AskFirst));
    CHECK_FALSE(permission->hasFocus());
    desk.session().undo().undo();
    CHECK(desk.session().project().piece("Coat")->sizes() == std::vector<std::string>{""});
}

TEST_CASE("a kept selection that does not hold on the other size is carried over once somebody has looked at it") {
    Desk desk;
    Model broad = shapes::modelOf(shapes::sphere(40, 20, 0.4), "coat");
    auto mesh = std::make_shared<Mesh>(*broad.meshes[0]);
    for (auto& p : mesh->positions) p = glm::vec3(1.4f * p.x, p.y + 1, p.z);
    broad.meshes[0] = mesh;
    desk.session().bringIn(QStringList{fileIn(desk, coat(1), "coat_slim"), fileIn(desk, broad, "coat_broad")});
    REQUIRE(desk.idle());
    const Model slim = formats::readModel(desk.folder / "coat_slim.glb");
    selection::Chosen top{{std::vector<char>(slim.meshes[0]->triangleCount(), 0)}};
    for (std::size_t t = 0; t < top.faces[0].size(); ++t)
        top.faces[0][t] = slim.meshes[0]->positions[slim.meshes[0]->indices[3 * t]].y > 1.2;
    desk.session().editPiece("keep", "Coat", [&](project::Piece& piece) {
        piece.selections = {{"hood", selection::stored(slim, top)}};
    });
    openBoth(desk, 2);
    desk.session().editCrossing("cut", "Coat", "fellmark", [](project::Crossing& crossing) {
        crossing.recipe = {{"cut-out", true,
                            steps::makeStep("cut-out", {{"faces", {{{"named", "hood"}}}}, {"name", "hood"}})->params()}};
    });
    REQUIRE(desk.idle());
    const auto& state = desk.session().state("Coat", "fellmark");
    CHECK(objectCount(state.others[0].evaluation.model) == 1); // the step says that it does not hold
    CHECK(state.evaluation.outcomes[0].problem.find("numbered otherwise") != std::string::npos);
    const auto before = desk.session().project().piece("Coat")->selections[0].selection;
    desk.click("carryOver-hood");
    REQUIRE(waitFor([&] { return desk.window->findChild<QPushButton*>("keepGuess") != nullptr; }));
    REQUIRE(desk.idle());
    CHECK(desk.find<QLabel>("guessCertain")->text().contains("% certain"));
    CHECK_FALSE(desk.window->findChild<QSlider*>("sizesSlider")->isVisible()); // nothing there blends
    CHECK(desk.session().project().piece("Coat")->selections[0].selection == before); // never silently
    CHECK_FALSE(desk.window->workbench().view().litFaces().empty());
    desk.click("dropGuess");
    REQUIRE(desk.idle());
    CHECK(desk.session().project().piece("Coat")->selections[0].selection == before);
    desk.click("carryOver-hood");
    REQUIRE(waitFor([&] { return desk.window->findChild<QPushButton*>("keepGuess") != nullptr; }));
    REQUIRE(desk.idle());
    desk.find<QPushButton>("keepGuess")->setFocus();
    desk.click("keepGuess");
    REQUIRE(desk.idle());
    const QWidget* card = desk.find<SizesCard>("sizes"); // the keyboard stays where it was
    CHECK((QApplication::focusWidget() == card || card->isAncestorOf(QApplication::focusWidget())));
    CHECK(objectCount(state.others[0].evaluation.model) == 2);
    CHECK(state.evaluation.outcomes[0].problem.empty());
    desk.session().undo().undo();
    CHECK(desk.session().project().piece("Coat")->selections[0].selection == before);
}
