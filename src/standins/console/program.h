#pragma once
#include "standins/console/headers.h"
#include "standins/console/process.h"

#include <memory>

namespace zl::standins::console {

/// The console with one piece in it, compiled. Its files go with it.
class Program {
public:
    Program(std::filesystem::path folder, Headers headers, std::string compiler)
        : folder_(std::move(folder)), headers_(std::move(headers)), compiler_(std::move(compiler)) {}
    ~Program();
    Program(const Program&) = delete;
    Program& operator=(const Program&) = delete;

    const Headers& headers() const { return headers_; }
    const std::string& compiler() const { return compiler_; }
    std::unique_ptr<Process> start() const;

private:
    std::filesystem::path folder_;
    Headers headers_;
    std::string compiler_;
};

/// Compiles the console with the delivered headers by the system's C compiler. What that says is put into
/// `report`, line by line; null where it refuses, or where there is no compiler.
std::unique_ptr<Program> compiled(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::console
