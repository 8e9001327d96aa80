#include "core/deliver/table_entries.h"

#include "core/base/error.h"
#include "core/base/plain_number.h"
#include "core/deliver/table_forms.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace zl::deliver {

namespace {

using platform::TableOutput;

/// Numbers by what they are and before all else, other keys letter by letter.
bool comesBefore(const std::string& a, const std::string& b) {
    const auto finite = [](const std::string& text) {
        const auto number = onlyNumber<double>(text);
        return number && std::isfinite(*number) ? number : std::nullopt;
    };
    const auto x = finite(a), y = finite(b);
    return x && y ? *x < *y : x ? true : y ? false : a < b;
}

/// What `work` makes of the table, in whatever form it is written.
auto inForm(const std::string& text, const TableOutput& table, const std::string& where, const auto& work) {
    switch (table.form) {
    case TableOutput::Form::Xml: {
        XmlForm form(text, table, where);
        return work(form);
    }
    case TableOutput::Form::Json: {
        JsonForm form(text, table, where);
        return work(form);
    }
    default: {
        CsvForm form(text, table, where);
        return work(form);
    }
    }
}

/// The entries that come, each key once: what was said last counts.
template <class Form>
auto freshIn(Form& form, const std::vector<std::string>& entries) {
    std::vector<Keyed<typename Form::Entry>> out;
    std::map<std::string, std::size_t> at;
    for (const std::string& entry : entries) {
        auto made = form.fresh(entry);
        const auto [known, isNew] = at.emplace(made.key, out.size());
        if (isNew)
            out.push_back(std::move(made));
        else
            out[known->second] = std::move(made);
    }
    return out;
}

template <class Entry>
std::set<std::string> keysOf(const std::vector<Keyed<Entry>>& entries) {
    std::set<std::string> out;
    for (const auto& one : entries) out.insert(one.key);
    return out;
}

/// Gives every entry that comes a number that nobody else has.
template <class Form, class Entries>
void number(const Form& form, Entries& fresh, const Entries& there, const TableOutput& table,
            const std::map<std::string, int>& earlier, const std::string& where) {
    const auto coming = keysOf(fresh);
    std::map<std::string, int> wanted = earlier;
    std::set<int> taken;
    for (const auto& [key, entry] : there)
        if (const auto number = form.numberOf(entry)) {
            if (coming.contains(key))
                wanted[key] = *number;
            else
                taken.insert(*number);
        }
    std::vector<std::size_t> open;
    for (std::size_t i = 0; i < fresh.size(); ++i) {
        const auto had = wanted.find(fresh[i].key);
        if (had != wanted.end() && taken.insert(had->second).second)
            form.setNumber(fresh[i].entry, had->second);
        else
            open.push_back(i);
    }
    int next = table.numbers.first;
    for (const std::size_t i : open) {
        const auto own = form.numberOf(fresh[i].entry);
        const bool fits = own && *own >= table.numbers.first && *own <= table.numbers.second;
        if (fits && taken.insert(*own).second) continue;
        while (taken.contains(next) && next < table.numbers.second) ++next;
        if (!taken.insert(next).second)
            throw Error(
                fmt::format("all numbers from {} to {} are taken", table.numbers.first, table.numbers.second),
                where, "Take entries out of the game's table, or give the sheet more `numbers`.");
        form.setNumber(fresh[i].entry, next);
    }
}

/// Both rows as one: in order, if what was there is in order, else what comes stands at the end.
template <class Entries>
Entries together(Entries there, Entries fresh) {
    const auto coming = keysOf(fresh);
    std::erase_if(there, [&](const auto& one) { return coming.contains(one.key); });
    std::vector<std::string> keys;
    for (const auto& one : there)
        if (!one.key.empty()) keys.push_back(one.key);
    const auto byKey = [](const auto& a, const auto& b) { return comesBefore(a.key, b.key); };
    const bool ordered = std::ranges::is_sorted(keys, comesBefore);
    if (ordered) std::ranges::stable_sort(fresh, byKey);
    Entries out;
    out.reserve(there.size() + fresh.size());
    std::size_t next = 0;
    for (auto& one : there) {
        if (ordered && !one.key.empty())
            while (next < fresh.size() && comesBefore(fresh[next].key, one.key))
                out.push_back(std::move(fresh[next++]));
        out.push_back(std::move(one));
    }
    std::move(fresh.begin() + std::ptrdiff_t(next), fresh.end(), std::back_inserter(out));
    return out;
}

std::map<std::string, int> numbersIn(const std::string& text, const TableOutput& table,
                                     const std::string& where) {
    std::map<std::string, int> out;
    if (!text.empty())
        for (const TableEntry& entry : entriesIn(text, table, where))
            if (entry.number) out.emplace(entry.key, *entry.number);
    return out;
}

} // namespace

std::string tableWith(const std::string& text, const TableOutput& table,
                      const std::vector<std::string>& entries, const std::string& where,
                      const std::string& earlier) {
    return inForm(text, table, where, [&](auto& form) {
        auto fresh = freshIn(form, entries);
        auto there = form.there();
        if (!table.numbered.empty())
            number(form, fresh, there, table, numbersIn(earlier, table, where), where);
        return form.written(together(std::move(there), std::move(fresh)));
    });
}

std::string tableWithout(const std::string& text, const TableOutput& table,
                         const std::vector<std::string>& keys, const std::string& where) {
    return inForm(text, table, where, [&](auto& form) {
        const std::set<std::string> going(keys.begin(), keys.end());
        auto there = form.there();
        std::erase_if(there, [&](const auto& one) { return going.contains(one.key); });
        return form.written(there);
    });
}

std::vector<TableEntry> entriesIn(const std::string& text, const TableOutput& table,
                                  const std::string& where) {
    return inForm(text, table, where, [&](auto& form) {
        std::vector<TableEntry> out;
        for (auto& [key, entry] : form.there())
            if (!key.empty())
                out.push_back(
                    {key, form.textOf(entry), table.numbered.empty() ? std::nullopt : form.numberOf(entry)});
        return out;
    });
}

} // namespace zl::deliver
