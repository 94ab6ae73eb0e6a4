"""Changes as people make them in a return, at random: a field, a row, an override. Values that fit and values that do not."""

from decimal import Decimal

from taxcore.engine import Override, PaperValues, Rows
from taxcore.packs.us import PACK


class Editing:
    """Edits of one return from a source of chance (random.Random). `lines` are addresses that may be overridden."""

    def __init__(self, chance, lines):
        self.chance, self.lines = chance, sorted(lines)

    def edited(self, data):
        """The return with one thing changed; the papers stay the same ones, in their order."""
        if self.chance.random() < 0.1:
            return self._overridden(data)
        at = self.chance.randrange(len(data.papers))
        paper = data.papers[at]
        kind = PACK.by_kind.get(paper.kind)
        if kind is None:
            return data
        name = self.chance.choice([name for name in kind.fields() if name != "role"])
        values = {**paper.values, name: self._value(kind.fields()[name], paper.values.get(name), data)}
        changed = PaperValues(paper.id, paper.kind, values, paper.attached)
        return data.but(papers=(*data.papers[:at], changed, *data.papers[at + 1 :]))

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
