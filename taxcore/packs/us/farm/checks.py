"""What would be wrong with a farm's books, what stops them by name, and what is easily missed."""

from decimal import Decimal

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us.property.papers import ACTIVITIES, ANIMALS

_MOSTLY = Decimal(2) / 3
_CONTRACTOR, _NOTABLE = 600, Decimal(20_000)


def _farms(run):
    return [(one, one.books) for one in run.every("us.sch-f")]


@stops("us.farm.accrual", "Farm on the accrual method", "unsupported", "Schedule F, part III")
@stops("us.farm.averaging", "Schedule J, income averaging", "unsupported", "IRC 1301")
@stops("us.farm.patron", "Patron reduction of the QBI deduction", "unsupported", "IRC 199A(b)(7)")
def not_made(run):
    for _, books in _farms(run):
        if books.method == "accrual":
            says = "Part III is not supported yet. This return cannot be e-filed from here."
            yield found(books.address("method"), says, code="us.farm.accrual")
        if books.averaging:
            says = "Averaging over the three years before is not supported yet. This return cannot be e-filed from here."
            yield found(books.address("averaging"), says, code="us.farm.averaging")
        if books.patron:
            says = "The reduction of Form 8995-A, Schedule D, is not supported yet. This return cannot be e-filed from here."
            yield found(books.address("patron"), says, code="us.farm.patron")


@stops("us.farm.statement", "Farm payments without a farm", "missing", "Schedule F, lines 4a, 6a")
def statements(run):
    for kind, names in (("1099-g", ("agriculture", "market_gain")), ("1099-misc", ("crop_insurance",))):
        for paper in run.papers(kind):
            if any(getattr(paper, name) for name in names) and not paper.farm:
                says = "Choose the farm on which they are reported, or add one."
                yield found(paper.address("farm"), says, code="us.farm.statement")


@check("us.farm.code-sector", "Invalid agricultural activity code", "format", "Schedule F, line B")
@check("us.farm.number-missing", "Labor hired without an EIN", "missing", "IRC 6109")
@check("us.farm.contractors-unanswered", "Custom hire: Forms 1099 not answered", "missing", "IRC 6041A")
@check("us.farm.statements-due", "Forms 1099 of a farm", "missing", "IRC 6041")
@check("us.farm.patron-open", "Cooperative distributions: section 199A(g) not answered", "missing", "IRC 199A(b)(7)")
@check("us.farm.resale-cost", "Resale livestock without cost", "missing", "26 CFR 1.61-4(a)")
@check("us.farm.income", "Farm expenses without income", "missing", "IRC 61")
def questions(run):
    for form, books in _farms(run):
        if books.code and not books.code.startswith("11"):
            yield found(books.address("code"), "Codes of part IV begin with 11. Check it.", code="us.farm.code-sector")
        if books.wages and not books.number:
            says = "Who pays wages needs one. Enter it on line D."
            yield found(books.address("number"), says, code="us.farm.number-missing")
        if books.custom_hire >= _CONTRACTOR and books.must_report is None:
            says = "Was anyone who is no corporation paid $600 or more? Answer line F."
            yield found(books.address("must_report"), says, code="us.farm.contractors-unanswered")
        if books.must_report and books.did_report is not True:
            yield found(books.address("did_report"), "Were they filed? Answer line G.", code="us.farm.statements-due")
        if books.cooperatives and books.patron is None:
            says = "Form 1099-PATR, box 6, reduces the QBI deduction. Answer it."
            yield found(books.address("patron"), says, code="us.farm.patron-open")
        if books.resale and not books.resale_cost:
            yield found(books.address("resale_cost"), "Enter on line 1b what they had cost.", code="us.farm.resale-cost")
        if form.expenses > 0 and form.gross_income == 0:
            says = "Was nothing sold, and no payment received? Enter 0, or the income."
            if not books.is_keyed("raised"):
                yield found(books.address("raised"), says, code="us.farm.income")


@check("us.farm.crop-election", "Crop insurance deferred", "election", "IRC 451(f); 26 CFR 1.451-6")
@check("us.farm.crop-nothing", "Crop insurance deferred, but none received", "conflict", "IRC 451(f)")
@check("us.farm.conservation-plan", "Conservation expenses need an approved plan", "rule", "IRC 175(c)(3)")
@check("us.farm.conservation-limited", "Conservation expenses limited", "rule", "IRC 175(b)")
def rules(run):
    for form, books in _farms(run):
        if books.crop_deferred and form.crop_insurance:
            says = "Attach the election statement: crops, dates, damage, insurers."
            yield found(books.address("crop_deferred"), says, code="us.farm.crop-election")
        if books.crop_deferred and not form.crop_insurance:
            says = "There is nothing to defer. Enter the proceeds, or answer no."
            yield found(books.address("crop_deferred"), says, code="us.farm.crop-nothing")
        if books.conservation:
            says = "They are deducted under a plan of the Department of Agriculture or a state. Ask for it."
            yield found(books.address("conservation"), says, code="us.farm.conservation-plan")
        if form.conservation_left > 0:
            says = f"A quarter of gross income is the limit: {form.conservation_left:,.0f} wait for next year."
            yield found(form.address("conservation"), says, code="us.farm.conservation-limited")


@check("us.farm.optional-profit", "Farm optional method not available", "rule", "IRC 1402(a)")
@check("us.farm.optional-nonfarm", "The nonfarm optional method", "rule", "IRC 1402(a), (h)")
@idea("us.farm.optional-could", "Farm optional method possible", "election", "IRC 1402(a)")
def optional(run):
    for form in run.every("us.sch-se"):
        mine = [books for one, books in _farms(run) if one.earner == form.key]
        chosen = [books for books in mine if books.optional_method]
        if chosen and not form.farm_optional:
            says = "Gross farm income and net profit exceed the limits. The regular method is used."
            yield found(chosen[0].address("optional_method"), says, code="us.farm.optional-profit")
        if mine and not chosen and form.farm_profit < form.law.self_employment.least and mine[0].raised > 0:
            says = f"Up to {form.optional_most:,.0f} would count, also for the earned income credit. Taxed at 15.3%."
            yield found(mine[0].address("optional_method"), says, code="us.farm.optional-could")
    for books in run.papers("business"):
        if books.optional_method:
            says = "At most five years, and $400 of net earnings in two of the prior three. Ask."
            yield found(books.address("optional_method"), says, code="us.farm.optional-nonfarm")


@check("us.farm.loss-again", "Farm loss: profit motive", "unlikely", "IRC 183")
@check("us.farm.two-thirds", "Farmer: two-thirds test", "rule", "IRC 6654(i)(2)")
@check("us.farm.installments", "Farmer: estimated tax rule not answered", "missed", "IRC 6654(i)")
@idea("us.farm.averaging-could", "Farm income averaging", "missed", "IRC 1301")
@idea("us.farm.fuel", "Off-highway fuel credit", "missed", "IRC 6420, 6427(l)")
def missed(run):
    for form, books in _farms(run):
        if form.profit < 0 and form.expenses > 3 * form.gross_income and form.profit < -_NOTABLE / 4:
            says = "Is it an activity for profit? Keep the evidence in the file."
            yield found(form.address("profit"), says, code="us.farm.loss-again")
        if books.fuel:
            says = "Tax on fuel used on the farm is a credit on Form 4136, which is not made here. Ask for the gallons."
            yield found(books.address("fuel"), says, code="us.farm.fuel")
        if form.profit > 5 * _NOTABLE and books.averaging is None:
            says = "After lower years Schedule J may tax less. It is not made here: compare before filing."
            yield found(books.address("averaging"), says, code="us.farm.averaging-could")
    gross, every = sum((form.gross_income for form, _ in _farms(run)), ZERO), run.form("us.1116").gross_everywhere
    asked = run.single("penalty")
    if asked.farmer and gross < _MOSTLY * every:
        says = "Two thirds of gross income, of this year or the last, must be from farming or fishing. Check last year's."
        yield found(asked.address("farmer"), says, code="us.farm.two-thirds")
    if gross > 0 and gross >= _MOSTLY * every and run.single("penalty").farmer is None:
        says = "Two-thirds of gross income is from farming: one installment by January 15, or none if filed by March 1."
        yield found(run.single("penalty").address("farmer"), says, code="us.farm.installments")


@check("us.farm.animal-days", "Livestock sold before the holding period", "rule", "IRC 1231(b)(3)")
@check("us.farm.animal-cost", "Livestock without a cost", "missing", "26 CFR 1.61-4(a)")
@check("us.farm.not-used", "Farm property used outside a farm", "conflict", "IRC 168(e)(3)")
def assets(run):
    kinds = ("farm-machine", "farm-used", "single-purpose", "farm-building", *ANIMALS)
    for one in run.papers("asset"):
        sale = run.form("us.sale-of-property", one.key)
        if one.sort in ANIMALS and sale.is_there and not sale.is_long:
            says = "Cattle and horses need two years, others one: the gain is ordinary."
            yield found(one.address("sold"), says, code="us.farm.animal-days")
        if one.sort in ANIMALS and not one.is_keyed("cost"):
            says = "Enter the cost; 0 for raised livestock."
            yield found(one.address("cost"), says, code="us.farm.animal-cost")
        activity = run.by_key(ACTIVITIES, str(one.used_in))
        if one.sort in kinds and activity is not None and activity.kind != "farm":
            yield found(one.address("used_in"), "This kind is for a farm. Check what it is used in.", code="us.farm.not-used")


CHECKS = (not_made, statements, questions, rules, optional, missed, assets)
