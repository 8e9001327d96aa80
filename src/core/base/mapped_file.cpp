#include "core/base/mapped_file.h"

#include "core/base/error.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>

namespace zl {

MappedFile::MappedFile(const std::filesystem::path& path) {
    const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    if (descriptor < 0)
        throw Error(std::string("cannot be opened (") + std::strerror(errno) + ")", path.string(),
                    "Check the path and your rights to read it.");
    struct stat status {};
    if (::fstat(descriptor, &status) != 0 || !S_ISREG(status.st_mode)) {
        ::close(descriptor);
        throw Error("is not a file", path.string(), "Choose a model file.");
    }
    size_ = static_cast<std::size_t>(status.st_size);
    if (size_ > 0) {
        void* mapped = ::mmap(nullptr, size_, PROT_READ, MAP_PRIVATE, descriptor, 0);
        if (mapped == MAP_FAILED) {
            ::close(descriptor);
            throw Error(std::string("cannot be read (") + std::strerror(errno) + ")", path.string());
        }
        data_ = static_cast<const char*>(mapped);
        ::madvise(mapped, size_, MADV_SEQUENTIAL);
    }
    ::close(descriptor);
}

MappedFile::~MappedFile() {
    if (data_) ::munmap(const_cast<char*>(data_), size_);
}

} // namespace zl
