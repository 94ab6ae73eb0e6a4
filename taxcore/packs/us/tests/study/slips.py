"""The slips: what went wrong, in whose return, how, and which papers or figures a diagnostic must point at."""

from dataclasses import replace

from taxcore.engine import PaperValues


def keyed(key, **values):
    """Some fields of one paper or person entered differently."""
    return lambda data: _replaced(data, key, lambda one: replace(one, values={**one.values, **values}))


def row(key, table, place, **values):
    """One row of a table entered differently."""

    def change(one):
        rows = [dict(each) for each in one.values[table]]
        rows[place] |= values
        return replace(one, values={**one.values, table: rows})

    return lambda data: _replaced(data, key, change)


def left_out(*keys):
    return lambda data: data.but(papers=tuple(one for one in data.papers if one.id not in keys))


def twice(key):
    """The same paper entered a second time."""

    def change(data):
        first = next(one for one in data.papers if one.id == key)
        return data.but(papers=(*data.papers, replace(first, id="again")))

    return change


def last_years(key):
    """Last year's paper entered once more, instead of this year's."""

    def change(data):
        before = next(one for one in data.last_year.papers if one.id == key)
        return _replaced(data, key, lambda one: before)

    return change


def added(key, kind, **values):
    return lambda data: data.but(papers=(*data.papers, PaperValues(key, kind, values)))


def _replaced(data, key, change):
    return data.but(papers=tuple(change(one) if one.id == key else one for one in data.papers))


BOTH, FAMILY, INVESTS = "two earners, no children", "two earners, two children", "investor"

SLIPS = [  # what, whose return, how, where a diagnostic must point
    # wage statements
    ("box 1, digits swapped", "one employer", keyed("w1", wages="64180.00"), ("us.w2[w1]",)),
    ("box 1, decimal point lost", "one employer", keyed("w1", wages="6148000.00"), ("us.w2[w1]",)),
    ("box 1 a little wrong", "one employer", keyed("w1", wages="61840.00"), ("us.w2[w1]",)),
    ("box 2 missing", "one employer", keyed("w1", federal_withheld=""), ("us.w2[w1]",)),
    ("box 2 repeats box 4", "one employer", keyed("w1", federal_withheld="3811.76"), ("us.w2[w1]",)),
    ("box 2, a digit too many", "one employer", keyed("w1", federal_withheld="58120.00"), ("us.w2[w1]",)),
    ("box 2, digits swapped", "one employer", keyed("w1", federal_withheld="5182.00"), ("us.w2[w1]",)),
    ("box 4 and 6 exchanged", "one employer", keyed("w1", social_security_withheld="891.46", medicare_withheld="3811.76"), ("us.w2[w1]",)),
    ("code D entered as DD", BOTH, row("w1", "codes", 0, code="DD"), ("us.w2[w1]",)),
    ("box 12 left out", BOTH, keyed("w1", codes=[]), ("us.w2[w1]",)),
    ("box 13 not marked", BOTH, keyed("w1", retirement_plan=""), ("us.w2[w1]",)),
    ("a statement given to the wrong spouse", BOTH, keyed("w2", owner="taxpayer"), ("us.w2[w2]",)),
    ("the other spouse's number in box a", BOTH, keyed("w1", employee_number="913-22-8046"), ("us.w2[w1]",)),
    ("an employer's number with a digit wrong", "one employer", keyed("w1", employer_number="00-7140382"), ("us.w2[w1]",)),
    ("a statement entered twice", "one employer", twice("w1"), ("us.w2[again]", "us.w2[w1]")),
    ("a statement left out", "two employers", left_out("w2"), ("us.w2",)),
    ("last year's statement entered again", "one employer", last_years("w1"), ("us.w2[w1]",)),
    ("wages counted whole in both states", "works in two states", row("w1", "states", 1, wages="61480.00"), ("us.w2[w1]",)),
    ("another state's letters", "one employer", row("w1", "states", 0, state="IN"), ("us.w2[w1]",)),
    ("box 17 missing", "one employer", row("w1", "states", 0, withheld=""), ("us.w2[w1]",)),
    ("box 16, digits swapped", "one employer", row("w1", "states", 0, wages="64180.00"), ("us.w2[w1]",)),
    ("the employer's ZIP code mistyped", "one employer", keyed("w1", employer_zip="16074"), ("us.w2[w1]",)),
    # interest, dividends, sales
    ("interest without its decimal point", INVESTS, keyed("i1", interest="112018.00"), ("us.1099-int[i1]",)),
    ("an interest statement left out", INVESTS, left_out("i1"), ("us.1099-int",)),
    ("an interest statement entered twice", INVESTS, twice("i1"), ("us.1099-int",)),
    ("joint interest given to one", "retired", keyed("i1", owner="taxpayer"), ("us.1099-int[i1]",)),
    ("dividends, boxes 1a and 1b exchanged", INVESTS, keyed("v1", dividends="1610.22", qualified="1912.40"), ("us.1099-div[v1]",)),
    ("foreign tax above the dividends", "foreign tax", keyed("v1", foreign_tax="8820.00"), ("us.1099-div[v1]",)),
    ("taxed interest entered as exempt too", INVESTS, keyed("i1", exempt_interest="1120.18"), ("us.1099-int[i1]",)),
    ("a dividend statement left out", INVESTS, left_out("v1"), ("us.1099-div",)),
    ("a sale of another year", INVESTS, row("s1", "sales", 0, sold="2024-05-05"), ("us.1099-b[s1]",)),
    ("a sale's dates exchanged", INVESTS, row("s1", "sales", 0, acquired="05/05/2025", sold="2019-02-11"), ("us.1099-b[s1]",)),
    ("a sale without its cost", INVESTS, row("s1", "sales", 0, basis=""), ("us.1099-b[s1]",)),
    ("a long sale in the short box", INVESTS, row("s1", "sales", 0, box="A"), ("us.1099-b[s1]",)),
    ("proceeds without the decimal point", INVESTS, row("s1", "sales", 0, proceeds="821040.00"), ("us.1099-b[s1]",)),
    ("a stale carryover", "loss carried over from last year", keyed("capital-carryover", long_term="1210"), ("us.capital-carryover",)),
    ("a carryover left out", "loss carried over from last year", left_out("capital-carryover"), ("us.capital-carryover",)),
    ("a carryover in the wrong box", "loss carried over from last year", keyed("capital-carryover", long_term="", short_term="3813"), ("us.capital-carryover",)),
    # retirement
    ("an early code on a normal pension", "retired", keyed("r1", code="1"), ("us.1099-r[r1]",)),
    ("taxable above gross", "retired", keyed("r1", taxable="42110.00"), ("us.1099-r[r1]",)),
    ("a pension's withholding left out", "retired", keyed("r1", withheld=""), ("us.1099-r[r1]",)),
    ("the spouse's benefits left out", "retired", left_out("b2"), ("us.ssa-1099",)),
    ("net benefits mistyped", "retired", keyed("b1", net="28160.00"), ("us.ssa-1099[b1]",)),
    ("last year's benefits entered again", "retired", last_years("b1"), ("us.ssa-1099[b1]",)),
    ("an IRA entered as a pension", "retired with an IRA", keyed("r1", ira="no"), ("us.1099-r[r1]", "us.ira[x1]")),
    ("basis from nowhere", "retired with an IRA", keyed("x1", basis_before="12000.00"), ("us.ira[x1]",)),
    # business
    ("receipts that repeat a statement", "own business", keyed("b1", receipts="12110.00"), ("us.business[b1]",)),
    ("a statement of a customer left out", "own business", left_out("n1"), ("us.1099-nec",)),
    ("a cost without its decimal point", "own business", keyed("b1", supplies="912040.00"), ("us.business[b1]", "us.1040")),
    ("one cost entered in two lines", "own business", keyed("b1", office="9120.40"), ("us.business[b1]",)),
    ("miles with a digit too many", "own business", keyed("b1", miles="42100"), ("us.business[b1]",)),
    ("insurance left out", "own business", keyed("b1", insurance=""), ("us.business[b1]",)),
    ("the owner's health insurance left out", "own business", keyed("b1", health_insurance=""), ("us.business[b1]", "us.sch-1")),
    ("an estimate entered twice", "own business", row("estimates", "rows", 1, paid="2025-04-15"), ("us.estimates",)),
    ("the estimates left out", "own business", left_out("estimates"), ("us.estimates",)),
    ("an estimate dated in another year", "own business", row("estimates", "rows", 1, paid="2024-06-16"), ("us.estimates",)),
    ("self-employment earnings left out", "partner", keyed("k1", self_employment=""), ("us.k1-1065[k1]",)),
    ("a share of a partnership left out", "partner", left_out("k1"), ("us.k1-1065",)),
    # deductions and credits
    ("the mortgage left out", "itemises", left_out("m1"), ("us.1098",)),
    ("the escrow's property tax left out", "itemises", keyed("m1", property_tax=""), ("us.1098[m1]", "us.itemized")),
    ("mortgage interest with a digit too many", "itemises", keyed("m1", interest="182101.80"), ("us.1098[m1]",)),
    ("a gift without acknowledgment", "itemises", keyed("g1", acknowledged=""), ("us.gift[g1]",)),
    ("a gift left out", "itemises", left_out("g1"), ("us.sch-a", "us.itemized", "us.gift")),
    ("half-time not answered", "student", keyed("t1", half_time=""), ("us.1098-t[t1]",)),
    ("the tuition statement left out", "student at home", left_out("t1"), ("us.1098-t", "us.person", "us.8863")),
    ("medical costs of the savings account left out", "health savings", keyed("a1", medical=""), ("us.8889", "us.1099-sa[a1]")),
    ("the benchmark plan left out", "marketplace", row("m1", "months", 0, benchmark=""), ("us.1095-a[m1]",)),
    ("premium and advance exchanged", "marketplace", row("m1", "months", 0, premium="240.00", advance="412.00"), ("us.1095-a[m1]",)),
    ("the care provider left out", FAMILY, left_out("n1"), ("us.care",)),
    ("student loan interest left out", "teacher", left_out("l1"), ("us.1098-e",)),
    ("unemployment benefits left out", "unemployed for a while", left_out("g1"), ("us.1099-g",)),
    # people and money
    ("a Social Security number, digits swapped", "one employer", keyed("taxpayer", number="912-04-3317"), ("us.person[taxpayer]",)),
    ("a child's year of birth wrong", FAMILY, keyed("d1", birth_date="2006-04-01"), ("us.person[d1]",)),
    ("a child left out", FAMILY, left_out("d2", "qd2"), ("us.filing", "us.person[d2]", "us.care[n1]")),
    ("months at home mistyped", "a parent alone", keyed("d1", months_at_home="1"), ("us.person[d1]", "us.filing")),
    ("single instead of head of household", "a parent alone", keyed("filing", status="single"), ("us.filing",)),
    ("account number, digits swapped", "one employer", keyed("deposit", account="44710029"), ("us.deposit",)),
    ("routing number, digits swapped", "one employer", keyed("deposit", routing="138510000"), ("us.deposit",)),
    ("last year's income of two years ago", "one employer", keyed("prior-year", adjusted_gross_income="55310"), ("us.prior-year",)),
    ("the checklist of a child not finished", FAMILY, keyed("qd1", dependant=""), ("us.diligence-child[qd1]",)),
]  # fmt: skip
