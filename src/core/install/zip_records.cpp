#include "core/install/zip_records.h"

#include "core/base/archive.h"
#include "core/base/error.h"

#include <fmt/format.h>
#include <zlib.h>

#include <algorithm>
#include <numeric>
#include <set>

namespace zl::install {

namespace {

constexpr std::uint32_t localSign = 0x04034b50, centralSign = 0x02014b50, endSign = 0x06054b50;
constexpr std::size_t localSize = 30, centralSize = 46, endSize = 22;

std::uint32_t numberAt(std::string_view bytes, std::size_t at, int width) {
    std::uint32_t out = 0;
    for (int k = 0; k < width; ++k)
        out |= std::uint32_t(static_cast<unsigned char>(bytes[at + std::size_t(k)])) << 8 * k;
    return out;
}

void setNumber(std::string& bytes, std::size_t at, int width, std::uint64_t value) {
    for (int k = 0; k < width; ++k) bytes[at + std::size_t(k)] = static_cast<char>(value >> 8 * k);
}

/// Where the end record is: the last place that has its sign and a comment that ends with the file.
std::size_t endOf(std::string_view bytes) {
    for (std::size_t back = endSize; back <= std::min<std::size_t>(bytes.size(), endSize + 0xffff); ++back) {
        const std::size_t at = bytes.size() - back;
        if (numberAt(bytes, at, 4) == endSign && numberAt(bytes, at + 20, 2) == back - endSize) return at;
    }
    return std::string_view::npos;
}

std::string inflated(std::string_view packed, std::size_t size) {
    std::string out(size, '\0');
    z_stream stream{};
    if (inflateInit2(&stream, -MAX_WBITS) != Z_OK) return {};
    stream.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(packed.data()));
    stream.avail_in = uInt(packed.size());
    stream.next_out = reinterpret_cast<Bytef*>(out.data());
    stream.avail_out = uInt(out.size());
    const int code = inflate(&stream, Z_FINISH);
    const bool whole = code == Z_STREAM_END && stream.avail_out == 0;
    inflateEnd(&stream);
    return whole ? out : std::string();
}

} // namespace

ZipRecords::ZipRecords(std::string bytes, const std::string& where) : where_(where) {
    const auto fail = [&](const std::string& why) -> void {
        throw Error("is no archive that can be added to: " + why, where,
                    "Get it once more from where it came.");
    };
    const std::size_t end = endOf(bytes);
    if (end == std::string::npos) fail("it has no directory");
    const std::size_t count = numberAt(bytes, end + 10, 2), size = numberAt(bytes, end + 12, 4),
                      from = numberAt(bytes, end + 16, 4);
    if (numberAt(bytes, end + 4, 2) != 0 || numberAt(bytes, end + 8, 2) != count)
        fail("it is one of several parts");
    if (count == 0xffff || from == 0xffffffff || size == 0xffffffff)
        fail("it is larger than this kind of archive");
    if (std::uint64_t(from) + size != end) fail("its directory is not where it says");
    struct Found {
        std::size_t offset;
        Entry entry;
    };
    std::vector<Found> found;
    std::set<std::string> names;
    std::size_t at = from;
    for (std::size_t i = 0; i < count; ++i) {
        if (at + centralSize > end || numberAt(bytes, at, 4) != centralSign) fail("its directory is broken");
        const std::size_t name = numberAt(bytes, at + 28, 2), extra = numberAt(bytes, at + 30, 2),
                          comment = numberAt(bytes, at + 32, 2), whole = centralSize + name + extra + comment;
        if (at + whole > end) fail("its directory is cut off");
        Found one{numberAt(bytes, at + 42, 4),
                  {bytes.substr(at + centralSize, name), {}, bytes.substr(at, whole)}};
        one.entry.flags = numberAt(bytes, at + 8, 2), one.entry.method = numberAt(bytes, at + 10, 2);
        one.entry.packed = numberAt(bytes, at + 20, 4), one.entry.size = numberAt(bytes, at + 24, 4);
        if (!names.insert(one.entry.name).second)
            fail(fmt::format("\"{}\" stands in it twice", one.entry.name));
        found.push_back(std::move(one));
        at += whole;
    }
    if (at != end) fail("its directory holds something else");
    std::vector<std::size_t> byOffset(found.size());
    std::iota(byOffset.begin(), byOffset.end(), std::size_t(0));
    std::ranges::sort(byOffset, {}, [&](std::size_t i) { return found[i].offset; });
    front_ = bytes.substr(0, found.empty() ? from : found[byOffset[0]].offset);
    if (!found.empty() && found[byOffset[0]].offset > from) fail("an entry lies outside of it");
    order_.resize(found.size());
    for (std::size_t k = 0; k < byOffset.size(); ++k) {
        Found& one = found[byOffset[k]];
        const std::size_t next = k + 1 < byOffset.size() ? found[byOffset[k + 1]].offset : from;
        if (one.offset + localSize > from || next > from || numberAt(bytes, one.offset, 4) != localSign)
            fail(fmt::format("\"{}\" is not where the directory says", one.entry.name));
        const std::uint64_t needs = localSize + std::uint64_t(numberAt(bytes, one.offset + 26, 2)) +
                                    numberAt(bytes, one.offset + 28, 2) + one.entry.packed;
        if (one.offset + needs > next) fail(fmt::format("\"{}\" lies over another entry", one.entry.name));
        one.entry.local = bytes.substr(one.offset, next - one.offset);
        order_[byOffset[k]] = k;
        entries_.push_back(std::move(one.entry));
    }
    end_ = bytes.substr(end);
    number();
}

void ZipRecords::number() {
    places_.clear();
    for (std::size_t i = 0; i < entries_.size(); ++i) places_[entries_[i].name] = i;
}

std::vector<std::string> ZipRecords::names() const {
    std::vector<std::string> out;
    for (const std::size_t i : order_) out.push_back(entries_[i].name);
    return out;
}

bool ZipRecords::has(std::string_view name) const {
    return places_.contains(name);
}

const ZipRecords::Entry& ZipRecords::entry(std::string_view name) const {
    const auto found = places_.find(name);
    if (found == places_.end()) throw Error(fmt::format("has no \"{}\"", name), where_);
    return entries_[found->second];
}

std::size_t ZipRecords::sizeOf(std::string_view name) const {
    return entry(name).size;
}

std::string ZipRecords::contentOf(std::string_view name, std::size_t mostBytes) const {
    const Entry& one = entry(name);
    if (one.size > mostBytes) throw Error(fmt::format("\"{}\" in it is too large to be read", name), where_);
    const std::size_t data = localSize + numberAt(one.local, 26, 2) + numberAt(one.local, 28, 2);
    const std::string_view packed = std::string_view(one.local).substr(data, one.packed);
    std::string out;
    if (one.flags & 1) throw Error(fmt::format("\"{}\" in it is locked", name), where_);
    if (one.method == 0) out = packed;
    if (one.method == 8) out = inflated(packed, one.size);
    const auto sum = crc32(0, reinterpret_cast<const Bytef*>(out.data()), uInt(out.size()));
    if (out.size() != one.size || sum != numberAt(one.central, 16, 4))
        throw Error(fmt::format("\"{}\" in it is broken", name), where_,
                    "Get it once more from where it came.");
    return out;
}

void ZipRecords::add(const std::vector<OutFile>& files) {
    for (const OutFile& file : files)
        if (has(file.name)) throw Refused(fmt::format("has a \"{}\" already", file.name), where_);
    if (entries_.size() + files.size() >= 0xffff) throw Refused("cannot hold more entries", where_);
    if (files.empty()) return;
    const ZipRecords made(zipped(files), where_); // packed by the library, each taken over as it is
    for (const std::size_t i : made.order_) {
        order_.push_back(entries_.size());
        entries_.push_back(made.entries_[i]);
    }
    number();
}

void ZipRecords::replace(const OutFile& file) {
    entry(file.name);
    takeOver(ZipRecords(zipped({file}), where_), file.name);
}

void ZipRecords::remove(std::string_view name) {
    const auto found = places_.find(name);
    if (found == places_.end()) return;
    const std::size_t index = found->second;
    entries_.erase(entries_.begin() + std::ptrdiff_t(index));
    std::erase(order_, index);
    for (std::size_t& i : order_)
        if (i > index) --i;
    number();
}

void ZipRecords::takeOver(const ZipRecords& from, std::string_view name) {
    const Entry& one = from.entry(name);
    if (const auto here = places_.find(name); here != places_.end()) {
        entries_[here->second] = one;
        return;
    }
    order_.push_back(entries_.size());
    entries_.push_back(one);
    number();
}

std::string ZipRecords::bytes() const {
    std::string out = front_;
    std::vector<std::size_t> offsets;
    for (const Entry& one : entries_) {
        offsets.push_back(out.size());
        out += one.local;
    }
    const std::size_t from = out.size();
    for (const std::size_t i : order_) {
        std::string line = entries_[i].central;
        setNumber(line, 42, 4, offsets[i]);
        out += line;
    }
    if (out.size() > 0xfffffffeull) throw Refused("would become too large", where_);
    std::string end = end_;
    setNumber(end, 8, 2, order_.size()), setNumber(end, 10, 2, order_.size());
    setNumber(end, 12, 4, out.size() - from), setNumber(end, 16, 4, from);
    return out + end;
}

} // namespace zl::install
