"""Adoptions, disabilities, mortgage certificates, the minimum tax credit."""

from taxcore.packs.us.tests.diagnosed.making import coded, one, paper, rows, single, wage
from taxcore.packs.us.tests.returns import child, filing, person


def adopted(key="a1", **values):
    given = {"first_name": "Ada", "birth_year": "2019", "number": "914-33-0001", "number_kind": "ssn", "final_in": "2025"}
    return paper("adoption", key, **given | values)


def certificate(**values):
    given = {"issuer": "Agency", "number": "7", "issued": "2021-05-05", "rate": "20", "interest": "900"}
    return paper("mortgage-certificate", **given | values)


def disabled(**values):
    return paper("disability", "d9", **{"disabled": "yes", "statement": "yes", "income": "900"} | values)


APART = (filing("separate", spouse_itemises="no"), person(), person("spouse"))
OPTIONS = {"stock_options": "900000"}


def lost(*given):
    return single("operating-losses", rows=rows(*({"from_year": year, "amount": amount} for year, amount in given)))


def car(key="v1", **values):
    given = {
        "model": "Tern",
        "vin": "5YJ3E1EA7KF317000",
        "condition": "new",
        "in_service": "2025-03-03",
        "credit": "7500",
        "transferred": "no",
    }
    return paper("clean-vehicle", key, **given | values)


def used(**values):
    return car(**{"condition": "used", "credit": "", "price": "9000"} | values)


RICH = wage("190000")
PENSIONED = paper("ssa-1099", "s1", net="20000")
RUINED = paper("farm", "f1", product="Barley", code="111100", method="cash", participates="yes", raised="900", seeds="90000")
CASES = [
    ("us.vehicle.income", one(RICH, car()), one(wage("90000"), car())),
    ("us.vehicle.repaid", one(RICH, car(transferred="yes")), one(wage("90000"), car(transferred="yes"))),
    ("us.vehicle.before-2023", one(car(in_service="2022-03-03"), year=2022), one(car(in_service="2023-03-03"), year=2023)),
    ("us.vehicle.report", one(car(credit="")), one(car())),
    ("us.vehicle.day", one(car(in_service="2025-10-01")), one(car(in_service="2025-09-30"))),
    ("us.vehicle.price", one(used(price="25001")), one(used())),
    ("us.vehicle.lost", one(wage("20000"), car()), one(wage("90000"), car())),
    ("us.vehicle.twice", one(car(), car("v2")), one(car(), car("v2", vin="5YJ3E1EA7KF317001"))),
    ("us.unsupported.3800", one(car(business="yes")), one(car(business="no"))),
    ("us.nol.year", one(lost(("2025", "5"))), one(lost(("2024", "5")))),
    ("us.nol.state", one(filing(residence="CA", state="CA"), wage("40000"), lost(("2023", "5"))), one(wage("40000"), lost(("2023", "5")))),
    ("us.nol.benefits", one(wage("40000"), PENSIONED, lost(("2023", "5"))), one(wage("40000"), lost(("2023", "5")))),
    ("us.nol.limited", one(wage("20000"), lost(("2023", "9000"))), one(wage("20000"), lost(("2023", "90")))),
    ("us.nol.new", one(RUINED), one(RUINED, wage("95000"))),
    ("us.nol.farm", one(RUINED), one(RUINED, wage("95000"))),
    ("us.adoption.benefits-nowhere", one(wage("40000", **coded("T", "500"))), one(wage("40000", **coded("T", "500")), adopted())),
    ("us.adoption.benefits-differ", one(wage("40000", **coded("T", "500")), adopted(benefits="400")), one(wage("40000", **coded("T", "500")), adopted())),
    ("us.adoption.final-later", one(adopted(final_in="2026")), one(adopted(final_in=""))),
    ("us.adoption.waits", one(adopted(paid="5", final_in="")), one(adopted(paid="5"))),
    ("us.adoption.older", one(adopted(birth_year="2006")), one(adopted(birth_year="2006", disabled="yes"))),
    ("us.adoption.special-needs", one(adopted(special_needs="yes", foreign="yes")), one(adopted(special_needs="yes"))),
    ("us.adoption.dependent", one(adopted()), one(person(), child(), adopted())),
    ("us.adoption.number-kind", one(adopted(number_kind="")), one(adopted())),
    ("us.adoption.separate", one(*APART, adopted(paid="5")), one(adopted(paid="5"))),
    ("us.adoption.ends", one(adopted(), paper("adoption-carried", rows=rows({"from_year": "2020", "amount": "5"}))),
     one(adopted(), paper("adoption-carried", rows=rows({"from_year": "2021", "amount": "5"})))),
    ("us.adoption.lost", one(wage("260000"), adopted(paid="5")), one(wage("250000"), adopted(paid="5"))),
    ("us.disability.statement", one(disabled(statement="")), one(disabled())),
    ("us.disability.income", one(disabled(income="")), one(disabled())),
    ("us.disability.old", one(person(born="1950-05-05"), disabled()), one(disabled())),
    ("us.8396.rate", one(certificate(rate="9")), one(certificate(rate="10"))),
    ("us.8396.related", one(certificate(related="yes")), one(certificate(related="no"))),
    ("us.8396.interest", one(certificate(), paper("1098", "m1", lender="Bank", interest="899")), one(certificate(), paper("1098", "m1", lender="Bank", interest="900"))),
    ("us.8396.ends", one(certificate(), single("mortgage-carried", rows=rows({"from_year": "2022", "amount": "5"}))),
     one(certificate(), single("mortgage-carried", rows=rows({"from_year": "2023", "amount": "5"})))),
    ("us.8801.new", one(wage("90000"), single("minimum-tax", **OPTIONS)), one(wage("90000"), single("minimum-tax", stock_options="9"))),
]  # fmt: skip
