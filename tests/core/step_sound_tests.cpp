#include "core/contact/step_sound.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

#include <cmath>
#include <set>

using namespace zl;
using contact::stepSound;

namespace {

/// Seconds until nine tenths of its force have been heard.
double lengthOf(const std::vector<float>& sound) {
    double all = 0, so = 0;
    for (const float s : sound) all += double(s) * s;
    for (std::size_t i = 0; i < sound.size(); ++i)
        if ((so += double(sound[i]) * sound[i]) > 0.9 * all) return double(i) / contact::soundRate;
    return 0;
}

/// How high it is: how often it goes through nothing, a second, while most of it is heard.
double pitchOf(const std::vector<float>& sound) {
    const auto until = std::size_t(lengthOf(sound) * contact::soundRate);
    int crossings = 0;
    for (std::size_t i = 1; i < until; ++i) crossings += (sound[i] < 0) != (sound[i - 1] < 0);
    return crossings / 2.0 / lengthOf(sound);
}

} // namespace

TEST_CASE("every word that a platform has for a step is heard, and no two of a platform alike") {
    std::size_t kinds = 0;
    for (const char* id : {"culvert", "portcalder"}) {
        const auto platform = sheet(id);
        std::set<std::vector<float>> heard;
        std::set<std::string> words;
        for (const auto& kind : platform->touch.surfaces) {
            INFO(id << ": " << kind.sound);
            const auto sound = stepSound(kind.sound);
            ++kinds;
            REQUIRE(sound.size() > 200);
            CHECK(sound.size() <= std::size_t(contact::soundRate));
            float most = 0;
            bool sane = true;
            for (const float s : sound) most = std::max(most, std::abs(s)), sane = sane && std::isfinite(s);
            CHECK(sane);
            CHECK(most <= 0.81f);
            CHECK(most > 0.2f);
            CHECK(std::abs(sound.back()) < 0.01f); // no click
            heard.insert(sound), words.insert(kind.sound);
        }
        CHECK(heard.size() == words.size());
    }
    CHECK(kinds >= 30);
}

TEST_CASE("steps sound as their words say") {
    CHECK(lengthOf(stepSound("ring")) > 5 * lengthOf(stepSound("tock")));
    CHECK(pitchOf(stepSound("clink")) > 8 * pitchOf(stepSound("thud")));
    CHECK(pitchOf(stepSound("dull thud")) < 0.8 * pitchOf(stepSound("thud")));
    CHECK(lengthOf(stepSound("dry knock")) < 0.8 * lengthOf(stepSound("knock")));
    // A mode of 240 Hz is heard as one: from two strokes of the same side of nothing.
    CHECK(pitchOf(stepSound("hollow knock")) < pitchOf(stepSound("knock")));
    const auto soft = stepSound("soft hiss"), plain = stepSound("hiss");
    CHECK(*std::max_element(soft.begin(), soft.end()) < 0.5f * *std::max_element(plain.begin(), plain.end()));
    CHECK(stepSound("uneven clack").size() > stepSound("clack").size() + contact::soundRate / 12);

    CHECK(stepSound("crunch", 3) == stepSound("crunch", 3));
    CHECK(stepSound("crunch", 3) != stepSound("crunch", 4));
    CHECK(stepSound("  hard   clack ") == stepSound("hard clack"));
    for (const char* odd : {"", "  ", "hum", "hard", "loud clack", "clack hard"})
        CHECK(stepSound(odd).empty());
}
