"""What lies on the desks besides the papers: last year's return, a scanned page, notes in the margin, a control total."""

import io
from datetime import date
from decimal import Decimal

from PIL import Image, ImageDraw, ImageFont

from practice.clients import entities, groups, roles
from practice.demo import scenario
from practice.intake.attaching import attach
from practice.intake.tasks import draw_pages
from practice.returns.arranging import set_control
from practice.returns.entry import add_paper, save_field
from practice.returns.models import Return, Stage
from practice.returns.opening import open_return
from practice.returns.stages import reach
from practice.review.margin import add_note, set_initials
from practice.whatif import keeping
from taxcore.whatif.differences import Place

# Last year's amounts of the first household: (kind, owner, what it is about, amounts)
_BEFORE = (
    ("w2", "taxpayer", "kittiwake", {"wages": "58210.00", "federal_withheld": "4890.00"}),
    ("w2", "spouse", "letterpress", {"wages": "37440.00", "federal_withheld": "2610.00"}),
    ("1099-int", "joint", "savings", {"interest": "842.15"}),
)


def lay_out(firm):
    """Everything of this file, once all households are there."""
    staff = {person.initials: person for person in firm.staff.all()}
    first = Return.objects.for_firm(firm).get(household__name=scenario.HOUSEHOLDS[0]["name"], year=2025)
    _last_year(staff["BT"], first)
    _companies(staff["BT"], first.household)
    wages = first.papers.filter(kind="w2").order_by("position").first()
    draw_pages(attachment_id=attach(staff["BT"], first.pk, wages.pk, "W-2.png", _scan(wages)).pk)
    set_control(staff["BT"], first.pk, "w2", 3, Decimal("112385.00"))
    add_note(staff["BT"], first.pk, "us.1040.2b", "The client says that one account was closed in June; ask for its statement.")
    add_note(staff["RA"], first.pk, "us.1040.19", "Did both children live here all year?", staff["BT"].pk)
    set_initials(staff["RA"], first.pk, "us.1040.1a")
    _plans(staff["BT"], first)


def _plans(actor, return_):
    """The meeting that was prepared: she opens a shop next year, and he puts money away."""
    paper = {one.values.get("owner"): Place("w2", one.key, "wages") for one in return_.papers.filter(kind="w2")}
    shop = keeping.add(actor, return_.pk, "Odile’s shop", None, 1)
    keeping.name(actor, return_.pk, shop.pk, shop.name, "From March; the letterpress keeps her for mornings")
    keeping.enter(actor, return_.pk, shop.pk, paper["spouse"].mark, "12,000")
    keeping.enter(actor, return_.pk, shop.pk, keeping.add_paper(actor, return_.pk, shop.pk, "business", "spouse").mark, "34,000")
    more = keeping.add(actor, return_.pk, "And his 401(k)", shop.pk)
    keeping.enter(actor, return_.pk, more.pk, paper["taxpayer"].mark, "54,480")


# A family with its company: who holds how much
_COMPANY = {
    "name": "Quist & Daughter Press LLC", "form": "llc", "number": "00-6120448", "formed_on": date(2019, 4, 1),
    "trade": "letterpress printing", "email": "press@quist.example", "telephone": "815-555-0178", "street": "9 Foundry Lane",
    "city": "Galena", "state": "IL", "zip": "61036",
}  # fmt: skip
_HOLD = (("Odile Quist", "60", True), ("Marlow Quist", "40", False))


def _companies(actor, household):
    company = entities.add(actor, **_COMPANY)
    for who, share, gets_mail in _HOLD:
        roles.give(actor, company.pk, who, "member", Decimal(share), _COMPANY["formed_on"], gets_mail)
    for one in (household, company):
        groups.join(actor, one.pk, "Quist family")


def _last_year(actor, this):
    people = [(paper.person_id, paper.key) for paper in this.papers.filter(kind="person").exclude(person=None)]
    return_ = open_return(actor, this.household_id, this.year - 1, people)
    filing = return_.papers.get(kind="filing")
    for name, value in (("residence", "IL"), ("digital_assets", "no")):
        save_field(actor, return_.pk, filing.pk, name, value, filing.values.get(name, ""))
    for dependant in scenario.HOUSEHOLDS[0].get("dependants", []):
        add_paper(actor, return_.pk, "person", "", dependant)
    for kind, owner, sender, amounts in _BEFORE:
        if kind == "w2":
            name, number, *_ = scenario.EMPLOYERS[sender]
            values = {"employer": name, "employer_number": number}
            values["states"] = [{"state": "IL", "wages": amounts["wages"], "withheld": f"{Decimal(amounts['wages']) / 20:.2f}"}]
        else:
            name, number = scenario.BANKS[sender]
            values = {"payer": name, "payer_number": number}
        add_paper(actor, return_.pk, kind, owner, values | amounts)
    return_.refresh_from_db()
    reach(return_, Stage.DONE)
    return_.save()


def _scan(wages):
    """A drawn page with the boxes of a W-2, a little askew as scans are."""
    page = Image.new("RGB", (1240, 900), "white")
    pen, small, large = ImageDraw.Draw(page), ImageFont.load_default(22), ImageFont.load_default(34)
    values = wages.values
    boxes = [
        ("b  Employer number", values.get("employer_number", "")), ("1  Wages, tips, other pay", values.get("wages", "")),
        ("2  Federal tax withheld", values.get("federal_withheld", "")), ("c  Employer", values.get("employer", "")),
        ("12a  Code D", "3200.00"), ("12b  Code DD", "11846.20"), ("15  State", "IL  0071-4036"), ("17  State tax", "3043.26"),
    ]  # fmt: skip
    pen.text((60, 40), "W-2 2025, copy B", fill="black", font=large)
    for place, (label, value) in enumerate(boxes):
        x, y = 60 + (place % 2) * 560, 120 + (place // 2) * 150
        pen.rectangle((x, y, x + 540, y + 130), outline="black", width=2)
        pen.text((x + 12, y + 10), label, fill="#444444", font=small)
        pen.text((x + 12, y + 62), str(value), fill="black", font=large)
    made = io.BytesIO()
    page.rotate(0.6, fillcolor="white").save(made, "PNG")
    return made.getvalue()
