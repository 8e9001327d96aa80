#pragma once
#include "app/session.h"
#include "app/view/tryout_view.h"

class QComboBox;
class QVBoxLayout;

namespace zl::app {

/// The delivered files in the platform's stand-in: what it says of them, and what it measures.
class TryoutPage : public QWidget {
    Q_OBJECT
public:
    TryoutPage(Session& session, QWidget* parent = nullptr);
    /// Loads what lies in the folder; nothing else is looked at.
    void load(const QString& folder);
    bool isReady() const { return ready_; }
    TryoutView& view() { return *view_; }

private:
    struct Loaded {
        standins::TryReport report;
        std::shared_ptr<const standins::table::Figure> figure;
        standins::table::Measured own, box;
    };
    void show(const Loaded& loaded);
    Session& session_;
    TryoutView* view_;
    QVBoxLayout* side_;
    QComboBox* finish_;
    QWidget* tools_;
    bool ready_ = false;
};

} // namespace zl::app
