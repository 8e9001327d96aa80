#include "standins/console/program.h"

#include "standins/console/console_source.h"

#include <fmt/format.h>

#include <array>
#include <cstdlib>
#include <fstream>
#include <sstream>

namespace zl::standins::console {

namespace {

constexpr std::size_t mostMessages = 12;

bool write(const std::filesystem::path& file, std::string_view text) {
    std::ofstream out(file, std::ios::binary);
    out.write(text.data(), std::streamsize(text.size()));
    return bool(out.flush());
}

constexpr std::uintmax_t mostExampleBytes = 1u << 20;

/// Whether the example beside the headers is one that a compiler takes; it is not run.
void tryExample(const std::filesystem::path& file, const std::filesystem::path& place,
                const std::string& compiler, TryReport& report) {
    const std::string name = file.filename().string();
    std::error_code error;
    const auto size = std::filesystem::file_size(file, error);
    if (error || size > mostExampleBytes) {
        report.messages.push_back({Message::Kind::Odd, name,
                                   error ? "The example is not there" : "The example is too large",
                                   "The console runs without it."});
        return;
    }
    std::filesystem::copy_file(file, place / name, std::filesystem::copy_options::overwrite_existing, error);
    Process run({compiler, "-std=c99", "-fsyntax-only", "-fno-diagnostics-color", name}, place, {1024, 20});
    if (const int code = run.finish(std::chrono::seconds(30)); code != 0)
        report.messages.push_back({Message::Kind::Odd, name, "The example does not compile",
                                   run.errors().substr(0, run.errors().find('\n')).substr(0, 200)});
}

/// "pip_model.h:12:3: error: what" as a message; lines of any other kind belong to the one before.
void tell(const std::string& errors, TryReport& report) {
    std::istringstream lines(errors);
    std::size_t told = 0;
    for (std::string line; std::getline(lines, line);) {
        const auto error = line.find(" error: "), warning = line.find(" warning: ");
        const auto kind = std::min(error, warning);
        if (kind == std::string::npos) continue;
        if (++told > mostMessages) break;
        const auto colon = line.find(':');
        const std::string file = colon < kind ? line.substr(0, colon) : std::string();
        const std::string place = colon < kind ? line.substr(colon + 1, kind - colon - 2) : std::string();
        report.messages.push_back(
            {error < warning ? Message::Kind::Refused : Message::Kind::Odd, file,
             line.substr(line.find(": ", kind) + 2),
             place.empty() ? std::string() : "Line " + place.substr(0, place.find(':')) + "."});
    }
}

} // namespace

std::unique_ptr<Process> Program::start() const {
    return std::make_unique<Process>(std::vector<std::string>{(folder_->path() / "console").string()},
                                     folder_->path(), Process::Limits{256, 24 * 3600});
}

std::unique_ptr<Program> compiled(const std::filesystem::path& folder, TryReport& report) {
    const auto headers = readHeaders(folder, report);
    if (!headers) return nullptr;
    std::filesystem::path compiler;
    for (const char* name : {"cc", "gcc", "clang"})
        if (compiler.empty()) compiler = programNamed(name);
    if (compiler.empty()) {
        report.messages.push_back({Message::Kind::Refused, "", "There is no C compiler on this computer",
                                   "Install one and try again, such as Debian's package gcc."});
        return nullptr;
    }
    auto room = std::make_unique<PassingFolder>("console");
    const auto place = room->path();
    auto program = std::make_unique<Program>(std::move(room), *headers, compiler.filename().string());
    const std::string& name = headers->name;
    if (place.empty() || !write(place / "console.c", consoleSource()) ||
        !write(place / (name + "_names.h"), headers->names) ||
        !write(place / (name + "_model.h"), headers->model) ||
        !write(place / (name + "_pictures.h"), headers->pictures)) {
        report.messages.push_back({Message::Kind::Refused, "", "There is no room for the console",
                                   "It is built in the folder for temporary files."});
        return nullptr;
    }
    Process run({compiler.string(), "-std=c99", "-O2", "-Wall", "-Wextra", "-pedantic",
                 "-fno-diagnostics-color", "-DNAME=" + name, "-DMODEL_H=\"" + name + "_model.h\"",
                 "-DPICTURES_H=\"" + name + "_pictures.h\"", "console.c", "-o", "console"},
                place, {2048, 60});
    const int code = run.finish(std::chrono::seconds(90));
    tell(run.errors(), report);
    if (code != 0) {
        if (report.messages.empty())
            report.messages.push_back({Message::Kind::Refused, "", "The compiler did not come to an end",
                                       run.errors().substr(0, 300)});
        return nullptr;
    }
    tryExample(folder / (name + "_example.c"), place, compiler.string(), report);
    return program;
}

} // namespace zl::standins::console
