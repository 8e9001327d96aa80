// The window's tests run within one program, made before the first of them; Catch's own main is Debian's.
#include "app/program.h"
#include "app/theme.h"

#include <catch2/catch.hpp>

#include <QStandardPaths>

#include <array>
#include <memory>
#include <string>

namespace {

struct ProgramAround : Catch::TestEventListenerBase {
    using TestEventListenerBase::TestEventListenerBase;

    void testRunStarting(const Catch::TestRunInfo&) override {
        // The tests' settings and data stay out of the user's.
        QStandardPaths::setTestModeEnabled(true);
        zl::app::Program::askForOpenGl();
        program_ = std::make_unique<zl::app::Program>(argumentCount_, arguments_.data());
        QApplication::setOrganizationName("zest-loom-tests");
        QApplication::setApplicationName("zest-loom-tests");
        zl::app::Theme::instance();
    }
    void testRunEnded(const Catch::TestRunStats&) override { program_.reset(); }

private:
    // Both live as long as the application, which keeps referring to them.
    std::string name_ = "zest-loom-app-tests";
    std::array<char*, 2> arguments_{name_.data(), nullptr};
    int argumentCount_ = 1;
    std::unique_ptr<zl::app::Program> program_;
};

} // namespace

CATCH_REGISTER_LISTENER(ProgramAround)
