"""What British returns take: the heaviest of a person and a company in full, and after an amount changed."""

import statistics
import time
from dataclasses import replace


def british(rounds: int) -> None:
    from taxcore.packs.uk.company import PACK as COMPANY
    from taxcore.packs.uk.individual import PACK

    measure("British return", PACK, heavy_return(), ("employment", "pay"), rounds)
    measure("Company return", COMPANY, heavy_company(), ("other-income", "interest"), rounds)


def measure(title, pack, data, changed, rounds: int) -> None:
    """In full, and by need after the amount `changed` (kind of paper, field) moved."""
    from ops.bench import spread, timed
    from taxcore.engine import compute

    kind, field = changed
    lines = timed(lambda: compute(pack, data), rounds)
    whole = timed(lambda: compute(pack, data).findings, rounds)
    print(f"\n{title} of {len(data.papers)} papers")
    print(f"  {'in full':<31} {spread(lines)}   with diagnostics {spread(whole)}   quickest {min(lines) * 1000:.2f} ms")
    result, need = compute(pack, data), []
    for number in range(rounds):
        first = next(one for one in data.papers if one.kind == kind)
        other = replace(first, values={**first.values, field: f"{50_000 + number}.00"})
        wanted = data.but(papers=tuple(other if one is first else one for one in data.papers))
        begun = time.perf_counter()
        result = result.changed(wanted)
        result.findings  # noqa: B018 - worked out when asked
        need.append(time.perf_counter() - begun)
    ratio = statistics.median(whole) / statistics.median(need)
    print(f"  {'an amount changed, by need':<31} {spread(need)}   {ratio:4.1f} times quicker than in full")


def heavy_return():
    """Three employments, two trades, a share, lettings, six foreign items with credit, a home, holdings and many disposals."""
    from taxcore.engine import ReturnData
    from taxcore.packs.uk.individual.tests.test_foreign import abroad
    from taxcore.packs.uk.individual.tests.test_gains import LIVED, SHARES, home
    from taxcore.packs.uk.individual.tests.test_trades import CAR, owning, partner
    from taxcore.packs.uk.individual.tests.test_worked import about, dividends, paper, pay, person, savings, sold

    countries = ("USA", "FRA", "DEU", "ITA", "ESP", "IRL")
    deals = [{"id": str(n), "day": f"2025-{4 + n // 3:02d}-{10 + n:02d}", "what": ("bought", "sold")[n % 2], "number": "100",
              "amount": str(900 + n)} for n in range(16)]  # fmt: skip
    papers = [
        person(), about(), *(pay(20_000 + n, "3000", f"e{n}", scheme="120/A1") for n in range(3)), owning(CAR, goods="9000"),
        partner(12_000, interest="300"), paper("property", rents="14000", lettings="2", home_finance="3000"),
        *(savings(300 + n, f"i{n}") for n in range(8)), *(dividends(400 + n, f"d{n}") for n in range(8)),
        *(abroad(2_000 + n, 400, f"f{n}", countries[n % 6]) for n in range(6)), home(*LIVED),
        *(paper("shares", f"s{n}", company=f"Loch {n} plc", deals=deals) for n in range(4)),
        sold(*(SHARES | {"costs": str(n)} for n in range(20))),
        paper("reliefs", gifts="400", relief_at_source="2000", eis="1000"),
    ]  # fmt: skip
    return ReturnData("uk", 2025, tuple(papers))


def heavy_company():
    """A trial balance of ninety accounts, forty assets, ten loans, twelve disposals."""
    from taxcore.packs.uk.company.tests.test_worked import balance, bought, gains, losses, other, paper, plant, result, sold

    headings = ("turnover", "income", "cost", "expense", "expense", "fixed", "debtors", "cash", "creditors", "reserves")
    accounts = [(f"Account {n}", headings[n % 10], (-1 if n % 10 in (0, 1, 8, 9) else 1) * (1_000 + n)) for n in range(90)]
    loans = [{"id": str(n), "who": f"Person {n}", "made": "2024-06-01", "amount": str(900 + n)} for n in range(10)]
    papers = (
        balance(*accounts), plant(*(bought(1_000 + n, ("main", "special", "car")[n % 3]) for n in range(40)), main_before="9000"),
        other(interest="800"), gains(*(sold(9_000 + n, 5_000, factor="0.2") | {"id": str(n)} for n in range(12))),
        losses(trade_before="4000"), paper("loans", loans=loans),
    )  # fmt: skip
    return result(*papers).run.everything
