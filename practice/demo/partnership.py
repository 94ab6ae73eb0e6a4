"""The demo practice's partnership: its books, its two partners, of whom one is a client with a Schedule K-1 of it."""

from decimal import Decimal

from django.db import transaction

from practice.clients import entities, roles
from practice.firm.packs import packs_for
from practice.returns.computing import pack_of
from practice.returns.entry import add_paper, put_rows, save_field
from practice.returns.models import Stage
from practice.returns.opening import open_return
from practice.returns.stages import reach

# Number, account, tax line, debit less credit at the end and at the beginning of the year
_LEDGER = (
    ("1000", "River Bend checking", "cash", "60196.00", "44762.00"),
    ("1100", "Accounts receivable", "receivables", "18100.00", "14360.00"),
    ("1500", "Harbor crane", "buildings", "60000.00", "60000.00"),
    ("1590", "Accumulated depreciation", "accumulated", "-24000.00", "-18000.00"),
    ("1600", "Land at the quay", "land", "26000.00", "26000.00"),
    ("2000", "Accounts payable", "payables", "-5800.00", "-6000.00"),
    ("2500", "Bank loan", "long_notes", "-32000.00", "-40000.00"),
    ("3000", "Partners' capital", "capital", "-81122.00", "-81122.00"),
    ("3100", "Partners' draws", "draws", "61416.00", ""), ("4000", "Berthing and storage fees", "sales", "-312400.00", ""),
    ("4900", "Interest income", "interest_income", "-176.00", ""), ("6000", "Wages", "salaries", "42000.00", ""),
    ("6050", "Guaranteed payments", "guaranteed", "66000.00", ""), ("6100", "Rent of the shed", "rent", "24000.00", ""),
    ("6150", "Payroll taxes", "taxes", "3400.00", ""), ("6200", "Repairs", "repairs", "18600.00", ""),
    ("6300", "Utilities", "other_deductions", "14200.00", ""), ("6350", "Insurance", "other_deductions", "9800.00", ""),
    ("6400", "Supplies", "other_deductions", "36226.00", ""), ("6500", "Advertising", "advertising", "4100.00", ""),
    ("6600", "Meals", "meals", "2560.00", ""), ("6700", "Loan interest", "interest", "2900.00", ""),
    ("6800", "Depreciation", "depreciation", "6000.00", ""),
)  # fmt: skip
_ABOUT = {
    "street": "1 Quay House", "city": "Savanna", "state": "IL", "zip": "61074", "activity": "Water transportation support",
    "product": "Berths and storage", "code": "488390", "started": "05/01/2014", "initial": "no", "final": "no",
    "method": "accrual",
    "entity_kind": "general", "owned_half": "yes", "owns_others": "no", "elects_out": "yes", "foreign_account": "no",
    "payments_1099": "no", "foreign_items": "no", "filed_in_time": "yes",
}  # fmt: skip
_PARTNERS = (
    {"called": "Nell Ibsen-Clay", "number": "941-20-9036", "street": "2 Quay House",
     "city": "Savanna", "state": "IL", "zip": "61074",
     "services": "36000.00", "distributed": "33416.00", "capital_before": "35260.00"},
    {"called": "Corin Vale", "number": "944-61-3370", "street": "9 Ferry Street",
     "city": "Savanna", "state": "IL", "zip": "61074",
     "services": "30000.00", "distributed": "28000.00", "capital_before": "30100.00"},
)  # fmt: skip


def _row(code, account, tax_line, net, before):
    amount = Decimal(net)
    row = {"code": code, "account": account, "tax_line": tax_line, "debit" if amount > 0 else "credit": f"{abs(amount):.2f}"}
    return row | ({"before": before} if before else {})


@transaction.atomic
def lay_out(firm):
    """One partnership, entered but for the review."""
    actor = firm.staff.get(initials="BT")
    household = entities.add(
        actor, name="Savanna Quay Partners", form="partnership", number="004455668", formed_on="2014-05-01",
        trade="Berths and storage",
        street=_ABOUT["street"], city=_ABOUT["city"], state=_ABOUT["state"], zip=_ABOUT["zip"],
    )  # fmt: skip
    roles.give(actor, household.pk, _PARTNERS[0]["called"], "partner", signs=True)  # the other one is nobody's client here
    return_ = entered(actor, household, "us-1065", _ABOUT, _LEDGER)
    for partner in _PARTNERS:
        stake = {"sort": "individual", "general": "yes", "stakes": [{"profit": "50"}], "recourse_before": "23000.00"}
        add_paper(actor, return_.pk, "partner", "", partner | stake)
    add_paper(
        actor,
        return_.pk,
        "il-entity",
        "",
        {"business_only": "yes", "more": "no", "own_tax": "0", "personal_service": "120000.00"},
    )
    add_paper(actor, return_.pk, "asset", "", {
        "description": "Harbor crane", "used_in": "business", "sort": "machinery", "in_service": "2022-06-01", "cost": "60000.00",
        "no_special": "yes"})  # fmt: skip
    return 1


def entered(actor, household, code, about, ledger):
    """An entity's return of the season with its answers, and its books as if they had come from a file."""
    kind = next(one for one in packs_for("entity") if one.code == code)
    return_ = open_return(actor, household.pk, actor.firm.season, [], pack=kind)
    paper = return_.papers.get(kind="about")
    for name, value in about.items():
        if str(paper.values.get(name, "")) != value:
            save_field(actor, return_.pk, paper.pk, name, value, str(paper.values.get(name, "")))
    books = return_.papers.get(kind="books")
    put_rows(books, pack_of(return_).paper("books"), {"rows": [_row(*line) for line in ledger]}, actor, "imported")
    books.save()
    return_.refresh_from_db()
    reach(return_, Stage.PREPARE, "data entry")
    return_.save()
    return return_
