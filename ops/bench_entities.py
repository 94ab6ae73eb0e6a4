"""What entities' returns take: a partnership of many partners and properties, and its change as each owner's return feels it."""

import time
from dataclasses import replace


def entities(rounds: int) -> None:
    from ops.bench_british import measure
    from taxcore.packs.us.partnership import PACK

    data = heavy_partnership()
    measure("Partnership, 40 partners and 30 properties, return", PACK, data, ("rental", "rents"), rounds)
    _over_owners(data, max(rounds // 4, 5))


def _over_owners(data, rounds):
    """The books move; four owners' returns are computed with what they are issued then."""
    from ops.bench import spread
    from taxcore.engine import PaperValues, compute
    from taxcore.packs.us import PACK as INDIVIDUAL
    from taxcore.packs.us.partnership import PACK
    from taxcore.packs.us.tests.returns import data as individual
    from taxcore.packs.us.tests.returns import interest, w2

    result, took = compute(PACK, data), []
    owners = [compute(INDIVIDUAL, individual(w2(60_000 + n, 6_000), interest("900"))) for n in range(4)]
    for number in range(rounds):
        books = next(one for one in data.papers if one.kind == "books")
        rows = [row | {"debit": str(100_000 + number)} if row["account"] == "Wages" else row for row in books.values["rows"]]
        moved = replace(books, values={**books.values, "rows": rows})
        begun = time.perf_counter()
        result = result.changed(data.but(papers=tuple(moved if one is books else one for one in data.papers)))
        issued = {}
        for one in PACK.issues(result.run):
            issued.setdefault(one.to, []).append(PaperValues(one.id, one.kind, {"owner": "taxpayer", **one.values}))
        for place, papers in enumerate(list(issued.values())[:4]):
            own = owners[place].run.data
            kept = [one for one in own.papers if not one.id.startswith(("k1-", "basis-"))]
            owners[place] = owners[place].changed(own.but(papers=(*kept, *papers)))
            owners[place].bottom_lines  # noqa: B018 - worked out when asked
        took.append(time.perf_counter() - begun)
    print(f"  {'books moved, and four owners':<31} {spread(took)}")


def heavy_partnership():
    """Forty partners, thirty properties, sixty accounts, Illinois' return beside the federal one."""
    from taxcore.engine import ReturnData
    from taxcore.packs.us.partnership.tests.making import about, books, filer, paper, partner
    from taxcore.packs.us.partnership.tests.test_worked import house
    from taxcore.packs.us.states.il.entities.tests.making import HERE, asked

    kinds = ("sales", "rent", "repairs", "taxes", "other_deductions", "advertising")
    accounts = [(f"Account {n}", kinds[n % 6], (-9_000 if n % 6 == 0 else 700) + n, 0) for n in range(58)]
    accounts += [("Rents", "rental_income", -30 * 24_000, 0), ("Wages", "salaries", 100_000, 0)]
    accounts.append(("Checking", "cash", -sum(one[2] for one in accounts), 0))
    houses = [replace(house(24_000, repairs=2_000 + n, state="IL"), id=f"house{n}") for n in range(30)]
    partners = [partner(f"p{n}", f"Partner {n}", "2.5", number=f"900-00-{1000 + n}") for n in range(40)]
    papers = (filer(), about(**HERE), paper("business"), books(*accounts), *houses, *partners, asked(entity_tax="yes"))
    return ReturnData("us-1065", 2025, papers)


if __name__ == "__main__":
    entities(30)
