"""Own businesses and shares of others': costs that contradict each other, answers that are missing, plans that are too large."""

from decimal import Decimal

from taxcore.engine import ZERO, Mend, check, found, idea, stops
from taxcore.packs.us.federal.trades import TRADES

# Sectors of the industry classification (NAICS) as Schedule C's list of codes uses them; 99 is for none of them
_SECTORS = frozenset({"11", "21", "22", "23", "31", "32", "33", "42", "44", "45", "48", "49", "51", "52", "53", "54", "55", "56",
                      "61", "62", "71", "72", "81", "99"})  # fmt: skip
_EXPENSES = ("advertising", "commissions", "contract_labour", "insurance", "professional", "office", "rent_equipment",
             "rent_property", "repairs", "supplies", "taxes", "travel", "meals", "utilities", "car_actual")  # fmt: skip
_MUCH_DRIVEN = 60_000
_NOTABLE = Decimal(20_000)


@check("us.business.code-sector", "Invalid business code", "format", "Schedule C, line B")
@check("us.business.method-missing", "Accounting method not chosen", "missing", "IRC 446; Schedule C, line F")
@check("us.business.number-missing", "Wages paid without an EIN", "missing", "IRC 6109")
@check("us.business.contractors-unanswered", "Contract labor: Forms 1099 not answered", "missing", "IRC 6041A")
@check("us.business.sale-without-goods", "Purchases without ending inventory", "unlikely", "IRC 471")
def questions(run):
    for one in run.every("us.sch-c"):
        books = one.books
        if books.code and books.code[:2] not in _SECTORS:
            yield found(
                books.address("code"),
                f"{books.title}: no business code begins with {books.code[:2]}. See the Schedule C codes.",
                code="us.business.code-sector",
            )
        if not books.method:
            yield found(
                books.address("method"),
                f"{books.title}: choose the accounting method, line F.",
                code="us.business.method-missing",
                mend=Mend("Cash", books.address("method"), "cash"),
            )
        if books.wages and not books.number:
            yield found(
                books.address("number"),
                f"{books.title} paid wages and has no EIN. Enter it on line D.",
                code="us.business.number-missing",
            )
        if books.contract_labour >= 600 and books.must_report is None:
            yield found(
                books.address("must_report"),
                f"{books.title} paid {books.contract_labour:,} for contract labor. Was anyone paid $600 or more? Answer line I.",
                code="us.business.contractors-unanswered",
            )
        if books.purchases and not books.inventory_end and not books.inventory_start and one.cost_sold > one.net_receipts:
            yield found(
                (books.address("inventory_end"), books.address("purchases")),
                f"{books.title}: purchases exceed gross receipts. Was there ending inventory? Enter it on line 41.",
                code="us.business.sale-without-goods",
            )


@idea("us.business.no-costs", "Business without expenses", "missed", "IRC 162")
@check("us.business.round-costs", "Expenses are all round hundreds", "unlikely", "IRC 6001")
@check("us.business.meals-high", "Meals exceed 10% of receipts", "unlikely", "IRC 274(k)")
@check("us.business.costs-twice", "Two expenses of the same amount", "unlikely")
def costs(run):
    for one in run.every("us.sch-c"):
        books = one.books
        amounts = {name: getattr(books, name) for name in _EXPENSES if books.is_keyed(name)}
        paid = [amount for amount in amounts.values() if amount]
        if one.receipts > 0 and one.expenses == 0 and one.cost_of_goods == 0:
            yield found(
                books.address("supplies"),
                f"{books.title} has receipts and no expenses. Ask about vehicle, phone, supplies and insurance.",
                code="us.business.no-costs",
            )
        if len(paid) >= 4 and all(amount % 100 == 0 for amount in paid):
            yield found(
                tuple(map(books.address, amounts)),
                f"{books.title}: all {len(paid)} expenses are round hundreds. Are they estimates? Ask for records.",
                code="us.business.round-costs",
            )
        if books.meals > 500 and books.meals > one.receipts / 10:
            yield found(
                books.address("meals"),
                f"{books.title}: meals are {books.meals:,} of {one.receipts:,} of receipts. Ask for substantiation, and "
                "whether some are personal.",
                code="us.business.meals-high",
            )
        seen = {}
        for name, amount in amounts.items():
            if amount >= 1_000 and amount % 100 and amount in seen:
                yield found(
                    (books.address(name), books.address(seen[amount])),
                    f"{books.title}: {amount:,} is on two lines. Was an expense entered twice?",
                    code="us.business.costs-twice",
                )
            seen.setdefault(amount, name)


@stops(
    "us.business.car-both-ways", "Vehicle: both mileage rate and actual expenses", "conflict", "IRC 274(d); Rev. Proc. 2019-46"
)
@check("us.business.miles-high", "Unlikely business miles", "unlikely", "IRC 274(d)")
@check("us.business.no-other-miles", "Vehicle without personal miles", "unlikely", "IRC 280F(d)(4)")
@check("us.business.car-date-missing", "Vehicle: date placed in service missing", "missing", "Schedule C, line 43")
def car(run):
    for books in run.papers("business"):
        if not books.miles and not books.car_actual:
            continue
        if books.miles and books.car_actual and not books.car_method:
            yield found(
                (books.address("car_method"), books.address("car_actual")),
                f"{books.title}: both mileage and actual expenses are entered. Choose one method.",
                code="us.business.car-both-ways",
            )
        if (books.miles or 0) > _MUCH_DRIVEN:
            yield found(
                books.address("miles"),
                f"{books.title}: {books.miles:,} business miles a year. Compare the mileage log; note it if there are "
                "several vehicles.",
                code="us.business.miles-high",
            )
        if (books.miles or 0) >= 1_000 and not books.other_miles and not books.commuting_miles:
            yield found(
                books.address("other_miles"),
                f"{books.title}: no personal miles. Ask, and enter lines 44b and 44c.",
                code="us.business.no-other-miles",
            )
        if books.miles and books.car_placed is None:
            yield found(
                books.address("car_placed"),
                f"{books.title}: enter the date placed in service, line 43.",
                code="us.business.car-date-missing",
            )


@check("us.business.home-large", "Home office over half the home", "unlikely", "IRC 280A(c)(1)")
@idea("us.business.home-over-simplified", "Home office larger than the simplified method allows", "lost", "Rev. Proc. 2013-13")
@check("us.business.home-method-missing", "Home office method not chosen", "missing", "IRC 280A")
@check("us.business.home-total-missing", "Form 8829: area of home missing", "lost", "IRC 280A")
@idea("us.business.home-carried-on", "Home office carryover to next year", "carried", "IRC 280A(c)(5)")
@stops("us.business.home-two-full", "Simplified home offices exceed 300 square feet", "rule", "Rev. Proc. 2013-13, sec. 4.08")
def home(run):
    law = run.laws["us"].home_office
    simple = [books for books in run.papers("business") if books.home_method == "simplified"]
    for books in run.papers("business"):
        if not books.home_area:
            continue
        if books.home_total and books.home_total >= books.home_area > books.home_total / 2:
            yield found(
                (books.address("home_area"), books.address("home_total")),
                f"{books.title}: the office is over half the home. Check both areas.",
                code="us.business.home-large",
            )
        if not books.home_method:
            yield found(
                books.address("home_method"),
                f"{books.title}: an office area is entered and nothing is deducted. Choose the simplified or the regular method.",
                code="us.business.home-method-missing",
                mend=Mend("The simple way", books.address("home_method"), "simplified"),
            )
        if books.home_method == "regular" and not books.home_total:
            yield found(
                books.address("home_total"),
                f"{books.title}: without the total area of the home no expenses are deducted. Enter it.",
                code="us.business.home-total-missing",
            )
        if books.home_method == "simplified" and books.home_area > law.most_square_feet:
            yield found(
                books.address("home_method"),
                f"{books.title}: the simplified method allows {law.most_square_feet} square feet of {books.home_area}. "
                "Compare with the regular method.",
                code="us.business.home-over-simplified",
            )
        if books.home_method == "regular" and run.form("us.8829", books.key).carried_on > 0:
            form = run.form("us.8829", books.key)
            yield found(
                form.address("carried_on"),
                f"{books.title}: {form.carried_on:,} of home office expenses exceeds the profit and carries over to next year.",
                code="us.business.home-carried-on",
            )
    for owner in ("taxpayer", "spouse"):  # spouses who share a home each have the whole limit
        mine = [books for books in simple if (books.owner or "taxpayer") == owner]
        if len(mine) > 1 and sum(books.home_area or 0 for books in mine) > law.most_square_feet:
            yield found(
                mine[1].address("home_area"),
                f"Simplified home offices are limited to {law.most_square_feet} square feet in total. Allocate them.",
                code="us.business.home-two-full",
            )


@check("us.plans.above-limit", "Self-employed plan contributions exceed the deduction", "rule", "IRC 404(a)(8), 4972")
@idea("us.plans.room", "Self-employed retirement plan possible", "missed", "IRC 404(h)")
@idea("us.business.health-not-asked", "Net profit without self-employed health insurance", "missed", "IRC 162(l)")
def owner(run):
    for form in run.every("us.plans"):
        books = next((paper for kind in TRADES for paper in run.papers(kind, form.key)), None)
        if books is None:
            continue
        if form.paid > form.deduction:
            yield found(
                (books.address("sep"), form.address("deduction")),
                f"{form.paid:,} was contributed to plans and {form.deduction:,} is deductible. The excess is subject to "
                "an excise tax unless withdrawn in time.",
                code="us.plans.above-limit",
            )
        room = form.employer_limit - form.by_employer
        if form.earnings >= _NOTABLE and not form.paid and room > 1_000:
            yield found(
                books.address("sep"),
                f"Up to {room:,} can still be contributed to a SEP by the due date, extensions included.",
                code="us.plans.room",
            )
        covered = any(paper.values.get("business") or paper.marketplace for paper in run.papers("1095-a"))
        if form.earnings >= _NOTABLE and not books.health_insurance and not covered and not _cover_at_work(run):
            yield found(
                books.address("health_insurance"),
                f"{books.title} has a net profit and no self-employed health insurance. Ask who paid for coverage.",
                code="us.business.health-not-asked",
            )


def _cover_at_work(run):
    return any(sum(wage.coded({"DD"})) > 0 for wage in run.papers("w2"))


@check("us.business.health-and-work", "Self-employed health insurance with employer coverage", "rule", "IRC 162(l)(2)(B)")
def own_health_and_work(run):
    for books in [paper for kind in TRADES for paper in run.papers(kind)]:
        if books.health_insurance and _cover_at_work(run):
            yield found(
                books.address("health_insurance"),
                f"{books.title}: a W-2 shows employer health coverage (code DD). No deduction for months when such a "
                "plan was available to the owner or spouse: ask.",
            )


@check("us.1099-k.maybe-counted-twice", "1099-K repeats another form", "conflict", "IRC 6050W(f)")
@check("us.business.receipts-repeat-statements", "Gross receipts repeat the 1099s", "conflict", "IRC 61")
def counted_twice(run):
    for one in run.every("us.sch-c"):
        books = one.books
        pays = [paper for paper in run.papers("1099-nec") if paper.business == books.key]
        cards = [paper for paper in run.papers("1099-k") if paper.business == books.key]
        stated = sum((paper.pay for paper in pays), ZERO)
        for card in cards:
            if stated and card.gross == stated and not card.on_other_statement:
                yield found(
                    (card.address("gross"), pays[0].address("pay")),
                    f"{card.title} shows the same total as the Forms 1099-NEC. If it is the same income, check “Also "
                    "reported on another form”.",
                    code="us.1099-k.maybe-counted-twice",
                    mend=Mend("It is the same money", card.address("on_other_statement"), str(card.gross)),
                )
        together = stated + sum((card.gross for card in cards), ZERO)
        if together and books.receipts and books.receipts == together:
            yield found(
                (books.address("receipts"), (pays or cards)[0].address("business")),
                f"{books.title}: gross receipts not on a 1099 are {together:,}, the same as the 1099s. Both are added: "
                "is the income counted twice?",
                code="us.business.receipts-repeat-statements",
            )


@check("us.k1-1065.no-earnings", "Active partner without self-employment earnings", "conflict", "IRC 1402(a)(13)")
@check("us.k1-1120s.no-wages", "Active shareholder without wages from the S corporation", "unlikely", "Rev. Rul. 74-44")
@idea("us.k1.qualified-missing", "K-1 without qualified business income", "lost", "IRC 199A(c)")
@check("us.k1.basis-open", "K-1 loss: basis not confirmed", "missing", "IRC 704(d), 1366(d)")
def shares(run):
    for paper in run.papers("k1-1065"):
        if (
            paper.participates
            and not paper.self_employment
            and (paper.guaranteed or paper.ordinary > 0)
            and not paper.publicly_traded
        ):
            yield found(
                (paper.address("self_employment"), paper.address("ordinary")),
                f"{paper.title}: a partner who materially participates has no box 14A. Correct for a limited partner; "
                "otherwise enter it.",
                code="us.k1-1065.no-earnings",
            )
    for paper in run.papers("k1-1120s"):
        paid = any(wage.employer_number == paper.entity_number for wage in run.papers("w2"))
        if paper.participates and paper.ordinary > _NOTABLE and not paid:
            yield found(
                paper.address("ordinary"),
                f"{paper.title}: an active shareholder has no W-2 from the corporation. Ask about reasonable compensation.",
                code="us.k1-1120s.no-wages",
            )
    for kind in ("k1-1065", "k1-1120s"):
        for paper in run.papers(kind):
            if paper.ordinary > 0 and not paper.is_keyed("qualified_income") and paper.service_trade is None:
                yield found(
                    paper.address("qualified_income"),
                    f"{paper.title}: no qualified business income is entered, so there is no QBI deduction. See the "
                    "statement attached to the K-1.",
                    code="us.k1.qualified-missing",
                )
            if paper.ordinary < 0 and paper.all_at_risk is None:
                yield found(
                    paper.address("all_at_risk"),
                    f"{paper.title} has a loss. Is it allowed by the basis and at-risk limits? Answer the question.",
                    code="us.k1.basis-open",
                )


@idea("us.qbi.loss-carried-on", "QBI loss carryforward", "carried", "IRC 199A(c)(2)")
@idea("us.qbi.limited", "QBI deduction limited by income or wages", "lost", "IRC 199A(b)")
def qualified(run):
    if run.is_idle("us.8995"):
        return
    form = run.form("us.8995")
    if not form.exists:
        return
    if form.loss_after:
        yield found(
            form.address("loss_after"),
            f"A QBI loss of {abs(form.loss_after):,} is carried forward to next year.",
            code="us.qbi.loss-carried-on",
        )
    if form.above_threshold:
        whole = form.law.qbi.rate * max(form.all_income, ZERO)
        if form.deduction < whole:
            yield found(
                form.address("deduction"),
                f"The deduction is {form.deduction:,}; without the W-2 wage and UBIA limits it would be {whole:,.0f}. "
                "Compare aggregation, wages, and income just below the threshold.",
                code="us.qbi.limited",
            )


CHECKS = (questions, costs, car, home, owner, own_health_and_work, counted_twice, shares, qualified)
