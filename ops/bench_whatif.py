"""What the questions of What-if take: columns after an edit, a curve of 200 points, a goal, the best of the law's choices."""

import time
from decimal import Decimal


def what_if(rounds: int) -> None:
    from ops.bench import spread, timed
    from practice.demo.plain import demo_returns, heavy_family
    from taxcore.engine import compute
    from taxcore.packs.us import PACK
    from taxcore.packs.us.elections import elections
    from taxcore.whatif.choosing import best_of
    from taxcore.whatif.columns import Column, together
    from taxcore.whatif.curves import curve
    from taxcore.whatif.differences import Place
    from taxcore.whatif.frontier import Side, frontier
    from taxcore.whatif.seeking import seek
    from taxcore.whatif.trials import Trials

    print(
        print(
            "\nWhat-if: four columns after an edit in the one that the others are based on; a curve of 200 points; a goal; best"
        )
    )
    plain = next(data for entry, data in demo_returns() if entry["name"] == "Quist, Marlow and Odile")
    for name, data in (("family of two children", plain), ("family of 60 papers", heavy_family())):
        result = compute(PACK, data)
        paper = next(one.id for one in data.papers if one.kind == "w2")
        wages, withheld = Place("w2", paper, "wages"), Place("w2", paper, "federal_withheld")
        columns = _edits(result, wages, rounds)
        few = max(rounds // 8, 3)
        drawn = timed(lambda r=result, w=wages: curve(r, Trials(PACK), w, Decimal(0), Decimal(200_000)), few)
        found = timed(
            lambda r=result, w=withheld: seek(
                r, Trials(PACK), w, together, Decimal(0), Decimal(0), Decimal(500_000), Decimal(5_000)
            ),
            few,
        )
        offered = elections(result.run)
        chosen = timed(lambda r=result, o=offered: best_of(r, Trials(PACK), o), few)
        print(f"  {name:<24} columns {spread(columns)}   curve {spread(drawn)}   goal {spread(found)}")
        pair = (Side("", wages), Side("next", wages))
        divided = timed(lambda r=result, p=pair: frontier(r, [Column("next", "", 1)], *p, Decimal(50_000)), few)
        print(f"  {'':<24} divided over two years {spread(divided)}")
        print(f"  {'':<24} best of {len(offered)} choices {spread(chosen)}")


def _edits(result, place, rounds: int) -> list[float]:
    """Seconds of each edit of the first of four columns, of which the last is a year on."""
    from taxcore.whatif.columns import Column, worked_out
    from taxcore.whatif.differences import Difference

    known, took = {}, []
    for number in range(rounds):
        first = Column("a", differences=(Difference(place, f"{60_000 + number}"),))
        columns = [first, Column("b", "a"), Column("c", "b"), Column("d", "c", 1)]
        begun = time.perf_counter()
        known = worked_out(result, columns, known)
        took.append(time.perf_counter() - begun)
    return took
