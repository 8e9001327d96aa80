#pragma once
#include "standins/console/headers.h"
#include "standins/console/process.h"

#include "core/base/passing_folder.h"

#include <memory>

namespace zl::standins::console {

/// The console with one piece in it, compiled. Its files go with it.
class Program {
public:
    Program(std::unique_ptr<PassingFolder> folder, Headers headers, std::string compiler)
        : folder_(std::move(folder)), headers_(std::move(headers)), compiler_(std::move(compiler)) {}
    const Headers& headers() const { return headers_; }
    const std::string& compiler() const { return compiler_; }
    std::unique_ptr<Process> start() const;

private:
    std::unique_ptr<PassingFolder> folder_;
    Headers headers_;
    std::string compiler_;
};

/// Compiles the console with the delivered headers by the system's C compiler. What that says is put into
/// `report`, line by line; null where it refuses, or where there is no compiler.
std::unique_ptr<Program> compiled(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::console
