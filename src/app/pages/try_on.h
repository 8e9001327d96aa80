#pragma once
#include "app/pages/package_rows.h"
#include "app/session.h"

#include "core/package/group_pictures.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

/// How a geometry of a package looks, and how it would in other pictures, group by group; nothing of the
/// package changes before it is assigned for good.
class TryOn : public QWidget {
    Q_OBJECT
public:
    TryOn(Session& session, const PackageRows& rows, QWidget* parent = nullptr);

    /// The geometry at `row`; -1 for none.
    void show(int row);

Q_SIGNALS:
    /// Other bytes for the resource at `row`, to be kept until they are saved.
    void assigned(int row, const std::string& bytes);

private:
    void addGroup(std::size_t group);
    void wear(std::size_t resource, std::string bytes);
    void draw();
    void assign();

    Session& session_;
    const PackageRows& rows_;
    int row_ = -1;
    std::vector<package::WornGroup> groups_;
    std::map<std::size_t, std::string> tried_; ///< other bytes, by resource
    QLabel *look_, *words_;
    QVBoxLayout* list_;
    QPushButton* assign_;
    QPointer<Job> drawing_;
};

} // namespace zl::app
