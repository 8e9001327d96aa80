#pragma once
#include <QString>

#include <string>
#include <string_view>

namespace zl::app {

/// The core's UTF-8 text as Qt's.
inline QString qs(const std::string& s) {
    return QString::fromStdString(s);
}
inline QString qs(std::string_view s) {
    return QString::fromUtf8(s.data(), qsizetype(s.size()));
}

} // namespace zl::app
