"""The demo practice's S corporation: its books, and its one shareholder, who is a client with a Schedule K-1 of it."""

from django.db import transaction

from practice.clients import entities, roles
from practice.demo.partnership import entered
from practice.returns.entry import add_paper, save_field

_LEDGER = (
    ("1000", "River Bend checking", "cash", "25882.00", "24620.00"),
    ("1100", "Fees receivable", "receivables", "9100.00", "7500.00"),
    ("1500", "Office equipment", "buildings", "9000.00", "9000.00"),
    ("1590", "Accumulated depreciation", "accumulated", "-7500.00", "-6000.00"),
    ("2000", "Accounts payable", "payables", "-3900.00", "-4200.00"), ("3000", "Common stock", "stock", "-1000.00", "-1000.00"),
    ("3200", "Retained earnings", "retained", "-29920.00", "-29920.00"), ("3300", "Distributions", "draws", "79300.00", ""),
    ("4000", "Consulting fees", "sales", "-248000.00", ""), ("4900", "Interest income", "interest_income", "-212.00", ""),
    ("6000", "Officer's pay", "officers", "96000.00", ""), ("6050", "Payroll taxes", "taxes", "7344.00", ""),
    ("6100", "Office rent", "rent", "21600.00", ""), ("6200", "Software", "other_deductions", "9400.00", ""),
    ("6250", "Travel", "other_deductions", "19606.00", ""), ("6300", "Meals", "meals", "2300.00", ""),
    ("6350", "Liability insurance", "other_deductions", "6200.00", ""), ("6400", "Advertising", "advertising", "2800.00", ""),
    ("6500", "Depreciation", "depreciation", "1500.00", ""), ("6900", "Donation to the library", "contributions", "500.00", ""),
)  # fmt: skip
_ABOUT = {
    "street": "3 Heron Street", "city": "Galena", "state": "IL", "zip": "61036", "elected": "01/01/2017", "code": "541610",
    "incorporated": "12/05/2016", "initial": "no", "final": "no", "method": "cash", "activity": "Consulting",
    "product": "Advice on locks and gauges", "nominee": "no", "restricted": "no", "payments_1099": "no", "foreign_items": "no",
    "filed_in_time": "yes", "adjustments_before": "29920.00", "earnings_before": "0.00",
}  # fmt: skip
_OWNER = {
    "called": "Percival Ashgrove", "number": "933-05-9911", "street": "3 Heron Street", "city": "Galena", "state": "IL",
    "zip": "61036",
    "sort": "individual", "officer": "yes", "stakes": [{"shares": "100"}], "distributed": "79300.00",
}  # fmt: skip


@transaction.atomic
def lay_out(firm):
    """One corporation, entered but for the review."""
    actor = firm.staff.get(initials="BT")
    household = entities.add(
        actor, name="Ashgrove Advisers Inc", form="s-corp", number="006671210", formed_on="2016-12-05", trade="Consulting",
        street=_ABOUT["street"], city=_ABOUT["city"], state=_ABOUT["state"], zip=_ABOUT["zip"],
    )  # fmt: skip
    roles.give(actor, household.pk, _OWNER["called"], "shareholder", signs=True)
    return_ = entered(actor, household, "us-1120s", _ABOUT, _LEDGER)
    trade = return_.papers.filter(kind="business").first() or add_paper(actor, return_.pk, "business", "", {})[1]
    save_field(actor, return_.pk, trade.pk, "service_trade", "yes", "")
    add_paper(actor, return_.pk, "shareholder", "", _OWNER)
    add_paper(actor, return_.pk, "il-entity", "", {"business_only": "yes", "more": "no", "own_tax": "0"})
    return 1
