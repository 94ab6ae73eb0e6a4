"""The scenario's returns as plain values, made without a database: for the bench and for tests of the computation."""

from practice.demo import scenario
from taxcore.engine import PaperValues, ReturnData

YEAR = 2025


def demo_returns():
    """(household's entry, its return) of every household."""
    return ((entry, return_of(entry)) for entry in scenario.HOUSEHOLDS)


def return_of(entry):
    """The return of one household of the scenario."""
    people = [
        PaperValues(role, "person", {"role": role} | _person(member))
        for role, member in zip(("taxpayer", "spouse"), entry["people"], strict=False)
    ]
    dependants = [
        PaperValues(f"person{n}", "person", {"role": "dependant"} | values)
        for n, values in enumerate(entry.get("dependants", []), start=1)
    ]
    papers = [_filing(entry, len(people) > 1), *people, *dependants, *_wages(entry), *_interest(entry), *_others(entry)]
    return ReturnData("us", YEAR, tuple(papers), {}, training=True)


def _person(member):
    kept = {name: str(member["person"][name]) for name in ("first_name", "last_name", "number", "birth_date")}
    return kept | ({"claimed_by_other": "yes"} if member.get("claimed") else {})


def _filing(entry, couple):
    address = dict(zip(("street", "city", "state", "zip"), entry["address"], strict=True))
    answers = {
        "status": "joint" if couple else "single",
        "residence": entry.get("residence", "IL"),
        "digital_assets": "no",
    } | entry["answers"]
    return PaperValues("filing", "filing", answers | address)


def _wages(entry):
    for number, wages in enumerate(entry["wages"], start=1):
        name, ein, street, city, state, code, state_number = scenario.EMPLOYERS[wages["employer"]]
        rows = [{"id": str(n)} | row for n, row in enumerate(scenario.state_rows(wages, state_number), 1)]
        others = [{"id": str(n), "kind": k, "description": d, "amount": a} for n, (k, d, a) in enumerate(wages.get("others", []))]
        yield PaperValues(f"w{number}", "w2", {
            "owner": wages["owner"], "employer": name, "employer_number": ein, "employer_street": street, "employer_city": city,
            "employer_state": state, "employer_zip": code, "wages": wages["wages"], "federal_withheld": wages["withheld"],
            "states": rows, "others": others,
            "codes": [{"id": str(n), "code": c, "amount": a} for n, (c, a) in enumerate(wages.get("codes", []))],
        })  # fmt: skip


def _interest(entry):
    for number, (bank, owner, amount, treasury) in enumerate(entry["interest"], start=1):
        values = {"owner": owner, "payer": scenario.BANKS[bank][0], "interest": amount, "government_interest": treasury}
        yield PaperValues(f"int{number}", "1099-int", values)


def _others(entry):
    from taxcore.packs.us import PACK

    taken = {}
    for kind, owner, values in entry.get("papers", []):
        taken[kind] = taken.get(kind, 0) + 1
        key = kind if PACK.paper(kind).single else f"{''.join(filter(str.isalpha, kind)) or 'p'}{taken[kind]}"
        yield PaperValues(key, kind, ({"owner": owner} if owner else {}) | {n: _rows(v) for n, v in values.items()})
    if entry["use_tax"]:
        yield PaperValues("il-questions", "il-questions", {"use_tax": entry["use_tax"]})


def _rows(value):
    return [{"id": str(n)} | row for n, row in enumerate(value, start=1)] if isinstance(value, list) else value


def heavy_family():
    """Every household's papers but the people's on one joint return: some sixty, of most kinds there are."""
    from taxcore.packs.us import PACK

    entries = {entry["name"]: data for entry, data in demo_returns()}
    base = entries["Halloran-Voss, Ione and Perrin"]
    papers, singles = [*base.papers], {paper.kind for paper in base.papers}
    for data in entries.values():
        known = {}
        for paper in data.papers if data is not base else ():
            declared = PACK.paper(paper.kind)
            if (
                paper.kind == "person"
                or paper.kind == "parent"
                or len(papers) >= 60
                or (declared.single and paper.kind in singles)
            ):
                continue
            singles.add(paper.kind)
            known[paper.id] = paper.id if declared.single else f"x{len(papers)}"
            values = {name: known.get(value, value) if isinstance(value, str) else value for name, value in paper.values.items()}
            papers.append(PaperValues(known[paper.id], paper.kind, values))
    return ReturnData("us", 2025, tuple(papers), {}, training=True)
