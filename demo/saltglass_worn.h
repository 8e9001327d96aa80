#pragma once
#include "solids.h"

#include <functional>

namespace zl::demo {

/// Adds a thing's solids: metres, Y up, front to +Z.
using Shape = std::function<void(Solids&)>;

// What is worn: about the joint of the bone it hangs on.
Shape hat(double brim, double tall);
void shoulderNet(Solids& s);
Shape oilskin(double girth, double hem);
Shape armBasket(int filling);
Shape handLantern(double size);
Shape belt(double girth);
Shape satchel(double wide);
Shape collar(double radius);

} // namespace zl::demo
