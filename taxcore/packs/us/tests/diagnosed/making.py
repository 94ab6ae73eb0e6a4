"""Papers for the tables of diagnostics: each as small as it can be and still be one that is right but for what is said."""

from decimal import Decimal

from taxcore.engine import Flag, LastYear, PaperValues, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import child, couple, data, filing, person, result, w2


def coded(code, amount="100"):
    return {"codes": [{"id": "1", "code": code, "amount": amount}]}


def places(*rows):
    named = ({"id": str(n), "state": s, "state_number": "1", "wages": w, "withheld": h} for n, (s, w, h) in enumerate(rows, 1))
    return {"states": list(named)}


def single(kind, **values):
    return PaperValues(kind, kind, values)


def paper(kind, key="x1", **values):
    return PaperValues(
        kind if PACK.paper(kind).single else key, kind, ({"owner": "taxpayer"} if PACK.paper(kind).owned else {}) | values
    )


def share(**values):
    return paper("k1-1065", entity="Quay", entity_number="00-4455668", **{"participates": "yes"} | values)


def books(**values):
    asked = {"activity": "Repair", "code": "811490", "participates": "yes"}
    return paper("business", "b1", **asked | values)


def pension(**values):
    return paper("1099-r", "r1", **{"payer": "Tern", "gross": "900", "code": "7", "ira": "no"} | values)


def dividends(amount, **values):
    return paper("1099-div", "v1", payer="Heron", dividends=str(amount), **values)


def sale(situated="", **values):
    row = {"id": "1", "box": "A", "proceeds": "100", "basis": "90", "sold": "2025-05-05"} | values
    return paper("1099-b", payer="Sandbar", sales=[row], **({"situated": situated} if situated else {}))


def totals(attached=0):
    rows = [{"id": "1", "box": "A", "proceeds": "100", "basis": "90", "wash_sales": "5"}]
    return PaperValues("x1", "1099-b", {"owner": "taxpayer", "payer": "Sandbar", "summaries": rows}, attached)


def cover(key="c1", kind="alone", **values):
    return paper("hsa", key, coverage=[{"id": "1", "kind": kind, "first": "1", "last": "12"}], **values)


def debit(**values):
    """A direct debit with everything that it needs."""
    whole = {"routing": "138150000", "account": "4471", "account_kind": "checking", "debit_on": "2026-04-10"}
    return single("debit", **whole | values)


def gift(amount):
    return paper("gift", charity="Lamplighters", gift_kind="cash", amount=amount)


def alimony(since):
    return paper("adjustments", alimony=[{"id": "1", "recipient": "Roe", "number": "916-20-1111", "since": since, "amount": "5"}])


def car(**values):
    asked = {"loan_date": "2025-01-01", "new_for_owner": "yes", "assembled_here": "yes", "personal": "yes"}
    return paper("car-loan", **{"lender": "Lock", "vin": "1HGCM82633A004352", "interest": "5"} | asked | values)


def split(amount):
    return single(
        "split-deposit", rows=[{"id": "1", "routing": "138150000", "kind": "savings", "account": "4471", "amount": amount}]
    )


def care(who):
    return paper(
        "care",
        "n1",
        provider="Nursery",
        provider_address="3 Dock Road",
        number="00-1122334",
        costs=[{"id": "1", "person": who, "amount": "900"}],
    )


def family(*papers, born="2018-05-05"):
    return lambda: result(person(), person("spouse"), child("d1", born=born), filing("joint"), *papers)


def _some(kind, name):
    return "yes" if isinstance(PACK.paper(kind).fields()[name], Flag) else "5"


def checklist(**answers):
    yes = ("own_information", "worksheets", "knowledge", "records", "substantiation", "certified")
    no = ("inconsistent", "disallowed")
    base = (
        dict.fromkeys(yes, "yes") | dict.fromkeys(no, "no") | {"asked": "M. Quist", "asked_on": "2026-02-01", "manner": "person"}
    )
    return single("diligence", **base | answers)


def about(key, id_="q1"):
    return paper("diligence-child", id_, child=key, dependant="yes", absence_explained="yes", release_explained="yes")


def studying():
    return paper("1098-t", "t1", payer="College", student="taxpayer", paid="3000", half_time="yes")


def two_died(*roles):
    people = [person(role, **({"death_date": "2025-05-05"} if role in roles else {})) for role in ("taxpayer", "spouse")]
    return lambda: result(*people, filing("joint"))


def one(*papers, **options):
    return lambda: result(*papers, **options)


def two(*papers, **options):
    return lambda: couple(*papers, **options)


NOT_TRAINING = {"number": "123-45-6789"}


def rows(*given):
    """Rows of a table, numbered."""
    return [{"id": str(number), **row} for number, row in enumerate(given, 1)]


def wage(amount=50_000, withheld=4_000, key="w1", **values):
    return w2(amount, withheld, key, **{"state_withheld": 1_000} | values)


def older(born, role="taxpayer", **values):
    return person(role, born=born, **values)


def sold(**row):
    return sale(**{"acquired": "03/01/2025"} | row)


def two_sales(*given):
    base = {"box": "A", "description": "Quay", "sold": "2025-06-02", "proceeds": "80", "basis": "90"}
    return paper("1099-b", payer="Sandbar", sales=rows(*({**base, **row} for row in given)))


def tuition(**values):
    return paper("1098-t", "t1", **{"payer": "College", "student": "taxpayer", "paid": "4000", "half_time": "yes"} | values)


def policy(*given, **values):
    months = rows(*({"first": "1", "last": "12", "premium": "500", "benchmark": "500", "advance": "300"} | row for row in given))
    return paper("1095-a", "m1", months=months, **values)


def nursery(number="00-1122334", **costs):
    return paper(
        "care", "n1", provider="Nursery", provider_address="3 Dock Road", number=number,
        costs=rows({"person": "d1", "amount": "3000"} | costs),
    )  # fmt: skip


def after(earlier, *papers, lines=None, people=()):
    """A return whose last year is known: papers then (without people: this year's), lines then by name."""
    whole = data(*people, *papers)
    known = [one for one in whole.papers if one.kind == "person"]
    kinds = {one.kind for one in earlier}
    then = (*(() if "person" in kinds else known), *earlier)
    amounts = {name: Decimal(amount) for name, amount in (lines or {}).items()}
    amounts.setdefault("us.1040:adjusted_gross_income", Decimal(0))
    return lambda: compute(PACK, whole.but(last_year=LastYear(whole.year - 1, tuple(then), amounts)))
