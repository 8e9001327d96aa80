#include "core/formats/number.h"
#include "core/formats/text.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <random>

using namespace zl::formats;

namespace {

float throughLibrary(const std::string& text) {
    float value = 0;
    std::from_chars(text.data(), text.data() + text.size(), value);
    return value;
}

} // namespace

TEST_CASE("short decimal numbers are read exactly as the standard library reads them") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> value(-1000, 1000), power(-12, 12);
    int taken = 0;
    for (int i = 0; i < 200000; ++i) {
        const double number = value(random) * std::pow(10.0, power(random));
        const std::string text = i % 3 == 0   ? fmt::format("{:.6f}", number)
                                 : i % 3 == 1 ? fmt::format("{:.9g}", number)
                                              : fmt::format("{:e}", number);
        float mine = 0;
        const char* after = shortFloat(text.data(), text.data() + text.size(), mine);
        if (!after) continue;
        ++taken;
        REQUIRE(after == text.data() + text.size());
        REQUIRE(mine == throughLibrary(text));
    }
    CHECK(taken > 150000); // the short way serves nearly all of them
}

TEST_CASE("numbers that lie exactly between two floats are passed on") {
    // 1 + 2^-24 is halfway between 1 and the next float; a digit more decides.
    for (const char* text : {"1.000000059604644775390625", "1.00000005960464478", "16777217.0"}) {
        float mine = 5;
        Scanner scan(text);
        REQUIRE(scan.number(mine));
        CHECK(mine == throughLibrary(text));
    }
}

TEST_CASE("the scanner reads signs, exponents, bare points and what is no number") {
    const auto read = [](const std::string& text) {
        Scanner scan(text);
        float value = -99;
        const bool ok = scan.number(value);
        return std::tuple(ok, value, text.size() - std::size_t(scan.position() - text.data()));
    };
    CHECK(read("+1.5 ") == std::tuple(true, 1.5f, std::size_t(1)));
    CHECK(read("-.25/") == std::tuple(true, -0.25f, std::size_t(1)));
    CHECK(read("3.") == std::tuple(true, 3.0f, std::size_t(0)));
    CHECK(read("2E-3x") == std::tuple(true, 0.002f, std::size_t(1)));
    CHECK(std::get<1>(read("-0")) == 0.0f);
    CHECK(std::isnan(std::get<1>(read("nan"))));
    CHECK(std::isinf(std::get<1>(read("-inf"))));
    for (const char* text : {"", " 1", "e5", "-", ".", "abc"}) CHECK_FALSE(std::get<0>(read(text)));
    // Too large for the type: taken as a number, the value stays as it was.
    CHECK(std::get<0>(read("1e400")));

    Scanner whole("2147483647 -12 99999999999 x");
    int value = 0;
    CHECK((whole.number(value) && value == 2147483647));
    whole.skipBlanks();
    CHECK((whole.number(value) && value == -12));
    whole.skipBlanks();
    CHECK(whole.number(value)); // out of range is passed over, not misread
    CHECK(value == -12);
    whole.skipBlanks();
    CHECK_FALSE(whole.number(value));
}

TEST_CASE("digits are added up alike by eights and one by one, whatever stands behind them") {
    std::mt19937 random(11);
    const std::string behind =
        "\n /:.-eE\x7f\x80\xff\x2f\x3a\xb0\xb9"; // neighbours of digits in value and bits
    for (int i = 0; i < 100000; ++i) {
        const int length = static_cast<int>(random() % 19);
        std::string text;
        std::uint64_t wanted = 0;
        for (int k = 0; k < length; ++k) {
            const unsigned digit = random() % 10;
            text += static_cast<char>('0' + digit);
            wanted = wanted * 10 + digit;
        }
        for (int k = static_cast<int>(random() % 12); k > 0; --k) // no digit first, then anything
            text += text.size() == std::size_t(length) ? behind[random() % behind.size()]
                                                       : static_cast<char>(random() % 256);
        std::uint64_t sum = 0;
        const char* after = appendDigits(text.data(), text.data() + text.size(), sum);
        INFO(text);
        REQUIRE(after == text.data() + length);
        REQUIRE(sum == wanted);
    }
}
