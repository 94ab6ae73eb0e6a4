"""The demo practice's companies, where it makes their returns: made-up names, references that were never issued."""

from datetime import date
from decimal import Decimal

from django.db import transaction

from practice.clients import entities, roles
from practice.firm.packs import packs_for
from practice.returns.computing import pack_of
from practice.returns.entry import add_paper, put_rows, save_field
from practice.returns.models import Stage
from practice.returns.opening import open_return
from practice.returns.stages import reach
from taxcore.engine import Period

_LEDGER = (
    ("4000", "Sales", "turnover", "-241830.00"), ("4900", "Bank interest received", "income", "-412.00"),
    ("5000", "Timber and fittings", "cost", "88420.00"), ("5100", "Subcontractors", "cost", "12300.00"),
    ("7000", "Wages and salaries", "expense", "54800.00"), ("7010", "Director's salary", "expense", "9100.00"),
    ("7100", "Rent of workshop", "expense", "14400.00"), ("7200", "Light and heat", "expense", "3160.00"),
    ("7300", "Motor expenses", "expense", "4870.00"), ("7400", "Entertaining clients", "expense", "640.00"),
    ("7500", "Accountancy", "expense", "1950.00"), ("7900", "Donation to Fell Rescue", "expense", "250.00"),
    ("8000", "Depreciation", "expense", "7350.00"), ("0030", "Plant and vans", "fixed", "36400.00"),
    ("1000", "Stock of timber", "stock", "9200.00"), ("1100", "Trade debtors", "debtors", "21500.00"),
    ("1150", "Director's loan account", "debtors", "14000.00"), ("1200", "Bank", "cash", "18802.00"),
    ("2100", "Trade creditors", "creditors", "-16400.00"), ("2200", "Taxes owed", "creditors", "-9500.00"),
    ("3000", "Share capital", "capital", "-100.00"), ("3100", "Profit and loss brought forward", "reserves", "-28900.00"),
)  # fmt: skip


def _row(code, account, heading, net):
    amount = Decimal(net)
    return {"code": code, "account": account, "heading": heading, "debit" if amount > 0 else "credit": f"{abs(amount):.2f}"}


@transaction.atomic
def lay_out(firm):
    """One company with its trial balance, plant and a director's loan; how many."""
    staff = {person.initials: person for person in firm.staff.all()}
    actor = staff["TM"]
    household = entities.add(
        actor, name="Larch Joinery Ltd", form="company", number="4010055201", formed_on="2016-03-14", trade="Joinery",
        street="Unit 4, Weir Mill", city="Kendal", zip="LA9 6XX",
    )  # fmt: skip
    roles.give(actor, household.pk, "Ewan MacAskill", "director", signs=True)
    period = Period(date(2025, 1, 1), date(2025, 12, 31))
    return_ = open_return(actor, household.pk, 2025, [], pack=packs_for("entity")[0], period=period)
    company = return_.papers.get(kind="person")
    save_field(actor, return_.pk, company.pk, "registration", "10063718", "")
    about = return_.papers.filter(kind="about").first() or add_paper(actor, return_.pk, "about", "", {})[1]
    for name, value in (("associates", "0"), ("close", "yes"), ("director", "Ewan MacAskill")):
        save_field(actor, return_.pk, about.pk, name, value, "")
    _books(actor, return_.papers.get(kind="accounts"))
    add_paper(actor, return_.pk, "plant", "", {"main_before": "11240.00", "assets": [
        {"what": "Panel saw", "sort": "main", "bought": "2025-03-04", "cost": "14800.00", "claim": "first"},
        {"what": "Electric van", "sort": "main", "bought": "2025-06-19", "cost": "31200.00"},
        {"what": "Old van", "sort": "main", "bought": "2019-05-02", "cost": "16500.00", "claim": "none", "sold": "2025-06-19",
         "proceeds": "4200.00"}]})  # fmt: skip
    add_paper(actor, return_.pk, "loans", "", {"loans": [
        {"who": "Ewan MacAskill", "made": "2025-04-22", "amount": "14000.00", "repaid": "6000.00"}]})  # fmt: skip
    return_.refresh_from_db()
    reach(return_, Stage.PREPARE, "data entry")
    return_.save()
    return 1


def _books(actor, paper):
    """The trial balance, as if it had come from a file."""
    put_rows(paper, pack_of(paper.of).paper("accounts"), {"rows": [_row(*line) for line in _LEDGER]}, actor, "imported")
    paper.values["employees"] = "3"
    paper.save()
