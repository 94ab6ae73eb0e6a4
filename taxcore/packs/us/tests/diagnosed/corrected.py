"""Returns that correct one which was filed."""

from taxcore.engine import PaperValues
from taxcore.packs.us.tests.corrections import LOAN, amendment, as_filed, corrected, filed
from taxcore.packs.us.tests.returns import filing, person, w2

PAY, MORE = w2(60_000, 9_000), w2(61_000, 9_000)
COUPLE = (person(), person("spouse"))
SPLIT = PaperValues(
    "split",
    "split-deposit",
    {"rows": [{"id": "1", "routing": "021000021", "kind": "checking", "account": "12345", "amount": "10"}]},
)


def after(before, *papers, year=2024):
    """The correction of a return of some papers to others."""
    return lambda: corrected(as_filed(filed(*before, year=year)), *papers, year=year)


def applied(amount):
    return PaperValues("deposit", "deposit", {"applied_to_next_year": str(amount)})


def paid(*authorities):
    return amendment(*({"authority": one, "paid": "5"} for one in authorities))


CASES = [  # code, a return that has it, the same return mended
    ("us.amendment.corrects-nothing", lambda: filed(PAY, amendment()), lambda: filed(PAY)),
    ("us.amendment.not-there", after([PAY], MORE), after([PAY], MORE, amendment())),
    ("us.amendment.nothing-moved", after([PAY], PAY, amendment()), after([PAY], MORE, amendment())),
    (
        "us.amendment.nothing-moved",
        after([PAY], PAY, amendment()),
        after([PAY], PAY, amendment({"authority": "US", "anyway": "yes"})),
    ),
    ("us.amendment.split-refund", after([MORE], PAY, amendment(), SPLIT), after([MORE], PAY, amendment())),
    (
        "us.amendment.joint-to-separate",
        after([*COUPLE, filing("joint"), PAY], *COUPLE, filing("separate"), PAY, amendment()),
        after([*COUPLE, filing("separate"), PAY], *COUPLE, filing("joint"), PAY, amendment()),
    ),
    (
        "us.amendment.applied-before",
        after([PAY, applied(100)], MORE, applied(200), amendment()),
        after([PAY, applied(100)], MORE, applied(100), amendment(applied_to_next_year="0")),
    ),
    (
        "us.amendment.more-applied-than-refunded",
        after([PAY], PAY, LOAN, amendment(applied_to_next_year="121")),
        after([PAY], PAY, LOAN, amendment(applied_to_next_year="120")),
    ),
    ("us.amendment.nobody-there", after([PAY], MORE, paid("CA")), after([PAY], MORE, paid("IL"))),
    ("us.amendment.twice", after([PAY], MORE, paid("US", "US")), after([PAY], MORE, paid("US", "IL"))),
    (
        "us.amendment.schedule-1-a-line",
        after([person(born="1950-01-01"), PAY], person(born="1950-01-01"), MORE, amendment(), year=2025),
        after([PAY], MORE, amendment(), year=2025),
    ),
]
