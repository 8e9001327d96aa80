#pragma once
#include "rounds.h"

#include "core/base/error.h"
#include "core/model/promises.h"

#include <fmt/format.h>

namespace torture {

/// Runs `work`; an Error is an answer, anything else a Failure.
template <class Work>
bool answered(const std::string& what, const Work& work) {
    try {
        work();
        return true;
    } catch (const Failure&) {
        throw;
    } catch (const zl::Error& error) {
        if (error.whole().empty()) throw Failure(what + ": an error without words");
        return false;
    } catch (const std::exception& error) {
        throw Failure(fmt::format("{}: threw {}", what, error.what()));
    }
}

/// Runs `work`, which has to come to its end: an Error is a Failure too.
template <class Work>
void mustBeDone(const std::string& what, const std::string& must, const Work& work) {
    try {
        work();
    } catch (const zl::Error& error) {
        throw Failure(fmt::format("{}: {} ({})", what, must, error.whole()));
    } catch (const Failure&) {
        throw;
    } catch (const std::exception& error) {
        throw Failure(fmt::format("{}: threw {}", what, error.what()));
    }
}

inline void demandPromises(const zl::Model& model, const std::string& what) {
    if (const std::string broken = brokenPromise(model); !broken.empty())
        throw Failure(fmt::format("{}: {}", what, broken));
}

} // namespace torture
