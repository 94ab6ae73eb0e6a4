"""Last year beside this year."""

from taxcore.engine import PaperValues, Rows
from taxcore.packs.us import PACK
from taxcore.packs.us.balances import GIFT_CARRYOVER, QUALIFIED_LOSS
from taxcore.packs.us.checks.against_papers import _EVERY_YEAR
from taxcore.packs.us.checks.against_return import _GONE
from taxcore.packs.us.checks.carried import compared
from taxcore.packs.us.tests.diagnosed.making import (
    after,
    alimony,
    coded,
    dividends,
    gift,
    nursery,
    paper,
    pension,
    rows,
    single,
    tuition,
    wage,
)
from taxcore.packs.us.tests.diagnosed.paid import shop
from taxcore.packs.us.tests.returns import child, filing, person, w2

_APART = (GIFT_CARRYOVER, QUALIFIED_LOSS)  # they have cases of their own below
_CARRIED = [row for row in compared(PACK.papers, PACK.forms) if row[3] not in _APART and not isinstance(row[1].field, Rows)]


def carried(opening, closing, left):
    """This year's paper carries 40 in; last year's line left so much."""
    kind, values = opening.paper.kind, {opening.field.name: "40"}
    if opening.paper.single:
        return after((filing(),), single(kind, **values), lines={closing.name(None): left})
    if opening.paper.once_each:
        return after((filing(),), paper(kind, "x1", **values), lines={closing.name("taxpayer"): left})
    if kind == "business":
        return after((shop(),), shop(**values), lines={closing.name("b1"): left})
    named = {opening.paper.heading: "Tern Point"}
    return after((paper(kind, "x1", **named),), paper(kind, "x1", **named, **values), lines={closing.name("x1"): left})


def came(kind):
    """A statement of last year, of a payer that is known by name."""
    heading = PACK.paper(kind).heading
    return paper(
        kind, "x1", **({heading: "Tern Point"} if heading else {}), **({"activity": "Repair"} if kind == "business" else {})
    )


def wages_then(**values):
    return w2(48_000, 3_900, "v1", **values)


def two_people(earlier, now):
    return after((earlier,), filing("joint"), now, people=(person(), person("spouse")))


def gone(line):
    """Last year had the line; this year nothing of it is entered."""
    return after((filing(),), wage(), lines={line: "900"})


def still_there(short):
    """The same with what makes the line this year."""
    itemise = {"choice": "itemise"}
    here = {
        "estimates": (single("estimates", rows=rows({"paid": "2025-04-15", "amount": "5"})),),
        "itemised": (single("itemized", property_tax="900", **itemise),),
        "gifts": (single("itemized", **itemise), gift("90")),
        "property-tax": (single("itemized", property_tax="900", **itemise),),
        "care": (child("d1", born="2018-05-05"), nursery()),
        "education": (tuition(),),
        "earned": (child("d1"),),
        "child": (child("d1"),),
        "foreign": (dividends(900, foreign_tax="90"),),
        "educator": (paper("adjustments", educator="90"),),
        "alimony": (alimony("2015-01-01"),),
        "health": (shop(health_insurance="900"),),
        "plans": (shop(sep="900"),),
        "ira": (paper("ira", traditional="900"),),
    }[short]
    pay = wage(20_000, 900) if short == "earned" else wage()
    line = next(row[1] for row in _GONE if row[0] == short)
    family = (
        (filing("head_of_household", kept_home="yes"), person()) if any(one.kind == "person" for one in here) else (person(),)
    )
    return after((filing(),), *family, pay, *here, lines={line: "900"})


def account(number):
    return single("deposit", routing="138150000", account=number, account_kind="savings")


def last_name(name):
    return PaperValues("taxpayer", "person", {"role": "taxpayer", "first_name": "Taxpayer", **name})


CASES = [
    *((code, carried(opening, closing, "41"), carried(opening, closing, "40")) for code, opening, closing, _ in _CARRIED),
    ("us.carried.ira-basis", after((paper("ira", basis_before="700"),), paper("ira", basis_before="40")), after((paper("ira", basis_before="40"),), paper("ira", basis_before="40"))),
    ("us.carried.gifts", after((filing(),), wage(), lines={"us.gifts:left": "41"}),
     after((filing(),), single("gift-carryover", rows=rows({"from_year": "2024", "gift_kind": "cash", "amount": "41"})), lines={"us.gifts:left": "41"})),
    ("us.carried.section-1231", after((filing(),), wage(), lines={"us.4797:left": "41"}),
     after((filing(),), single("section-1231", rows=rows({"from_year": "2024", "amount": "41"})), lines={"us.4797:left": "41"})),
    ("us.carried.operating-loss", after((filing(),), wage(), lines={"us.net-operating-loss:left": "41"}),
     after((filing(),), single("operating-losses", rows=rows({"from_year": "2024", "amount": "41"})), lines={"us.net-operating-loss:left": "41"})),
    ("us.carried.adoption-credit", after((filing(),), wage(), lines={"us.8839:left": "41"}),
     after((filing(),), single("adoption-carried", rows=rows({"from_year": "2024", "amount": "41"})), lines={"us.8839:left": "41"})),
    ("us.carried.mortgage-credit", after((filing(),), wage(), lines={"us.8396:left": "41"}),
     after((filing(),), single("mortgage-carried", rows=rows({"from_year": "2024", "amount": "41"})), lines={"us.8396:left": "41"})),
    ("us.carried.foreign-tax", after((filing(),), wage(), lines={"us.1116:left": "41"}),
     after((filing(),), single("foreign-tax", carried=rows({"from_year": "2024", "amount": "41"})), lines={"us.1116:left": "41"})),
    ("us.carried.foreign-category", after((paper("foreign-category", "g1"),), paper("foreign-category", "g1"), lines={"us.1116-category[g1]:left": "41"}),
     after((paper("foreign-category", "g1"),), paper("foreign-category", "g1", carried=rows({"from_year": "2024", "amount": "41"})),
           lines={"us.1116-category[g1]:left": "41"})),
    *((f"us.carried.{name}", after((paper(kind, "x1"),), paper(kind, "x1"), lines={line: "41"}),
       after((paper(kind, "x1"),), paper(kind, "x1", rows=rows({"item": "ordinary", "amount": "41"})), lines={line: "41"}))
      for name, kind, line in (("shareholder-loss", "basis-s", "us.7203[x1]:left"), ("partner-loss", "basis-p", "us.partner-basis[x1]:left"))),
    ("us.carried.risk-loss", after((paper("basis-p", "x1"),), paper("basis-p", "x1"), lines={"us.6198[x1]:left_of_share": "41"}),
     after((paper("basis-p", "x1"),), paper("basis-p", "x1", risk_rows=rows({"item": "ordinary", "amount": "41"})), lines={"us.6198[x1]:left_of_share": "41"})),
    ("us.carried.business-credit", after((filing(),), wage(), lines={"us.3800:left": "41"}),
     after((filing(),), wage(), single("business-credits", carried=rows({"from_year": "2024", "kind": "other", "amount": "41"})), lines={"us.3800:left": "41"})),
    ("us.carried.qualified-loss", after((shop(),), shop(), lines={"us.8995:loss_carried": "41"}), after((shop(),), shop(loss_before="41"), lines={"us.8995:loss_carried": "41"})),
    ("us.last-year.vouchers", after((filing(),), wage(), lines={"us.1040-es:first": "200", "us.1040-es:second": "300"}),
     after((filing(),), wage(), single("estimates", rows=rows({"paid": "2025-06-16", "amount": "500"})),
           lines={"us.1040-es:first": "200", "us.1040-es:second": "300"})),
    ("us.last-year.not-entered", after((paper("1099-int", "x1", payer="Tern", interest="40"),), paper("1099-int", "x1", payer="Tern")),
     after((paper("1099-int", "x1", payer="Tern", interest="40"),), paper("1099-int", "x1", payer="Tern", interest="0"))),
    *((f"us.last-year.no-{kind}", after((came(kind),), wage(employer="Pier", employer_number="00-7777777")), after((came(kind),), came(kind)))
      for kind in _EVERY_YEAR),
    ("us.last-year.owner-differs", two_people(wages_then(), wage(owner="spouse")), two_people(wages_then(), wage())),
    ("us.last-year.same-amount", after((wages_then(),), w2(48_000, 3_900)), after((wages_then(),), w2(48_001, 3_900))),
    ("us.last-year.decimal", after((wages_then(),), w2(4_900, 390)), after((wages_then(),), w2(9_000, 390))),
    ("us.last-year.jumped", after((wages_then(),), w2(72_001, 3_900)), after((wages_then(),), w2(72_000, 3_900))),
    ("us.last-year.payer-number", after((wages_then(employer_number="00-7140363"),), wage()), after((wages_then(),), wage())),
    ("us.last-year.ira-mark", after((pension(),), pension(ira="yes")), after((pension(),), pension())),
    ("us.last-year.miles-jumped", after((shop(miles="1000"),), shop(miles="3001")), after((shop(miles="1000"),), shop(miles="3000"))),
    ("us.last-year.no-withholding", after((wages_then(),), w2(49_000)), after((wages_then(),), w2(49_000, 5))),
    ("us.last-year.code-gone", after((wages_then(**coded("D")),), wage()), after((wages_then(**coded("D")),), wage(**coded("D")))),
    ("us.last-year.plan-mark", after((wages_then(retirement_plan="yes"),), wage()), after((wages_then(retirement_plan="yes"),), wage(retirement_plan="yes"))),
    ("us.last-year.state-differs", after((wages_then(state="IA"),), wage()), after((wages_then(),), wage())),
    ("us.last-year.number-differs", after((last_name({"number": "912-04-3372"}),), wage()), after((last_name({"number": "912043371"}),), wage())),
    ("us.last-year.birth-date-differs", after((last_name({"birth_date": "1980-06-14"}),), wage()), after((last_name({"birth_date": "1980-06-15"}),), wage())),
    ("us.last-year.name-differs", after((last_name({"last_name": "Roe"}),), wage()), after((last_name({"last_name": "Quist"}),), wage())),
    ("us.last-year.dependent-gone", after((person(), child()), wage()), after((person(), child()), person(), child())),
    ("us.last-year.status-differs", after((filing("head_of_household"),), wage()), after((filing(),), wage())),
    ("us.last-year.account-differs", after((account("4471"),), account("4472")), after((account("4471"),), account("4471"))),
    *((f"us.last-year.{short}-gone", gone(line), still_there(short)) for short, line, *_ in _GONE),
    ("us.last-year.business-cost-gone", after((shop(insurance="500"),), shop()), after((shop(insurance="499"),), shop())),
    ("us.last-year.business-started", after((shop(),), shop(started="yes")), after((shop(),), shop(started="no"))),
    ("us.last-year.loss-again", after((shop(),), shop(receipts="1"), lines={"us.sch-c[b1]:profit": "-5"}), after((shop(),), shop(), lines={"us.sch-c[b1]:profit": "-5"})),
]  # fmt: skip
