#pragma once
#include "core/upload/secret.h"

#include <optional>

namespace zl::upload {

// The desktop's keyring (the Secret Service of freedesktop.org), where a password may stay that somebody
// asked to have kept: the only place of all. By server and name.

/// Nothing where there is no keyring, it stays locked, or it has none.
std::optional<Secret> keptSecret(const std::string& url, const std::string& user);
/// Throws Refused when there is no keyring to keep it in.
void keepSecret(const std::string& url, const std::string& user, const Secret& secret);
/// What was typed, kept where that is asked for; where nothing was typed, what is kept. Throws Error when
/// there is neither, and as keepSecret() does.
Secret typedOrKept(Secret typed, bool keeps, const std::string& url, const std::string& user);
void forgetSecret(const std::string& url, const std::string& user);

} // namespace zl::upload
