"""Changes as people make them in a return, at random: a field, a row, an override, a paper that comes, goes or moves, another role.
Values that fit and values that do not."""

from dataclasses import replace
from decimal import Decimal

from taxcore.engine import Override, PaperValues, Rows
from taxcore.packs.us import PACK

_ROLES = ("taxpayer", "spouse", "dependant")


class Editing:
    """Edits of one return from a source of chance (random.Random). `lines` are addresses that may be overridden."""

    def __init__(self, chance, lines):
        self.chance, self.lines = chance, sorted(lines)

    def edited(self, data):
        """The return with one thing changed."""
        act = self.chance.random()
        if act < 0.1:
            return self._overridden(data)
        if act < 0.3:
            return data.but(
                papers=self.chance.choice((self._came, self._came, self._went, self._moved, self._filed, self._carried))(data)
            )
        at = self.chance.randrange(len(data.papers))
        paper = data.papers[at]
        kind = PACK.by_kind.get(paper.kind)
        if kind is None:
            return data
        name = self.chance.choice([name for name in kind.fields() if name != "role"] + ["role"] * (kind is PACK.people))
        value = self.chance.choice(_ROLES) if name == "role" else self._value(kind.fields()[name], paper.values.get(name), data)
        changed = replace(paper, values={**paper.values, name: value})
        return data.but(papers=(*data.papers[:at], changed, *data.papers[at + 1 :]))

    def _came(self, data):
        """Another paper with some of its fields, or another person."""
        kind = self.chance.choice([one for one in PACK.papers if one.jurisdiction == "us"] + [PACK.people] * 8)
        names = [name for name in kind.fields() if name != "role"]
        values = {name: self._value(kind.fields()[name], None, data) for name in self.chance.sample(names, min(5, len(names)))}
        if kind is PACK.people:
            values["role"] = self.chance.choice(_ROLES)
        new = next(key for key in (f"new-{number}" for number in range(1_000)) if key not in {one.id for one in data.papers})
        at = self.chance.randint(0, len(data.papers))
        return (*data.papers[:at], PaperValues(new, kind.kind, values), *data.papers[at:])

    def _went(self, data):
        at = self.chance.randrange(len(data.papers))
        return data.papers[:at] + data.papers[at + 1 :] if len(data.papers) > 1 else data.papers

    def _moved(self, data):
        papers = list(data.papers)
        papers.append(papers.pop(self.chance.randrange(len(papers))))
        return tuple(papers)

    def _filed(self, data):
        at = self.chance.randrange(len(data.papers))
        return (*data.papers[:at], replace(data.papers[at], attached=self.chance.randint(0, 2)), *data.papers[at + 1 :])

    def _carried(self, data):
        """Something of a paper waits to be confirmed, or was."""
        at = self.chance.randrange(len(data.papers))
        names = tuple(name for name in data.papers[at].values if self.chance.random() < 0.3)
        return (*data.papers[:at], replace(data.papers[at], carried=names), *data.papers[at + 1 :])

    def _overridden(self, data):
        overrides = dict(data.overrides)
        if overrides and self.chance.random() < 0.5:
            overrides.pop(self.chance.choice(sorted(overrides)))
        else:
            overrides[self.chance.choice(self.lines)] = Override(Decimal(self.chance.randint(0, 90_000)), "because")
        return data.but(overrides=overrides)

    def _value(self, field, old, data):
        chance = self.chance
        if isinstance(field, Rows):
            return self._rows(field, [dict(row) for row in old or ()], data)
        if chance.random() < 0.2:
            return ""
        day = f"{chance.choice((1950, 1961, 1985, 2008, 2016, data.year))}-{chance.randint(1, 12):02d}-0{chance.randint(1, 9)}"
        return {
            "amount": chance.choice(("0", str(chance.randint(1, 900)), str(chance.randint(1, 300_000)), "x", "-5")),
            "count": str(chance.randint(0, 14)),
            "flag": chance.choice(("yes", "no")),
            "choice": chance.choice(list(getattr(field, "options", {"": ""}))),
            "date": day,
            "refer": chance.choice([paper.id for paper in data.papers]),
        }.get(field.kind, chance.choice(("Abc", "12", "916-20-1111", "TX")))

    def _rows(self, field, rows, data):
        act = self.chance.random()
        if rows and act < 0.6:
            row = self.chance.choice(rows)
            name, inner = self.chance.choice(list(field.row.fields().items()))
            row[name] = self._value(inner, row.get(name), data)
        elif act < 0.8 or not rows:
            rows.append({"id": str(max((int(row["id"]) for row in rows), default=0) + 1)})
        else:
            rows.pop(self.chance.randrange(len(rows)))
        return rows
