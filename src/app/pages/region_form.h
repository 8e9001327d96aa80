#pragma once
#include "core/upload/secret.h"

#include <QWidget>

#include <memory>

class QCheckBox;
class QLineEdit;

namespace zl::app {

class ChoiceBox;

/// Where a region's server is, who logs in, and into which region. Server and name are remembered; the
/// password stays in its field until it is taken, and nowhere after that.
class RegionForm : public QWidget {
    Q_OBJECT
public:
    explicit RegionForm(const QStringList& regions, QWidget* parent = nullptr);

    bool isFilled() const; ///< as far as it can be told: the keyring may know the password
    QString server() const, user() const;
    int region() const;
    bool keeps() const; ///< the password, in the desktop's keyring
    /// What was typed, which the field forgets; remembers server and name.
    std::shared_ptr<upload::Secret> takePassword();

Q_SIGNALS:
    void changed();

private:
    QLineEdit *server_, *user_, *password_;
    QCheckBox* keeps_;
    ChoiceBox* region_;
};

} // namespace zl::app
