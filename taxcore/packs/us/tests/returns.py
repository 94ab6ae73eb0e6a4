"""The smallest complete American returns, for table tests. Amounts are strings or numbers; everything else has a default."""

from taxcore.engine import PaperValues, ReturnData, compute
from taxcore.packs.us import PACK

ADDRESS = {"street": "1 Row", "city": "Galena", "state": "IL", "zip": "61036"}
EMPLOYER = {
    "employer": "Kittiwake", "employer_number": "00-7140362", "employer_street": "4 Slipway", "employer_city": "Savanna",
    "employer_state": "IL", "employer_zip": "61074",
}  # fmt: skip


def person(role="taxpayer", born="1980-06-15", **values):
    number = {"taxpayer": "912-04-3371", "spouse": "913-22-8046"}.get(role, "914-33-0001")
    base = {"role": role, "first_name": role.title(), "last_name": "Quist", "number": number, "birth_date": born}
    return PaperValues(role, "person", base | values)


def child(key="d1", born="2015-04-01", **values):
    """A dependent: a child of ten that lived here all year, unless it is said otherwise."""
    base = {
        "role": "dependant", "first_name": "Ada", "last_name": "Quist", "number": f"914-33-000{key[-1]}", "birth_date": born,
        "relationship": "child", "months_at_home": "12", "resident": "yes",
    }  # fmt: skip
    return PaperValues(key, "person", base | values)


def filing(status="single", residence="IL", **values):
    base = {"status": status, "residence": residence, "digital_assets": "no", **ADDRESS}
    return PaperValues("filing", "filing", base | values)


def w2(wages, withheld=0, key="w1", owner="taxpayer", state="IL", state_withheld=0, **values):
    row = {"id": "1", "state": state, "state_number": "0071", "wages": str(wages), "withheld": str(state_withheld)}
    base = {"owner": owner, **EMPLOYER, "wages": str(wages), "federal_withheld": str(withheld), "states": [row]}
    return PaperValues(key, "w2", base | values)


def interest(amount, key="i1", owner="taxpayer", **values):
    return PaperValues(key, "1099-int", {"owner": owner, "payer": f"Bank {key}", "interest": str(amount)} | values)


def data(*papers, year=2025, training=True, overrides=None):
    kinds = {paper.kind for paper in papers}
    people = () if "person" in kinds else (person(),)
    status = () if "filing" in kinds else (filing(),)
    return ReturnData("us", year, (*people, *status, *papers), overrides or {}, training)


def result(*papers, **options):
    return compute(PACK, data(*papers, **options))


def couple(*papers, status="joint", year=2025, **options):
    return result(person(), person("spouse"), filing(status), *papers, year=year, **options)


def codes(found):
    return {finding.code for finding in found.findings}
