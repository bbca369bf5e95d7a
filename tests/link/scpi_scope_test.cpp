#include "link/scpi_scope.h"
#include "tests/support/fake_meter.h"

#include <QSignalSpy>
#include <gmock/gmock.h>

/// A scope that answers nonsense: a sentence each time, and nothing is taken for volts.
namespace vicegrip::link {
namespace {

using testing::HasSubstr;

std::string saidOf(const QByteArray& answer)
{
    const test::FakeMeter fake(answer);
    ScpiScope scope;
    QSignalSpy failed(&scope, &ScpiScope::failed), swept(&scope, &ScpiScope::swept);
    scope.take(fake.address(), {});
    EXPECT_TRUE(failed.wait(8000)) << answer.left(40).toStdString();
    EXPECT_TRUE(swept.isEmpty());
    EXPECT_FALSE(scope.isBusy());
    return failed.isEmpty() ? std::string() : failed.first().first().toString().toStdString();
}

TEST(ScpiScope, NonsenseIsASentence)
{
    EXPECT_THAT(saidOf("hello\n"), HasSubstr("how far apart"));
    EXPECT_THAT(saidOf("-1\n"), HasSubstr("how far apart"));
    EXPECT_THAT(saidOf("1E-5\n"), HasSubstr("no block"));
    EXPECT_THAT(saidOf("#0abc\n"), HasSubstr("how long it is"));
    EXPECT_THAT(saidOf("#x\n"), HasSubstr("how long it is"));
    EXPECT_THAT(saidOf("#9999999999"), HasSubstr("too long"));
    EXPECT_THAT(saidOf(QByteArray(200000, 'x')), HasSubstr("without an end"));
}

} // namespace
} // namespace vicegrip::link
