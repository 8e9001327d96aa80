#include "core/formats/gltf_marks.h"

#include "core/base/plain_number.h"
#include "core/base/utf8.h"
#include "core/model/model.h"

namespace zl::formats {

std::map<int, std::string> marksIn(const tinygltf::Value& extras) {
    std::map<int, std::string> out;
    if (!extras.IsObject() || !extras.Has("marks")) return out;
    const tinygltf::Value& marks = extras.Get("marks");
    if (!marks.IsObject()) return out;
    constexpr std::size_t longest = 200;
    for (const std::string& key : marks.Keys()) {
        const auto place = onlyNumber<int>(key);
        const tinygltf::Value& word = marks.Get(key);
        if (!place || *place < 0 || *place > mostMarkPlace || !word.IsString()) continue;
        std::string name = asUtf8(word.Get<std::string>());
        if (!name.empty() && name.size() <= longest) out[*place] = std::move(name);
    }
    return out;
}

void putMarks(const std::map<int, std::string>& marks, tinygltf::Value& extras) {
    if (marks.empty()) return;
    tinygltf::Value::Object all, words;
    if (extras.IsObject()) all = extras.Get<tinygltf::Value::Object>();
    for (const auto& [place, name] : marks) words[std::to_string(place)] = tinygltf::Value(name);
    all["marks"] = tinygltf::Value(words);
    extras = tinygltf::Value(all);
}

} // namespace zl::formats
