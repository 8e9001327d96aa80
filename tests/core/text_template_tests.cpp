// Texts with places: what is filled in, how it is written, and what is refused.
#include "core/base/error.h"
#include "core/base/text_template.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

using namespace zl;
using Catch::Matchers::Contains;
using nlohmann::json;

namespace text_template_tests {

std::string filled(const std::string& text, const json& data, Escaping as = Escaping::None,
                   TextTemplate::Parts parts = {}) {
    return TextTemplate(text, "a.txt", std::move(parts)).filled(TemplateData(data, as));
}

TEST_CASE("a template's places, lists and empty lists are filled in") {
    const json data{{"name", "Tide bell"},
                    {"none", ""},
                    {"list", {{{"a", 1}}, {{"a", 2.5}}, {{"a", 3}}}},
                    {"empty", json::array()},
                    {"deep", {{"er", "yes"}}},
                    {"on", true},
                    {"off", false}};
    CHECK(filled("{{name}}/{{deep.er}}", data) == "Tide bell/yes");
    CHECK(filled("{{#list}}{{a}}{{^last}},{{/last}}{{/list}}", data) == "1,2.5,3");
    CHECK(filled("{{#list}}{{number}}{{#first}}!{{/first}}{{/list}}", data) == "1!23");
    CHECK(filled("[{{#empty}}x{{/empty}}{{^empty}}nothing{{/empty}}]", data) == "[nothing]");
    CHECK(filled("{{#none}}x{{/none}}{{none}}{{^none}}-{{/none}}", data) == "-");
    CHECK(filled("{{#on}}a{{/on}}{{#off}}b{{/off}}{{^off}}c{{/off}}", data) == "ac");
    CHECK(filled("{{list.1.a}}{{#list.7}}x{{/list.7}}", data) == "2.5");
    CHECK(filled("{{#list}}{{name}} {{/list}}", data) == "Tide bell Tide bell Tide bell ");
}

TEST_CASE("what goes into a text is written as its kind of file wants it") {
    const json data{{"x", "a\"b<c>&'\\;\n,é"}, {"n", 2.0}};
    CHECK(filled("\"{{x}}\"", data, Escaping::Json) == "\"a\\\"b<c>&'\\\\;\\n,é\"");
    CHECK(filled("{{x}}", data, Escaping::Xml) == "a&quot;b&lt;c&gt;&amp;&apos;\\;\n,é");
    CHECK(filled("{{x}};1", data, Escaping::Csv) == "\"a\"\"b<c>&'\\;\n,é\";1");
    CHECK(filled("\"{{x}}\"", data, Escaping::Toml) == "\"a\\\"b<c>&'\\\\;\\u000a,é\"");
    CHECK(filled("k={{x}}", data, Escaping::Ini) == "k=a\"b<c>&'\\; ,é");
    CHECK(filled("{{{x}}}", data, Escaping::Json) == "a\"b<c>&'\\;\n,é");
    CHECK(filled("{{n}}", data, Escaping::Json) == "2.0"); // a number with a point stays one
    CHECK(filled("{{n}}", data, Escaping::Ini) == "2");
    CHECK(escaped("a\xff", Escaping::Json) == "aÿ");               // bytes of another code page
    CHECK(escaped(std::string("a\0b", 3), Escaping::Xml) == "ab"); // XML has no such letter
    CHECK(escapingFor("x/A.JSON") == Escaping::Json);
    CHECK(escapingFor("a.def") == Escaping::None);
}

TEST_CASE("a template that is wrong says where, and the nearest right word") {
    const json data{{"name", "x"}, {"objects", {{{"triangles", 3}}}}};
    const auto why = [&](const std::string& text) -> std::string {
        try {
            filled(text, data);
        } catch (const Error& error) {
            return error.whole();
        }
        return "nothing";
    };
    CHECK_THAT(why("a\nb\n{{nmae}}"), Contains("line 3") && Contains("\"name\" perhaps"));
    CHECK_THAT(why("{{#objects}}\n{{triangels}}{{/objects}}"),
               Contains("line 2") && Contains("\"triangles\" perhaps"));
    CHECK_THAT(why("a\n{{#objects}}"), Contains("line 2") && Contains("left open"));
    CHECK_THAT(why("{{/objects}}"), Contains("closes nothing"));
    CHECK_THAT(why("{{#a}}\n{{#b}}\n{{/a}}"), Contains("line 3") && Contains("is due"));
    CHECK_THAT(why("\n{{name"), Contains("a.txt"));
    CHECK_THAT(why("{{}}"), Contains("without a name"));
    CHECK_THAT(why("{{=<% %>=}}"), Contains("cannot be chosen"));
    CHECK_THAT(why("{{> head}}"), Contains("no part \"head\""));
}

TEST_CASE("hostile templates end in a message, soon") {
    json many = json::array();
    for (int i = 0; i < 200; ++i) many.push_back({{"a", i}});
    const json data{{"o", many}};
    std::string nested, deep;
    for (int i = 0; i < 20; ++i) nested = "{{#o}}" + nested + "{{/o}}"; // 200^20 times nothing
    CHECK_THROWS_WITH(filled(nested, data), Contains("beyond all bounds"));
    for (int i = 0; i < 5; ++i) nested = std::string(1000, 'x');
    CHECK_THROWS_WITH(filled("{{#o}}{{#o}}{{#o}}" + nested + "{{/o}}{{/o}}{{/o}}", data),
                      Contains("beyond all bounds"));
    for (int i = 0; i < 100000; ++i) deep += "{{#o}}";
    CHECK_THROWS_WITH(filled(deep, data), Contains("nested deeper"));
    CHECK_THROWS_WITH(filled(std::string((1u << 20) + 1, ' '), data), Contains("larger than a megabyte"));
    CHECK_THROWS_WITH(filled("{{> a}}", data, Escaping::None, {{"a", "{{> b}}"}, {"b", "x{{> a}}"}}),
                      Contains("hold one another") && Contains("a, b"));
    CHECK_THROWS_WITH(filled("{{> a}}", data, Escaping::None, {{"a", "{{> a}}"}}),
                      Contains("hold one another"));
    CHECK(filled("{{> a}}{{> a}}", data, Escaping::None, {{"a", "[{{o.3.a}}]"}}) == "[3][3]");
    CHECK(filled("{{name}}", {{"name", "{{#o}}{{/o}}{{> a}}"}}) == "{{#o}}{{/o}}{{> a}}"); // data is no text
}

} // namespace text_template_tests
