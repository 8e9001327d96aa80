#pragma once
#include "app/main_window.h"
#include "app/pages/find_box.h"
#include "app/pages/crossing_button.h"
#include "app/pages/plan_panel.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include "core/formats/format.h"
#include "core/project/autosave.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <QAbstractButton>
#include <QElapsedTimer>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QLabel>
#include <QFileDialog>
#include <QLineEdit>
#include <QMimeData>
#include <QSettings>
#include <QTest>
#include <QTimer>

// A window to be driven by mouse and keys as a person would.
namespace desk {

using namespace zl;
using namespace zl::app;

inline bool waitFor(const std::function<bool()>& done, int milliseconds = 60000) {
    QElapsedTimer clock;
    clock.start();
    while (!done()) {
        if (clock.elapsed() > milliseconds) return false;
        QTest::qWait(10);
    }
    return true;
}

/// Whether a label that can be seen holds `text`.
inline bool showsText(const QWidget& window, const QString& text) {
    for (auto* label : window.findChildren<QLabel*>())
        if (label->isVisible() && label->text().contains(text)) return true;
    return false;
}

/// What is called so and can be seen, in a moment: forms are made anew, and the old one may still be there.
template <class T>
T* seenIn(QWidget& within, const char* name) {
    INFO(name);
    T* out = nullptr;
    REQUIRE(waitFor(
        [&] {
            for (auto* one : within.findChildren<T*>(name))
                if (one->isVisible()) out = one;
            return out != nullptr;
        },
        3000));
    return out;
}

/// A click of a person on a button within, by its name; counted where that is wanted.
inline void press(QWidget& within, const char* name, int* clicks = nullptr) {
    auto* button = seenIn<QAbstractButton>(within, name);
    INFO(name);
    REQUIRE(button->isEnabled());
    QTest::mouseClick(button, Qt::LeftButton);
    if (clicks) ++*clicks;
}

/// Moves the pointer over `widget` with `held` down. The test library's own moves go through the display
/// server: they come some time later, thinned out, and carry no buttons.
inline void hover(QWidget& widget, QPointF at, Qt::MouseButtons held = Qt::NoButton,
                  Qt::KeyboardModifiers keys = Qt::NoModifier) {
    QMouseEvent move(QEvent::MouseMove, at, widget.mapToGlobal(at), Qt::NoButton, held, keys);
    QApplication::sendEvent(&widget, &move);
}

/// A drag with one button held, as a hand makes it.
inline void drag(QWidget& widget, Qt::MouseButton button, QPoint from, QPoint to,
                 Qt::KeyboardModifiers keys = Qt::NoModifier) {
    QTest::mousePress(&widget, button, keys, from);
    for (int i = 1; i <= 5; ++i) hover(widget, from + (to - from) * i / 5.0, button, keys);
    QTest::mouseRelease(&widget, button, keys, to);
}

/// Drops files or folders on the middle of the window's page; it must have wanted them.
inline void drop(MainWindow& window, const QStringList& paths) {
    QMimeData data;
    QList<QUrl> urls;
    for (const QString& path : paths) urls << QUrl::fromLocalFile(path);
    data.setUrls(urls);
    QDragEnterEvent enter(QPoint(400, 400), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window, &enter);
    CHECK(enter.isAccepted());
    QDropEvent event(QPointF(400, 400), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window, &event);
}

/// Answers the next file dialog with `path`.
inline void answerDialog(const QString& path) {
    QTimer::singleShot(300, qApp, [path] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        REQUIRE(dialog);
        auto* name = dialog->findChild<QLineEdit*>("fileNameEdit");
        REQUIRE(name);
        name->setText(path);
        QTest::keyClick(name, Qt::Key_Return);
    });
}

/// A window on a project of one ball of 20 000 triangles, 32 mm tall, lifted and aside, beside the project.
struct Desk {
    TemporaryFolder folder;
    std::unique_ptr<MainWindow> window;

    explicit Desk(int around = 160, bool fitting = false) {
        QSettings().clear();
        Model ball = shapes::modelOf(shapes::sphere(around, around / 2 + 1, 0.016), "ball");
        ball = moved(ball, glm::translate(glm::dmat4(1.0),
                                          fitting ? glm::dvec3(0, 0.016, 0) : glm::dvec3(0.05, 0.03, 0)));
        writeAllOrNone(folder.path(), formats::writeObj(ball, {"ball"}, nullptr));
        project::Project project;
        project.name = "Bench";
        project.file = folder / "bench.zestloom";
        project.platforms = {"hearthboard", "playmeadow"};
        project::Piece piece;
        piece.name = "Ball";
        piece.sources = {{"ball.obj", "Odd Fennel", "own", project::Permission::OwnWork}};
        piece.crossings = {{"hearthboard", {}}};
        project.pieces = {piece};
        project::save(project);
        window = std::make_unique<MainWindow>();
        window->resize(1280, 800);
        window->show();
        REQUIRE(QTest::qWaitForWindowExposed(window.get()));
        window->activateWindow(); // keys go to the active window, also where there is no window manager
        REQUIRE(QTest::qWaitForWindowActive(window.get()));
        REQUIRE(window->openProject(QString::fromStdString(project.file.string())));
        REQUIRE(idle());
    }
    ~Desk() { window->session().close(); }

    Session& session() { return window->session(); }
    bool idle() {
        return waitFor([&] { return session().jobs().running().isEmpty(); });
    }
    /// Brings a model in from a file `name`.glb, as the piece of that name with a capital, and opens it on a
    /// platform.
    WorkbenchPage& open(const Model& model, const std::string& name, const char* platform) {
        writeAllOrNone(folder.path(), formats::writeGlb(model, {name}, nullptr));
        session().bringIn(QStringList{QString::fromStdString((folder / (name + ".glb")).string())});
        REQUIRE(idle());
        QString piece = QString::fromStdString(name);
        piece[0] = piece[0].toUpper();
        session().editCrossing("open", piece, platform, [](project::Crossing&) {});
        REQUIRE(idle());
        window->showWorkbench(piece, platform);
        return window->workbench();
    }
    const CrossingState& state() { return session().state("Ball", "hearthboard"); }
    const project::Piece& piece() { return session().project().pieces.at(0); }
    template <class T>
    T* find(const QString& name) {
        T* visible = nullptr;
        waitFor(
            [&] { // a panel that was just made is shown a moment later
                for (T* found : window->findChildren<T*>(name))
                    if (found->isVisible()) visible = found;
                return visible != nullptr;
            },
            5000);
        if (!visible) FAIL("no visible widget called " << name.toStdString());
        return visible;
    }
    void click(const QString& name) { QTest::mouseClick(find<QAbstractButton>(name), Qt::LeftButton); }
    /// Selects parts by their numbers in the model that is shown, and tells which are.
    void selectNodes(const std::set<int>& nodes) {
        const auto scene = window->workbench().view().scene();
        REQUIRE(scene);
        std::set<NodePath> paths;
        for (const int node : nodes) paths.insert(scene->paths.at(std::size_t(node)));
        window->workbench().selected().setParts(paths);
    }
    std::set<int> selectedNodes() {
        std::set<int> nodes;
        const auto scene = window->workbench().view().scene();
        const auto chosen = window->workbench().selected().in(scene->model);
        for (std::size_t n = 0; n < chosen.faces.size(); ++n)
            if (chosen.countOf(n) > 0) nodes.insert(int(n));
        return nodes;
    }
    void open() {
        QTest::mouseDClick(find<CrossingButton>("crossing-Ball-hearthboard"), Qt::LeftButton);
        REQUIRE(waitFor([&] { return window->workbench().isVisible() && window->workbench().isSettled(); }));
    }
};

} // namespace desk
