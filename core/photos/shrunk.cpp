#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/photos/photos.h"

#include <algorithm>
#include <cmath>
#include <gdk-pixbuf/gdk-pixbuf.h>
#include <memory>

namespace vicegrip::photos {
namespace {

constexpr size_t kMostBytes = 40 << 20;
constexpr long long kMostPixels = 64'000'000;
constexpr const char* kQuality = "85"; ///< fine print on a label stays readable

struct Drop
{
    void operator()(gpointer object) const { g_object_unref(object); }
};
using Pixbuf = std::unique_ptr<GdkPixbuf, Drop>;

Pixbuf held(GdkPixbuf* pixbuf)
{
    return Pixbuf(pixbuf);
}

/// By its first bytes: a name may say anything, and nothing is asked to read what is neither.
const char* kindOf(std::string_view image)
{
    return image.starts_with("\xFF\xD8\xFF") ? "jpeg" : image.starts_with("\x89PNG\r\n\x1A\n") ? "png" : nullptr;
}

/// A JPEG that is cut off is filled up with grey, and not refused: what was scanned last must have come to its end. A
/// smaller one within, for a list of pictures, ends before the picture begins.
bool comesToItsEnd(std::string_view image)
{
    if (!image.starts_with("\xFF\xD8"))
        return true;
    const size_t scan = image.rfind("\xFF\xDA"), end = image.rfind("\xFF\xD9");
    return scan != std::string_view::npos && end != std::string_view::npos && end > scan;
}

/// What the header says, before anything is unpacked; a larger one is unpacked smaller.
void sizeIt(GdkPixbufLoader* loader, int width, int height, gpointer tooMany)
{
    if (static_cast<long long>(width) * height > kMostPixels) {
        *static_cast<bool*>(tooMany) = true;
        gdk_pixbuf_loader_set_size(loader, 0, 0); // unpacks nothing
        return;
    }
    const double scale = static_cast<double>(kMost_px) / std::max(width, height);
    const auto scaled = [&](int side) { return std::max(1, static_cast<int>(std::lround(side * scale))); };
    if (scale < 1)
        gdk_pixbuf_loader_set_size(loader, scaled(width), scaled(height));
}

tl::unexpected<Error> damaged(GError* error = nullptr)
{
    g_clear_error(&error);
    return fail(ErrorCode::Malformed, phrase("it is damaged or cut off, and cannot be shown"));
}

Result<Pixbuf> unpacked(std::string_view image)
{
    const char* kind = kindOf(image);
    if (kind == nullptr)
        return fail(ErrorCode::Malformed,
                    image.empty() ? phrase("it is empty") : phrase("it is no photo: expected a JPEG or a PNG"));
    GError* error = nullptr;
    const std::unique_ptr<GdkPixbufLoader, Drop> loader(gdk_pixbuf_loader_new_with_type(kind, &error));
    if (!loader)
        return damaged(error);
    bool tooMany = false;
    g_signal_connect(loader.get(), "size-prepared", G_CALLBACK(&sizeIt), &tooMany);
    constexpr size_t kPiece = 1 << 16;
    bool fine = true;
    for (size_t from = 0; fine && !tooMany && from < image.size(); from += kPiece) {
        const std::string_view piece = image.substr(from, kPiece);
        fine = gdk_pixbuf_loader_write(loader.get(), reinterpret_cast<const guchar*>(piece.data()), piece.size(),
                                       &error) != FALSE;
    }
    GError* closing = nullptr;
    const bool closed = gdk_pixbuf_loader_close(loader.get(), fine ? &closing : nullptr) != FALSE;
    if (tooMany) {
        g_clear_error(&error);
        g_clear_error(&closing);
        return fail(ErrorCode::TooBig, phrase("it has more than 64 million pixels: make it smaller first"));
    }
    if (!fine || !closed)
        return damaged(fine ? closing : error);
    GdkPixbuf* whole = gdk_pixbuf_loader_get_pixbuf(loader.get());
    if (whole == nullptr || !comesToItsEnd(image))
        return damaged();
    return held(gdk_pixbuf_apply_embedded_orientation(whole));
}

/// On white, where light comes through.
Pixbuf opaque(Pixbuf pixbuf)
{
    if (gdk_pixbuf_get_has_alpha(pixbuf.get()) == FALSE)
        return pixbuf;
    const int width = gdk_pixbuf_get_width(pixbuf.get()), height = gdk_pixbuf_get_height(pixbuf.get());
    Pixbuf out = held(gdk_pixbuf_new(GDK_COLORSPACE_RGB, FALSE, 8, width, height));
    if (!out)
        return out;
    gdk_pixbuf_fill(out.get(), 0xFFFFFFFF);
    gdk_pixbuf_composite(pixbuf.get(), out.get(), 0, 0, width, height, 0, 0, 1, 1, GDK_INTERP_NEAREST, 255);
    return out;
}

} // namespace

Result<Jpeg> shrunk(std::string_view image)
{
    if (image.size() > kMostBytes)
        return fail(ErrorCode::TooBig, phrase("it is larger than 40 MB: make it smaller first"));
    return unpacked(image).and_then([](Pixbuf pixbuf) -> Result<Jpeg> {
        pixbuf = opaque(std::move(pixbuf));
        gchar* bytes = nullptr;
        gsize length = 0;
        GError* error = nullptr;
        if (!pixbuf || gdk_pixbuf_save_to_buffer(pixbuf.get(), &bytes, &length, "jpeg", &error, "quality", kQuality,
                                                 nullptr) == FALSE)
            return damaged(error);
        Jpeg out{{bytes, length}, gdk_pixbuf_get_width(pixbuf.get()), gdk_pixbuf_get_height(pixbuf.get())};
        g_free(bytes);
        return out;
    });
}

Result<Jpeg> readImage(const std::filesystem::path& file)
{
    return document::inFile(document::readFile(file, kMostBytes).and_then(&shrunk), file);
}

} // namespace vicegrip::photos
