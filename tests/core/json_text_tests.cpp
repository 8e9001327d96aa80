// JSON as text: what is said of text that is none, and bytes that no JSON may hold.
#include "core/base/json_text.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

using namespace zl;

TEST_CASE("text that is no JSON is discarded, and the line in which it ends to be JSON is told") {
    std::string fault;
    CHECK(parsedJson("{\"a\": [1, 2.5]}", &fault)["a"][1] == 2.5);
    CHECK(fault.empty());

    CHECK(parsedJson("{\n  \"a\": 1,\n  \"b\" 2\n}", &fault).is_discarded());
    CHECK(fault == "breaks off in line 3");
    CHECK(parsedJson("", &fault).is_discarded());
    CHECK(fault == "breaks off in line 1");
    CHECK(parsedJson("[1]\n[2]", &fault).is_discarded());
    CHECK(fault == "breaks off in line 2");
    CHECK(parsedJson("[1e999]", &fault).is_discarded());
    CHECK(fault == "holds a number beyond all bounds");
    CHECK(parsedJson("nonsense").is_discarded());
}

TEST_CASE("JSON as people write it: comments and commas behind the last, and nothing else that is wrong") {
    const auto strict = [](const char* text) { return parsedJson(text); };
    for (const auto& [byHand, same] :
         {std::pair{"// a\n{\"a\": 1, // b }\n}", R"({"a": 1})"},
          {"{\"a\": [1, 2,\n /* , */ ], }", R"({"a": [1, 2]})"},
          {R"({"a": "x,]", "b": "\\", "c": "\",}" ,})", R"({"a": "x,]", "b": "\\", "c": "\",}"})"},
          {"[\"//no comment\", \"/*\", 3 /**/ , ]", R"(["//no comment", "/*", 3])"},
          {"[[1,],[2,],]", "[[1],[2]]"},
          {"{}", "{}"}}) {
        INFO(byHand);
        CHECK(parsedHandJson(byHand) == strict(same));
    }
    for (const char* broken : {"", "{\"a\": 1,,}", "[1 2,]", "{\"a\": /* open", "{\"a\": \"open",
                               "{,\"a\": 1}", "[1,]]", "{\"a\": 1e999,}", "{\"a\"}", "\"\\", "// alone"}) {
        INFO(broken);
        CHECK(parsedHandJson(broken).is_discarded());
    }
}

TEST_CASE("JSON is written in the order that was given, and bytes that are not UTF-8 are replaced") {
    CHECK(jsonText(nlohmann::ordered_json{{"b", 0.5}, {"a", {1, true}}}) == R"({"b":0.5,"a":[1,true]})");
    CHECK(jsonText(nlohmann::json{{"b", 1}, {"a", 2}}, 1) == "{\n \"a\": 2,\n \"b\": 1\n}");
    CHECK(jsonText(nlohmann::json("lam\xE9")) == "\"lam\xEF\xBF\xBD\"");
}
