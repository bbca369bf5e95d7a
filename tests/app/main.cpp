#include "app/look/look.h"

#include <QApplication>
#include <QTemporaryDir>

#include <gtest/gtest.h>

int main(int argc, char** argv)
{
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    qputenv("LC_ALL", "C.UTF-8"); // whoever runs them: a first window shows the units of its country
    qputenv("QT_LOGGING_RULES", "qt.canbus.*=false");
    const QTemporaryDir config; // nobody's own
    qputenv("XDG_CONFIG_HOME", config.path().toUtf8());
    testing::InitGoogleTest(&argc, argv);
    QApplication app(argc, argv);
    vicegrip::app::look::apply(app, false);
    return RUN_ALL_TESTS();
}
