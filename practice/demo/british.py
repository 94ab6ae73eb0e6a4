"""The demo practice where it makes British returns: made-up people, employers and holdings, references that were never issued."""

from datetime import date
from pathlib import Path

from django.conf import settings
from django.db import transaction

from practice.clients.identity import record_identity
from practice.clients.models import Household
from practice.demo import british_companies
from practice.demo.building import build_firm, drawn_name
from practice.dispatch.filing import file_return
from practice.firm.packs import packs_for
from practice.gather import lettering
from practice.returns.entry import add_paper, save_field
from practice.returns.models import Stage
from practice.returns.opening import open_household, open_return
from practice.returns.stages import reach
from practice.review.signing_off import sign_off
from practice.signing.locking import lock_figures
from practice.signing.requesting import ask_for_signature, sign_in_office
from taxcore.engine import Period

FIRM = {
    "town": "Kendal", "address": "14 Larkspur Row, Kendal LA9 4XX", "telephone": "01632 960114", "season": 2025,
    "training_day": date(2026, 10, 12),
}  # fmt: skip
_DAYS = {"gather": date(2026, 9, 1), "prepare": date(2026, 9, 14), "review": date(2026, 9, 21), "sign": date(2026, 9, 28),
         "file": date(2026, 10, 5)}  # fmt: skip


def _job(employer, pay, tax, scheme="120/LR4471", **more):
    return "employment", {"employer": employer, "pay": pay, "tax": tax, "scheme": scheme} | more


def _abroad(payer, country, amount, tax, kind="dividends", **more):
    return "foreign", {
        "payer": payer,
        "country": country,
        "income_kind": kind,
        "amount": amount,
        "tax": tax,
        "claims": "yes",
    } | more


def _deals(*deals):
    return [dict(zip(("day", "what", "number", "amount"), deal, strict=True)) for deal in deals]


# Household; person (first name, last name, NI number, reference, born); what is said of them; papers; stage; who has it
CLIENTS = (
    ("Weir, Isla", ("Isla", "Weir", "JY204471A", "4010020031", date(1984, 6, 15)), {"region": "scotland"}, (
        _job("Weir Looms Ltd", "61480.00", "13120.00", car="3200.00"),
        ("trade", {"description": "Mending and dyeing", "turnover": "6400.00", "goods": "1210.00", "miles": "1240"}),
        ("interest", {"payer": "Tay Building Society", "untaxed": "1340.27"}),
        _abroad("Heron Fund", "USA", "4210.40", "631.56", currency="USD", in_currency="5472.10",
                rate_source="1.2997, HMRC yearly"),
        _abroad("Cigale Énergie", "FRA", "2380.00", "595.00"),
        _abroad("Meise Werke", "DEU", "1905.00", "502.44"),
        ("shares", {"company": "Loch Shipping plc, ordinary", "deals": _deals(
            ("2019-05-01", "bought", "1000", "4000.00"), ("2025-09-10", "sold", "600", "9100.00"),
            ("2025-09-24", "bought", "200", "2860.00"))}),
    ), "prepare", "BT"),
    ("Pemberley-Shaw, Tobias", ("Tobias", "Pemberley-Shaw", "JY310982B", "4010020049", date(1976, 2, 3)), {"region": "england"}, (
        _job("Shaw Joinery Ltd", "12570.00", "0.00", director="yes", close_company="yes", medical="940.00", loan_begun="8400.00",
             loan_ended="23100.00"),
        ("dividends", {"company": "Shaw Joinery Ltd", "dividends": "48000.00"}),
        ("interest", {"payer": "Larch Bank", "untaxed": "212.90"}),
        ("reliefs", {"relief_at_source": "4800.00"}),
    ), "review", "BT"),
    ("Oduya, Grace", ("Grace", "Oduya", "JY118374C", "4010020057", date(1979, 11, 20)), {
        "region": "england", "child_benefit": "2251.60", "partner_earns_more": "no", "paid_on_account": "4200.00"}, (
        _job("Fellside Hospital", "118400.00", "37140.00"),
        _job("Kent University", "9600.00", "3840.00", "120/KU0912"),
        ("trade", {"description": "Private practice", "turnover": "32600.00", "premises": "5400.00", "accountancy": "690.00",
                   "rest": "2140.00"}),
        ("pension-savings", {"input": "71300.00", "own": "11200.00", "net_pay": "11200.00", "unused": [
            {"of_year": "2023", "amount": "4100.00"}]}),
    ), "prepare", "TM"),
    ("Larkin, Bronagh", ("Bronagh", "Larkin", "JY442018D", "4010020065", date(1988, 8, 9)), {
        "region": "england", "loan": "plan_1"}, (
        _job("Foyle Print Works", "34200.00", "4326.00", loan_deducted="738.00"),
        ("property", {"lettings": "2", "rents": "19200.00", "premises": "1640.00", "repairs": "3980.00", "fees": "1150.00",
                      "domestic_items": "620.00", "home_finance": "7240.00"}),
    ), "prepare", "TM"),
    ("MacAskill, Ewan", ("Ewan", "MacAskill", "JY560291A", "4010020073", date(1971, 4, 27)), {
        "region": "scotland", "class_2": "no"}, (
        ("trade", {"description": "Boat repairs", "turnover": "112400.00", "goods": "31200.00", "subcontractors": "8600.00",
                   "wages": "21400.00", "premises": "9100.00", "bank_charges": "412.00", "accountancy": "1150.00",
                   "main_before": "8420.00", "pages": "full", "assets": [
                       {"what": "Slipway winch", "pool": "investment", "bought": "2025-07-14", "cost": "4800.00"},
                       {"what": "Estate car", "pool": "main", "bought": "2024-05-20", "cost": "18600.00", "private": "35",
                        "before": "15252.00"}]}),
        ("interest", {"payer": "Minch Bank", "untaxed": "388.02"}),
    ), "sign", "BT"),
    ("Treharne, Carys", ("Carys", "Treharne", "JY673350B", "4010020081", date(1967, 1, 30)), {"region": "wales"}, (
        ("partnership", {"description": "Treharne and Pugh, surveyors", "partnership": "4010099120", "share": "57300.00",
                         "interest": "84.00"}),
        ("pension", {"payer": "Dyfed Fund", "amount": "8200.00", "tax": "1640.00"}),
    ), "file", "TM"),
    ("Fenwick, Joan", ("Joan", "Fenwick", "JY788125C", "4010020099", date(1948, 12, 5)), {"region": "england"}, (
        ("pension", {"payer": "DWP", "state": "yes", "amount": "11973.00"}),
        ("pension", {"payer": "Tyne Shipwrights' Fund", "amount": "16400.00", "tax": "3160.00"}),
        ("interest", {"payer": "Larch Bank", "untaxed": "2140.66"}),
        ("reliefs", {"gifts": "480.00"}),
    ), "file", "BT"),
    ("Osei-Hart, Daniel", ("Daniel", "Osei-Hart", "JY890044D", "4010020106", date(1973, 7, 11)), {"region": "england"}, (
        _job("Quayside Insurers plc", "74800.00", "17352.00"),
        ("home", {"asset": "3 Fell Terrace", "bought": "2008-03-14", "sold": "2025-10-02", "proceeds": "412000.00",
                  "costs": "187400.00", "reported": "2025-11-18", "tax_paid": "21000.00", "periods": [
                      {"why": "lived", "begun": "2008-03-14", "ended": "2015-06-30"},
                      {"why": "abroad", "begun": "2015-07-01", "ended": "2017-06-30"},
                      {"why": "lived", "begun": "2017-07-01", "ended": "2018-05-31"}]}),
        ("trade", {"description": "Wine imports", "begun": "2024-06-03", "turnover": "8200.00", "goods": "19400.00",
                   "loss_use": "back", "earlier": [{"of_year": "2024", "income": "71900.00", "tax_before": "16192.00",
                                                     "tax_after": "11712.00"}]}),
        ("gains", {"disposals": [{"asset": "Hart Insurance Brokers Ltd, all shares", "kind": "unlisted", "business": "yes",
                                  "day": "2025-12-19", "proceeds": "64000.00", "costs": "100.00"}]}),
    ), "review", "TM"),
    ("Rowntree-Vale, Piers", ("Piers", "Rowntree-Vale", "JY901736A", "4010020114", date(1991, 3, 22)), {}, (), "gather", "BT"),
)  # fmt: skip


def lay_out(password):
    """The firm with its staff and clients; how many these are."""
    firm, _ = build_firm(password)
    for name, value in FIRM.items():
        setattr(firm, name, value)
    firm.save()
    letter = (Path(__file__).parent / "letters" / "engagement_british.txt").read_text()
    lettering.write(firm.staff.get(initials="SH"), "uk", "engagement", letter)
    for client in CLIENTS:
        _client(firm, *client)
    if "uk-home" in settings.PACKS:
        _home_sold(firm)
    return len(CLIENTS) + (british_companies.lay_out(firm) if "uk-ct" in settings.PACKS else 0)


@transaction.atomic
def _home_sold(firm):
    """A return within sixty days, entered: the year's return has what was paid with it already."""
    actor = firm.staff.get(initials="TM")
    household, day = Household.objects.for_firm(firm).get(name="Osei-Hart, Daniel"), date(2025, 10, 16)
    kinds = {one.code: one for one in packs_for("people")}
    return_ = open_return(
        actor, household.pk, 2025, [(household.people.get().pk, "taxpayer")], pack=kinds["uk-home"], period=Period(day, day)
    )
    person = return_.papers.get(kind="person")
    save_field(actor, return_.pk, person.pk, "reference", "4010020106", "")
    estimate = return_.papers.filter(kind="estimate").first() or add_paper(actor, return_.pk, "estimate", "", {})[1]
    save_field(actor, return_.pk, estimate.pk, "income", "62230.00", "")
    (home,) = (values for kind, values in next(one for one in CLIENTS if one[0] == household.name)[3] if kind == "home")
    entered = {name: value for name, value in home.items() if name not in ("reported", "tax_paid")}
    add_paper(actor, return_.pk, "home", "taxpayer", entered)


@transaction.atomic
def _client(firm, household_name, who, said, papers, stage, initials):
    staff = {person.initials: person for person in firm.staff.all()}
    actor = staff[initials]
    person = dict(zip(("first_name", "last_name", "number", "reference", "birth_date"), who, strict=True))
    reference = person.pop("reference")
    household = open_household(actor, household_name, [person])
    client = household.people.get()
    return_ = open_return(actor, household.pk, firm.season, [(client.pk, "taxpayer")])
    kept = {one.kind: one for one in return_.papers.all()}
    save_field(actor, return_.pk, kept["person"].pk, "reference", reference, "")
    about = kept.get("about") or add_paper(actor, return_.pk, "about", "", {})[1]
    for name, value in said.items():
        save_field(actor, return_.pk, about.pk, name, value, "")
    for kind, values in papers:
        add_paper(actor, return_.pk, kind, "taxpayer", values)
    return_.refresh_from_db()
    _bring(staff, return_, client, stage)


def _bring(staff, return_, client, stage):
    if stage in ("sign", "file"):
        sign_off(staff["RA"], return_.pk)
    if stage == "sign":
        ask_for_signature(staff["SH"], return_.pk)
    elif stage == "file":
        lock_figures(staff["SH"], return_.pk)
        record_identity(staff["AP"], client.pk, "licence", str(4000 + client.pk)[-4:], "2029-06-30", "DVLA")
        sign_in_office(staff["AP"], return_.pk, client.pk, "uk", drawn_name(client.full_name), "127.0.0.1", "41706")
        file_return(staff["SH"], return_.pk)
    else:
        steps = {"gather": "papers to come", "prepare": "data entry", "review": "first review"}
        reach(return_, Stage(stage), steps[stage])
        return_.waiting_for = staff["RA"] if stage == "review" else None
        return_.save()
    return_.refresh_from_db()
    return_.stages = {name: _DAYS.get(name, _DAYS["file"]).isoformat() for name in return_.stages}
    return_.save()
