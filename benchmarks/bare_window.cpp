#include <QApplication>
#include <QMainWindow>
#include <QTimer>

/// An empty QMainWindow of the same size: shows itself, draws once, ends.
int main(int argc, char** argv)
{
    QApplication app(argc, argv);
    QMainWindow window;
    window.resize(1280, 800);
    window.show();
    QTimer::singleShot(0, &app, &QApplication::quit);
    return QApplication::exec();
}
