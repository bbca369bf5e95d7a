#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <functional>
#include <map>
#include <vector>

class QCheckBox;
class QGridLayout;
class QLineEdit;

namespace vicegrip::app {

class EcuChooser;
class TypedField;

/// The facts of the engine, each typed or chosen and put into the job at once. What a fact would change in the circuits
/// is the page's to show.
class FactsForm : public QWidget
{
    Q_OBJECT

  public:
    explicit FactsForm(Desk& desk, QWidget* parent = nullptr);

    void refresh();

    struct Field
    {
        QString key; ///< the fact's name in the file
        QString name; ///< beside the field
        QWidget* widget;
    };
    [[nodiscard]] const std::vector<Field>& fields() const { return m_fields; }
    /// Puts the keys into a field; whether there is one of that name.
    bool goTo(const QString& field);

  signals:
    void describeEcuAsked();

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    using Understand = std::function<Result<double>(const QString&)>;
    using Say = std::function<QString(double)>;
    using Put = std::function<void(job::Job&, double)>;
    using Get = std::function<double(const job::Brief&)>;

    void addHeading(const QString& text);
    void addNumber(const char* field, const QString& name, const Understand& read, const Say& say, const Get& get,
                   const Put& put);
    void addQuantity(const char* field, const QString& name, units::Dimension dimension, const char* unit, int decimals,
                     double job::Brief::*member);
    template <class E>
    void addChoice(const char* field, const QString& name, E job::Brief::*member,
                   const std::vector<std::pair<E, QString>>& choices);
    void addText(const char* field, const QString& name, std::string job::Brief::*member);
    void addPrice(const char* field, const QString& name, double job::Prices::*member);
    void addFiringOrder();
    void addBanks();
    void addInjectors();
    void addShown();
    QCheckBox* addCheck(QGridLayout* grid, const QString& name, const QString& objectName);
    template <class Value>
    void addTyped(const char* field, const QString& name, const QString& example,
                  const std::function<Result<Value>(const QString&)>& understand,
                  const std::function<QString(const Value&)>& say, Value job::Brief::*member);
    void addWatched();
    void addRow(const QString& key, const QString& name, QWidget* widget);
    void edit(TypedField* field, const QString& description, const Change& change);
    [[nodiscard]] job::Brief brief() const;

    Desk& m_desk;
    QGridLayout* m_grid;
    std::vector<std::function<void(const job::Brief&)>> m_showers; ///< put the brief's facts into the fields
    std::map<std::string, TypedField*> m_typed; ///< by the fact's name in the file
    std::vector<Field> m_fields;
    EcuChooser* m_ecu;
    std::map<std::string, QCheckBox*> m_watch;
};

} // namespace vicegrip::app
