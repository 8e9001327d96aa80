#include "cli/command.h"

#include "core/files/terms.h"

#include <CLI/CLI.hpp>

namespace zl::cli {

void ArchiveOptions::declare(CLI::App& app) {
    auto* variable =
        app.add_option("--key-env", keyVariable, "variable that holds the key of locked archives");
    app.add_option("--key-file", keyFile, "file whose first line is that key")->excludes(variable);
    app.add_flag("--trust", trusts, "open archives past the limits on what they may hold");
}

void ArchiveOptions::give() const {
    if (!keyVariable.empty()) files::giveKey({}, files::keyFromVariable(keyVariable));
    if (!keyFile.empty()) files::giveKey({}, files::keyFromFile(keyFile));
    if (trusts) files::trust({});
}

} // namespace zl::cli
