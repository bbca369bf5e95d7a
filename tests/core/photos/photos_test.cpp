#include "core/photos/photos.h"

#include "core/book/book.h"
#include "core/book/html.h"
#include "core/book/pdf.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"
#include "tests/support/tool.h"

#include <gmock/gmock.h>
#include <random>

/// Photos of the work: what is kept of them, where, and how they stand in the book. Pictures are made and read by
/// programs of other people.
namespace vicegrip::photos {
namespace {

namespace fs = std::filesystem;
using testing::HasSubstr;
using testing::Not;

std::string bytesOf(const fs::path& file)
{
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

/// A folder of the test's own.
class Photos : public testing::Test
{
  protected:
    Photos() : folder(fs::temp_directory_path() / ("photos-" + std::to_string(getpid())))
    {
        fs::create_directories(folder);
    }
    ~Photos() override { fs::remove_all(folder); }

    [[nodiscard]] std::string at(const std::string& name) const { return (folder / name).string(); }

    /// Red, green / blue, white, in quarters.
    fs::path quarters(const std::string& name, int width, int height)
    {
        std::string pixels = "P6\n" + std::to_string(width) + " " + std::to_string(height) + "\n255\n";
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x) {
                const int quarter = (y < height / 2 ? 0 : 2) + (x < width / 2 ? 0 : 1);
                pixels += std::string(1, quarter == 0 || quarter == 3 ? '\xff' : '\0') +
                          std::string(1, quarter == 1 || quarter == 3 ? '\xff' : '\0') +
                          std::string(1, quarter >= 2 ? '\xff' : '\0');
            }
        const test::Written ppm("quarters.ppm", pixels);
        const auto made = test::tool("cjpeg -quality 95 -outfile " + at(name) + " " + ppm.path());
        EXPECT_EQ(made.code, 0) << made.out;
        return at(name);
    }

    /// The letters of the colours in its four quarters, row by row.
    std::string quartersOf(const Jpeg& photo)
    {
        const test::Written file("shown.jpg", photo.bytes);
        const auto ppm = test::tool("djpeg -pnm " + file.path());
        EXPECT_EQ(ppm.code, 0);
        const size_t from = ppm.out.size() - static_cast<size_t>(photo.width) * static_cast<size_t>(photo.height) * 3;
        std::string out;
        for (const int y : {photo.height / 4, photo.height * 3 / 4})
            for (const int x : {photo.width / 4, photo.width * 3 / 4}) {
                const size_t at = from + 3 * static_cast<size_t>(y * photo.width + x);
                const auto high = [&](size_t c) { return static_cast<unsigned char>(ppm.out[at + c]) > 128; };
                out += high(0) && high(1) && high(2) ? 'W' : high(0) ? 'R' : high(1) ? 'G' : high(2) ? 'B' : '?';
            }
        return out;
    }

    fs::path folder;
};

/// Exif's tag 274 (JEITA CP-3451): which side of what is seen the first row and the first column are.
TEST_F(Photos, StandUprightWhicheverWayTheCameraWasHeld)
{
    const std::pair<int, const char*> turned[] = {{1, "RGBW"}, {2, "GRWB"}, {3, "WBGR"}, {4, "BWRG"},
                                                  {5, "RBGW"}, {6, "BRWG"}, {7, "WGBR"}, {8, "GWRB"}};
    for (const auto& [mark, seen] : turned) {
        const auto file = quarters("turned.jpg", 120, 80);
        const auto marked =
            test::tool("exiftool -q -overwrite_original -n -Orientation=" + std::to_string(mark) + " " + file.string());
        ASSERT_EQ(marked.code, 0) << marked.out;
        const auto photo = readImage(file);
        ASSERT_TRUE(photo) << photo.error().text();
        EXPECT_EQ(photo->width, mark < 5 ? 120 : 80) << mark;
        EXPECT_EQ(quartersOf(*photo), seen) << mark;
    }
    const auto large = quarters("large.jpg", 3200, 2400); // one that is shrunk on the way
    ASSERT_EQ(test::tool("exiftool -q -overwrite_original -n -Orientation=6 " + large.string()).code, 0);
    const auto photo = readImage(large);
    ASSERT_TRUE(photo);
    EXPECT_EQ(photo->height, kMost_px);
    EXPECT_EQ(quartersOf(*photo), "BRWG");
}

TEST_F(Photos, NothingButThePictureIsKept)
{
    const auto file = quarters("marked.jpg", 64, 64);
    const auto marked = test::tool("exiftool -q -overwrite_original -GPSLatitude=47.1234 -GPSLatitudeRef=N "
                                   "-Make=SomebodysCamera -SerialNumber=S4711 -DateTimeOriginal='2026:05:06 07:08:09' "
                                   "-XMP:Creator=SomebodysName -IPTC:City=SomebodysTown -Comment=SomebodysComment " +
                                   file.string());
    ASSERT_EQ(marked.code, 0) << marked.out;
    ASSERT_THAT(bytesOf(file), HasSubstr("SomebodysTown")) << "it was there";
    const auto photo = readImage(file);
    ASSERT_TRUE(photo);
    EXPECT_THAT(photo->bytes, Not(HasSubstr("Somebody")));
    const test::Written kept("kept.jpg", photo->bytes);
    const auto said = test::tool("exiftool -G0 -s -a -u " + kept.path());
    for (const char* group : {"[EXIF]", "[XMP]", "[IPTC]", "[Composite]     GPS", "[ICC_Profile]", "Comment"})
        EXPECT_THAT(said.out, Not(HasSubstr(group))) << said.out;
    EXPECT_THAT(said.out, HasSubstr("64x64"));
}

TEST_F(Photos, AreMadeSmallerAndNeverLarger)
{
    const auto wide = readImage(quarters("wide.jpg", 3201, 401));
    ASSERT_TRUE(wide);
    EXPECT_EQ(wide->width, kMost_px);
    EXPECT_EQ(wide->height, 200);
    EXPECT_EQ(quartersOf(*wide), "RGBW");
    const auto small = readImage(quarters("small.jpg", 40, 20));
    ASSERT_TRUE(small);
    EXPECT_EQ(small->width, 40);
    const auto thin = readImage(quarters("thin.jpg", 6000, 2));
    ASSERT_TRUE(thin);
    EXPECT_EQ(thin->height, 1);
}

TEST_F(Photos, APictureWithHolesStandsOnWhite)
{
    const test::Written svg("holes.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='40' height='40'>"
                                         "<rect width='20' height='20' fill='#f00'/></svg>");
    ASSERT_EQ(test::tool("rsvg-convert -o " + at("holes.png") + " " + svg.path()).code, 0);
    const auto photo = readImage(at("holes.png"));
    ASSERT_TRUE(photo) << photo.error().text();
    EXPECT_EQ(quartersOf(*photo), "RWWW");
    EXPECT_THAT(readImage(svg.path()).error().text(), HasSubstr("it is no photo")) << "nothing is asked to read it";
}

uint32_t crcOf(std::string_view bytes) // ISO 3309, as PNG has it
{
    uint32_t crc = 0xFFFFFFFF;
    for (const char c : bytes) {
        crc ^= static_cast<unsigned char>(c);
        for (int k = 0; k < 8; ++k)
            crc = crc & 1U ? crc >> 1U ^ 0xEDB88320U : crc >> 1U;
    }
    return ~crc;
}

TEST_F(Photos, WhatIsNoneIsSaidAndUnpacksNothing)
{
    const auto big = [](uint32_t number) {
        std::string out;
        for (int shift = 24; shift >= 0; shift -= 8)
            out += static_cast<char>(number >> static_cast<unsigned>(shift));
        return out;
    };
    const std::string head = "IHDR" + big(60000) + big(60000) + std::string("\x08\x02\0\0\0", 5);
    const std::string bomb =
        "\x89PNG\r\n\x1A\n" + big(13) + head + big(crcOf(head)) + big(1000) + "IDAT" + std::string(1000, 'x');
    const std::string whole = bytesOf(quarters("whole.jpg", 400, 300));
    const std::pair<std::string, const char*> wrong[] = {{"", "it is empty"},
                                                         {"no photo", "it is no photo"},
                                                         {whole.substr(0, whole.size() / 2), "cut off"},
                                                         {whole.substr(0, 20), "cut off"},
                                                         {"\xFF\xD8\xFF" + std::string(100, '\0'), "damaged"},
                                                         {"\x89PNG\r\n\x1A\n", "cut off"},
                                                         {bomb, "64 million pixels"},
                                                         {std::string(41 << 20, '\xFF'), "40 MB"}};
    for (const auto& [bytes, sentence] : wrong) {
        const auto photo = shrunk(bytes);
        ASSERT_FALSE(photo) << bytes.substr(0, 10);
        EXPECT_THAT(photo.error().sentence, HasSubstr(sentence));
    }
    EXPECT_THAT(readImage(folder).error().text(), HasSubstr("this is a folder"));
    EXPECT_THAT(readImage(at("gone.jpg")).error().text(), HasSubstr("gone.jpg"));
    std::ofstream(at("huge.jpg")) << whole;
    fs::resize_file(at("huge.jpg"), 500U << 20U); // with a hole
    EXPECT_EQ(readImage(at("huge.jpg")).error().code, ErrorCode::TooBig);
}

TEST_F(Photos, DamagedOnesAreRefusedOrShown)
{
    const std::string whole = bytesOf(quarters("whole.jpg", 120, 90));
    std::mt19937 random(3);
    for (int i = 0; i < 300; ++i) {
        std::string bytes = whole;
        for (int k = 0; k < 1 + i % 5; ++k)
            bytes[3 + random() % (bytes.size() - 3)] = static_cast<char>(random());
        if (const auto photo = shrunk(bytes)) {
            EXPECT_LE(std::max(photo->width, photo->height), kMost_px);
        }
    }
}

TEST_F(Photos, AreKeptOnceBesideTheJobAndMissedWithoutHarm)
{
    const fs::path file = folder / "petrel.vicegrip";
    const auto photo = readImage(quarters("a.jpg", 60, 40));
    const auto name = keep(*photo, file), again = keep(*photo, file);
    ASSERT_TRUE(name) << name.error().text();
    EXPECT_EQ(*name, *again);
    EXPECT_TRUE(fs::exists(folder / "petrel-photos" / *name));
    job::Job job = test::petrel();
    job.photos = {{.file = *name, .of = job::PhotoOf::Circuit, .subject = "clt", .words = "Its plug", .when = {}},
                  {.file = "gone-1x1.jpg", .of = job::PhotoOf::Plug, .subject = "NONE", .words = {}, .when = {}}};
    const auto read = job::read(job::write(job));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(*read, job);
    Album album = albumOf(job, file);
    ASSERT_TRUE(album.at(*name));
    EXPECT_EQ(*album.at(*name), *photo);
    EXPECT_FALSE(album.at("gone-1x1.jpg"));
    EXPECT_EQ(subjectText(job, job.photos[0]), "Coolant temp");
    EXPECT_EQ(subjectText(job, job.photos[1]), "NONE, no longer in the job");
    // Somebody's own file under that name: what is shown of it is only the picture.
    const auto other = quarters("b.jpg", 80, 80);
    ASSERT_EQ(test::tool("exiftool -q -overwrite_original -Comment=SomebodysComment " + other.string()).code, 0);
    fs::copy_file(other, folder / "petrel-photos" / *name, fs::copy_options::overwrite_existing);
    album = albumOf(job, file);
    ASSERT_TRUE(album.at(*name));
    EXPECT_EQ(album.at(*name)->width, 80);
    EXPECT_THAT(album.at(*name)->bytes, Not(HasSubstr("Somebody")));

    // A name that makes up a size no photo here has.
    const Jpeg made{"no photo at all", 90000, 90000};
    const auto madeUp = keep(made, file);
    ASSERT_TRUE(madeUp);
    EXPECT_FALSE(photoOf({.file = *madeUp, .subject = "clt", .words = {}, .when = {}}, file));

    ASSERT_TRUE(carry(job, file, folder / "copy.vicegrip"));
    EXPECT_TRUE(fs::exists(folder / "copy-photos" / *name));
    std::string text = job::write(job);
    text.replace(text.find(*name), name->size(), "../../x.jpg");
    EXPECT_FALSE(job::read(text)) << "no way out of the folder";
}

TEST_F(Photos, StandInTheBookAsTheyAre)
{
    const fs::path file = folder / "petrel.vicegrip";
    job::Job job = test::petrel();
    for (const int width : {300, 420}) {
        const auto name = keep(*readImage(quarters("p.jpg", width, 200)), file);
        ASSERT_TRUE(name);
        job.photos.push_back({.file = *name,
                              .of = job::PhotoOf::Plug,
                              .subject = "CLT",
                              .words = "Before the boot",
                              .when = "2026-03-01T10:00:00Z"});
    }
    job.photos.push_back(
        {.file = "gone-1x1.jpg", .of = job::PhotoOf::Circuit, .subject = "clt", .words = "The bolt", .when = {}});
    const auto book = book::bookOf(test::analysed(job), {book::Chapter::Photos, book::Chapter::Logbook},
                                   {{}, albumOf(job, file), {}});
    const auto pdf = book::pdfOf(book), again = book::pdfOf(book);
    ASSERT_TRUE(pdf);
    EXPECT_EQ(*pdf, *again);
    const test::Written written("photos.pdf", *pdf);
    const auto images = test::tool("pdfimages -list " + written.path());
    EXPECT_THAT(images.out, HasSubstr("jpeg")) << images.out;
    EXPECT_THAT(images.out, HasSubstr(" 300   200 ")) << images.out;
    EXPECT_THAT(images.out, HasSubstr(" 420   200 ")) << images.out;
    EXPECT_EQ(test::tool("qpdf --check " + written.path()).code, 0);
    const auto text = test::tool("pdftotext -layout " + written.path() + " -");
    EXPECT_THAT(text.out, HasSubstr("Before the boot, 2026-03-01 10:00"));
    EXPECT_THAT(text.out, HasSubstr("gone-1x1.jpg is not there"));
    const std::string html = book::htmlOf(book);
    EXPECT_THAT(html, HasSubstr("data:image/jpeg;base64,"));
    const test::Written page("photos.html", html);
    EXPECT_LE(test::tool("tidy -q -e --drop-empty-elements no " + page.path()).code, 1);
}

} // namespace
} // namespace vicegrip::photos
