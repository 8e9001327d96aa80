#include "standins/world/packed_files.h"

#include <zip.h>

#include <memory>

namespace zl::standins::world {

PackedFiles readZip(const std::string& bytes, std::size_t mostBytes) {
    PackedFiles out;
    const auto broken = [&](std::string why) {
        out.entries.clear();
        out.problem = std::move(why);
        return out;
    };
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
    if (!source) return broken("it cannot be opened");
    zip_t* opened = zip_open_from_source(source, ZIP_RDONLY, &error);
    if (!opened) {
        zip_source_free(source);
        return broken("it is no zip, or its directory is wrong");
    }
    const std::unique_ptr<zip_t, void (*)(zip_t*)> archive(opened, zip_discard);
    const zip_int64_t count = zip_get_num_entries(opened, 0);
    if (count > 20000) return broken("it has more entries than any game's");
    std::size_t total = 0;
    for (zip_uint64_t i = 0; i < zip_uint64_t(count); ++i) {
        zip_stat_t about;
        if (zip_stat_index(opened, i, 0, &about) != 0 || !(about.valid & ZIP_STAT_NAME) ||
            !(about.valid & ZIP_STAT_SIZE))
            return broken("an entry of it has no name or size");
        const std::string name = about.name;
        if (leadsOut(name)) return broken("\"" + name + "\" leads out of it");
        if (name.back() == '/') continue;
        total += about.size;
        if (about.size > mostBytes || total > mostBytes) return broken("it unpacks to more than is taken");
        std::string text(about.size, '\0');
        const std::unique_ptr<zip_file_t, int (*)(zip_file_t*)> file(zip_fopen_index(opened, i, 0),
                                                                     zip_fclose);
        if (!file || zip_fread(file.get(), text.data(), text.size()) != zip_int64_t(text.size()))
            return broken("\"" + name + "\" cannot be unpacked");
        if (!out.entries.emplace(name, std::move(text)).second)
            return broken("\"" + name + "\" stands in it twice");
    }
    return out;
}

} // namespace zl::standins::world
