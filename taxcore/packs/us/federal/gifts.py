"""Gifts to charity: the limits by kind, and Form 8283. IRC 170."""

from taxcore.engine import ZERO, excess, fact, greatest, least, line, linked, share, times, total, whole
from taxcore.packs.us.balances import GIFT_CARRYOVER
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share

_MONEY = ("", "cash", "cash-private")
GIFT_KINDS = ("cash", "property", "gain", "cash-private", "gain-private")


class Gifts(FederalForm):
    """Which gifts count, kind by kind within its share of income. Pub. 526; IRC 170(b)(1), (d)(1).

    This year's gifts come before those carried over from last year, and the kinds with the higher limits before the others.
    """

    number, name, worksheet = "Gifts", "Charitable contribution limits", True
    needs = ("gift", "gift-carryover", "k1-1065", "k1-1120s")
    income = linked("us.1040")

    def required(self):
        return self.together > 0

    def _given(self, kind):
        papers = [p for p in self.papers("gift") if (p.gift_kind or "cash") == kind]
        miles = [times(p.miles or 0, self.law.itemized.gift_mile, of="miles") for p in papers]
        shares = [of_share(p, "cash_gifts") for k in ("k1-1065", "k1-1120s") for p in self.papers(k)] if kind == "cash" else []
        return total([p.amount for p in papers], miles, shares)

    def _oldest(self):
        """The year whose gifts can be carried into this one for the last time."""
        return self.year - int(self.law.carried_years.gifts.most)

    def _rows(self, kind):
        rows = [row for row in self.paper("gift-carryover").rows if row.gift_kind == kind]
        return [row for row in rows if (row.from_year or 0) >= self._oldest()]

    def _carried(self, kind):
        return total([row.amount for row in self._rows(kind)])

    @fact("AGI for the limits", cites="IRC 170(b)(1)(H)")
    def base(self):
        return greatest(self.income.adjusted_gross_income, 0)

    def _left(self, part, *used):
        return excess(share(self.law.itemized[part], of=self.base), over=used)

    @line("1", "Cash, public charities")
    def cash(self):
        return least(of={"given": self._given("cash"), "60% of income": self._left("cash_gift_share")})

    @line("2", "Property, public charities")
    def things(self):
        return least(of={"given": self._given("property"), "50% of income less line 1": self._left("half_share", self.cash)})

    @line("3", "Capital gain property, public charities")
    def gain_property(self):
        room = least(self._left("gain_property_share"), self._left("half_share", self.cash, self.things))
        return least(of={"given": self._given("gain"), "30% of income, 50% with lines 1 and 2": room})

    @line("4", "Cash, private foundations")
    def private_cash(self):
        public = total(self._given("cash"), self._given("property"), self._given("gain"))
        room = least(self._left("gain_property_share"), self._left("half_share", public))
        return least(of={"given": self._given("cash-private"), "30% of income": room})

    @line("5", "Appreciated stock, private foundations")
    def private_gain(self):
        used = (self.cash, self.things, self.gain_property, self.private_cash)
        room = least(self._left("private_share"), self._left("gain_property_share", self.gain_property),
                     self._left("half_share", *used))  # fmt: skip
        return least(of={"given": self._given("gain-private"), "20% of income": room})

    @line("6", "Carryover, cash")
    def carried_cash(self):
        return least(self._carried("cash"), self._left("cash_gift_share", self.cash, self.things, self.gain_property))

    @line("7", "Carryover, property")
    def carried_things(self):
        used = (self.cash, self.things, self.gain_property, self.carried_cash)
        return least(total(self._carried("property")), self._left("half_share", *used))

    @line("8", "Carryover, capital gain property")
    def carried_gain(self):
        used = (self.cash, self.things, self.gain_property, self.carried_cash, self.carried_things)
        room = least(self._left("gain_property_share", self.gain_property), self._left("half_share", *used))
        return least(self._carried("gain"), room)

    @line("9", "Carryover, private foundations")
    def carried_private(self):
        used = (self.cash, self.things, self.gain_property, self.private_cash, self.carried_cash, self.carried_things,
                self.carried_gain)  # fmt: skip
        room = least(self._left("gain_property_share", self.private_cash), self._left("half_share", *used))
        return least(total(self._carried("cash-private"), self._carried("gain-private")), room)

    @line("10", "Allowed this year", weight="total")
    def together(self):
        return total(self.given_money, self.given_things, self.carried)

    @fact("Cash contributions allowed")
    def given_money(self):
        return total(self.cash, self.private_cash)

    @fact("Property contributions allowed")
    def given_things(self):
        return total(self.things, self.gain_property, self.private_gain)

    @fact("Carryover allowed")
    def carried(self):
        return total(self.carried_cash, self.carried_things, self.carried_gain, self.carried_private)

    @line("11", "Carryover to next year", closes=GIFT_CARRYOVER, by_origin="left_by_year", used="carried", expired="expired")
    def left(self):
        """Each year's in its kind; what is five years old by now is lost. IRC 170(d)(1)(A)(ii)."""
        given = total([self._given(kind) for kind in GIFT_KINDS])
        before = total([self._carried(kind) for kind in GIFT_KINDS])
        return excess(total(given, before), over=[self.together, self.expired])

    @fact("Carryover that ends with this year", rounding=whole)
    def expired(self):
        return total([amount for year, _, amount in self._parts() if year == self._oldest()])

    def left_by_year(self):
        """Rows of the next year's carryover, the oldest first."""
        return [
            {"from_year": str(year), "gift_kind": kind, "amount": f"{amount:f}"}
            for year, kind, amount in self._parts()
            if year > self._oldest()
        ]

    def _parts(self):
        """What is left, as (year, kind, amount): of a kind, the oldest is used first. IRC 170(d)(1)(A)."""
        used = {
            "cash": self.carried_cash, "property": self.carried_things, "gain": self.carried_gain,
            "cash-private": least(self._carried("cash-private"), self.carried_private),
        }  # fmt: skip
        used["gain-private"] = excess(self.carried_private, over=used["cash-private"])
        allowed = {
            "cash": self.cash, "property": self.things, "gain": self.gain_property, "cash-private": self.private_cash,
            "gain-private": self.private_gain,
        }  # fmt: skip
        parts = []
        for kind in GIFT_KINDS:
            gone = used[kind]
            for row in sorted(self._rows(kind), key=lambda row: row.from_year):
                parts.append((row.from_year, kind, excess(row.amount, over=gone)))
                gone = excess(gone, over=row.amount)
            parts.append((self.year, kind, excess(self._given(kind), over=allowed[kind])))
        return sorted((year, kind, whole(amount)) for year, kind, amount in parts if whole(amount) > 0)


class NonCashGifts(FederalForm):
    """Form 8283, section A, one for each charity. IRC 170(f)(11)."""

    number, name, per = "8283", "Noncash charitable contributions", "gift"

    @property
    def gift(self):
        return self.run.by_key(("gift",), self.key)

    def required(self):
        """Where all things given, not money, are more than the law's amount together."""
        things = [paper for paper in self.papers("gift") if paper.gift_kind not in _MONEY]
        return self.gift in things and sum((p.amount for p in things), ZERO) > self.law.itemized.things_form_above

    @line("1h", "Fair market value")
    def value(self):
        return total(self.gift.amount)

    @line("1g", "Cost or basis")
    def cost(self):
        return total(self.gift.cost)
