#include "core/packet/zip.h"

#include "core/base/phrase.h"

#include <memory>
#include <zip.h>

namespace vicegrip::packet {
namespace {

struct GiveBack
{
    void operator()(zip_t* archive) const { zip_discard(archive); }
    void operator()(zip_source_t* source) const { zip_source_free(source); }
};
using Archive = std::unique_ptr<zip_t, GiveBack>;
using Source = std::unique_ptr<zip_source_t, GiveBack>;

tl::unexpected<Error> refused(const char* why)
{
    return fail(ErrorCode::Io, phrase("the packet cannot be packed: {}", why));
}

/// Everything that was written to it.
Result<std::string> contentOf(zip_source_t* memory)
{
    zip_stat_t stat;
    zip_stat_init(&stat);
    if (zip_source_stat(memory, &stat) != 0 || zip_source_open(memory) != 0)
        return refused(zip_error_strerror(zip_source_error(memory)));
    std::string out(stat.size, '\0');
    const zip_int64_t got = zip_source_read(memory, out.data(), out.size());
    zip_source_close(memory);
    if (got < 0 || static_cast<zip_uint64_t>(got) != stat.size)
        return refused(zip_error_strerror(zip_source_error(memory)));
    return out;
}

bool add(zip_t* archive, const std::string& name, const std::string& bytes)
{
    constexpr zip_uint16_t kFirstOf2000 = (20U << 9U) | (1U << 5U) | 1U; // years since 1980, month, day (APPNOTE 4.4.6)
    constexpr zip_uint32_t kPlainFile = 0100644U << 16U;
    Source source(zip_source_buffer(archive, bytes.data(), bytes.size(), 0));
    if (!source)
        return false;
    const zip_int64_t at = zip_file_add(archive, name.c_str(), source.get(), ZIP_FL_ENC_UTF_8);
    if (at < 0)
        return false;
    (void)source.release(); // the archive has it now
    const auto index = static_cast<zip_uint64_t>(at);
    return zip_file_set_dostime(archive, index, 0, kFirstOf2000, 0) == 0 &&
           zip_file_set_external_attributes(archive, index, 0, ZIP_OPSYS_UNIX, kPlainFile) == 0 &&
           zip_set_file_compression(archive, index, ZIP_CM_DEFLATE, 6) == 0;
}

} // namespace

Result<std::string> zipOf(const Packet& packet)
{
    zip_error_t error;
    zip_error_init(&error);
    const Source memory(zip_source_buffer_create(nullptr, 0, 0, &error));
    if (!memory)
        return refused(zip_error_strerror(&error));
    Archive archive(zip_open_from_source(memory.get(), ZIP_TRUNCATE, &error));
    if (!archive)
        return refused(zip_error_strerror(&error));
    zip_source_keep(memory.get()); // the archive holds it too, and gives it back when it is closed
    for (const File& file : packet.files)
        if (!add(archive.get(), packet.name + "/" + file.path, file.bytes))
            return refused(zip_strerror(archive.get()));
    if (zip_close(archive.get()) != 0)
        return refused(zip_strerror(archive.get()));
    (void)archive.release();
    return contentOf(memory.get());
}

} // namespace vicegrip::packet
