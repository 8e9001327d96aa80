#pragma once
#include "app/pages/region_form.h"

#include <QDialog>

namespace zl::app {

/// Asks who goes to see what stands where a stand-in runs as a server.
class VisitDialog : public QDialog {
    Q_OBJECT
public:
    VisitDialog(const QStringList& places, QWidget* parent);

Q_SIGNALS:
    void asked(const QString& server, const QString& user,
               const std::shared_ptr<zl::upload::Secret>& password, bool keeps, int place);

private:
    RegionForm* form_;
};

} // namespace zl::app
