#include "core/model/node_path.h"

#include <unordered_map>

namespace zl {

namespace {

std::string escaped(const std::string& name) {
    std::string out;
    for (const char c : name) {
        if (c == '/' || c == '#' || c == '\\') out += '\\';
        out += c;
    }
    return out;
}

} // namespace

std::vector<NodePath> nodePaths(const Model& model) {
    std::vector<NodePath> paths(model.nodes.size());
    std::unordered_map<std::string, int> taken; // parents come before their children
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        std::string path =
            node.parent < 0 ? escaped(node.name) : paths[std::size_t(node.parent)] + '/' + escaped(node.name);
        const int number = ++taken[path];
        paths[n] = number == 1 ? std::move(path) : path + '#' + std::to_string(number);
    }
    return paths;
}

std::map<NodePath, int, std::less<>> nodesByPath(const Model& model) {
    std::map<NodePath, int, std::less<>> nodes;
    auto paths = nodePaths(model);
    for (std::size_t n = 0; n < paths.size(); ++n) nodes.emplace(std::move(paths[n]), static_cast<int>(n));
    return nodes;
}

} // namespace zl
