#pragma once
#include <filesystem>
#include <string>
#include <string_view>

namespace zl::upload {

/// A password: its memory is wiped when it goes. It is never printed, and nothing keeps a copy.
class Secret {
public:
    Secret() = default;
    explicit Secret(std::string text) : text_(std::move(text)) {}
    Secret(Secret&& other) noexcept : text_(std::move(other.text_)) { other.wipe(); }
    Secret& operator=(Secret&& other) noexcept {
        wipe();
        text_ = std::move(other.text_);
        other.wipe();
        return *this;
    }
    Secret(const Secret&) = delete;
    Secret& operator=(const Secret&) = delete;
    ~Secret() { wipe(); }

    const std::string& text() const { return text_; }
    bool empty() const { return text_.empty(); }

private:
    void wipe();
    std::string text_;
};

/// Overwrites a text in place before it goes.
void wipe(std::string& text);

/// From a variable of the environment, which is wiped there so that others who look at this process do not
/// find it either. Throws Error when there is none or it is empty.
Secret secretFromEnvironment(const std::string& variable);

/// The first line of a file. Throws Error when it cannot be read, is empty, or others may read it too.
Secret secretFromFile(const std::filesystem::path& file);

/// Asked for at the terminal, without showing what is typed. Throws Error where there is no terminal, naming
/// the ways there are.
Secret secretFromTerminal(std::string_view question);

} // namespace zl::upload
