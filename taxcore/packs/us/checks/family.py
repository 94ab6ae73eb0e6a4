"""Adoptions, disabilities, mortgage certificates and minimum tax of earlier years: what contradicts, what is missing."""

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us.base import digits

_GROWN, _OLD = 18, 65
_LEAST_RATE, _MOST_RATE = 10, 50  # IRC 25(d)
_VEHICLES_SINCE = 2023  # the credits of Pub. L. 117-169


@stops("us.adoption.benefits-nowhere", "Adoption benefits (code T) without Form 8839", "missing", "IRC 137")
@check("us.adoption.benefits-differ", "Adoption benefits differ from the W-2", "conflict", "IRC 137")
@stops("us.adoption.final-later", "Adoption final after the tax year", "conflict", "IRC 23(e)")
@check("us.adoption.waits", "Adoption expenses allowed next year", "carried", "IRC 23(a)(2)(A)")
@check("us.adoption.older", "Adopted child is 18 or older", "rule", "IRC 23(d)(2)")
@check("us.adoption.special-needs", "Special needs and foreign adoption", "missing", "IRC 23(d)(3)")
@check("us.adoption.dependent", "Adopted child is not a dependent", "missed", "IRC 152")
@check("us.adoption.number-kind", "Type of the child's identifying number", "missing", "IRC 23(f)(2)")
def adoptions(run):
    given = sum((amount for wage in run.papers("w2") for amount in wage.coded({"T"})), ZERO)
    children = run.papers("adoption")
    if given and not children:
        says = "Code T on a W-2 needs Form 8839. Add the adoption, or ask the employer."
        coded = next(wage for wage in run.papers("w2") if any(wage.coded({"T"})))
        yield found(coded.address("codes"), says, code="us.adoption.benefits-nowhere")
    if children and given != sum((one.benefits for one in children), ZERO):
        says = f"Code T of all W-2s is {given:,}. Divide it between the children."
        yield found(children[0].address("benefits"), says, code="us.adoption.benefits-differ")
    known = {digits(person.number) for person in run.people("dependant")}
    for one in children:
        if one.final_in and one.final_in > run.year:
            yield found(one.address("final_in"), "Leave it empty until it is final.", code="us.adoption.final-later")
        if one.paid and not one.final_in and not one.foreign:
            says = "Paid before the adoption is final, they count a year later. They come along to next year's return."
            yield found(one.address("paid"), says, code="us.adoption.waits")
        if one.birth_year and run.year - one.birth_year > _GROWN and not one.disabled:
            says = "Only children below 18 and people who cannot care for themselves count. Check the year of birth."
            yield found(one.address("birth_year"), says, code="us.adoption.older")
        if one.special_needs and one.foreign:
            says = "A state finds special needs of a child that is a citizen or resident. Check both answers."
            yield found(one.address("special_needs"), says, code="us.adoption.special-needs")
        if one.final_in == run.year and digits(one.number) not in known:
            says = "Add the child to the people of this return, if it lived here."
            yield found(one.address("number"), says, code="us.adoption.dependent")
        if one.number and not one.number_kind:
            yield found(
                one.address("number_kind"), "Say whether it is an SSN, an ATIN or an ITIN.", code="us.adoption.number-kind"
            )


@check("us.adoption.separate", "Adoption on a separate return", "lost", "IRC 23(f)(1)")
@check("us.adoption.ends", "Adoption credit carryforward expires", "lost", "IRC 23(c)(1)")
@idea("us.adoption.lost", "Adoption credit reduced by income", "lost", "IRC 23(b)(2)")
def adoption_limits(run):
    if run.is_idle("us.8839"):
        return
    form = run.form("us.8839")
    costs = sum((one.expenses for one in run.every("us.8839-child")), ZERO)
    if form.is_shut and (costs > 0 or form.benefits > 0):
        says = "Married people need a joint return for it, unless they lived apart for the last six months of the year."
        yield found(form.address("together"), says, code="us.adoption.separate")
    if form.ended > 0:
        says = f"{form.ended:,.0f} of five years ago end with this year."
        yield found(form.address("left"), says, code="us.adoption.ends")
    if form.part_lost > 0 and costs > 0 and not form.is_shut:
        says = f"Income above {form.law.adoption.falls_from:,} takes {form.part_lost:.0%} of it."
        yield found(form.address("part_lost"), says, code="us.adoption.lost")


@check("us.disability.statement", "Disability without a physician's statement", "missing", "IRC 22(e)(3)")
@check("us.disability.income", "Disability without disability income", "missing", "IRC 22(c)(2)(B)")
@check("us.disability.old", "Disability entered at age 65", "rule", "IRC 22(b)")
def disabilities(run):
    for one in run.papers("disability"):
        person = run.person(one.owner or "taxpayer")
        old = person is not None and (person.age_at_end() or 0) >= _OLD
        if one.disabled and old:
            yield found(
                one.address("disabled"), "At 65 the credit goes by age: the answer is not needed.", code="us.disability.old"
            )
        elif one.disabled and not one.income:
            says = "Below 65 the credit is on disability income only. Enter it, or mark the pension as one for disability."
            yield found(one.address("income"), says, code="us.disability.income")
        if one.disabled and not old and one.statement is not True:
            says = "Schedule R, part II, needs a physician's statement, kept for the records. Ask for it."
            yield found(one.address("statement"), says, code="us.disability.statement")


@stops("us.8396.rate", "Invalid certificate credit rate", "conflict", "IRC 25(d)")
@stops("us.8396.related", "Mortgage interest paid to a related person", "conflict", "IRC 25(c)(2)(A)")
@check("us.8396.interest", "Certified interest exceeds Form 1098", "conflict", "IRC 25(a)(1)")
@check("us.8396.ends", "Mortgage interest credit carryforward expires", "lost", "IRC 25(e)(1)")
def certificates(run):
    if run.is_idle("us.8396"):
        return
    form, one = run.form("us.8396"), run.single("mortgage-certificate")
    if one.is_keyed("rate") and not _LEAST_RATE <= one.rate <= _MOST_RATE:
        yield found(
            one.address("rate"), "Rates are between 10 and 50 percent. Copy it from the certificate.", code="us.8396.rate"
        )
    if one.related and one.interest:
        yield found(one.address("related"), "Such interest gives no credit. Remove it from line 1.", code="us.8396.related")
    paid = [paper.interest for paper in run.papers("1098")]
    if paid and one.interest > sum(paid, ZERO):
        yield found(one.address("interest"), f"Forms 1098 show {sum(paid, ZERO):,}. Compare both.", code="us.8396.interest")
    if form.ended > 0:
        says = f"{form.ended:,.0f} of three years ago end with this year."
        yield found(form.address("left"), says, code="us.8396.ends")


@check("us.8801.new", "Minimum tax credit next year", "carried", "IRC 53(d)(1)(B)")
def minimum_tax_of_this_year(run):
    """What comes from timing alone comes back."""
    form = run.form("us.6251")
    if form.tax > 0 and (form.stock_options or form.depreciation or form.dispositions):
        says = f"{run.form('us.8801').added:,.0f} of it comes from timing and is a credit in later years. It is carried forward."
        yield found(form.address("tax"), says, code="us.8801.new")


@stops("us.vehicle.before-2023", "Clean vehicle placed in service in 2022", "unsupported", "IRC 30D, as it was until 2022")
@check("us.vehicle.income", "Clean vehicle credit: income above the limit", "lost", "IRC 25E(b), 30D(f)(10)")
@check("us.vehicle.repaid", "Transferred clean vehicle credit to repay", "lost", "IRC 30D(g)(10)")
@check("us.vehicle.report", "New clean vehicle: seller's report missing", "missing", "IRC 30D(d)(1)(H)")
@check("us.vehicle.day", "Clean vehicle outside the credit period", "rule", "Pub. L. 119-21 sec. 70502")
@check("us.vehicle.price", "Used clean vehicle above $25,000", "rule", "IRC 25E(c)(2)(B)")
@check("us.vehicle.lost", "Clean vehicle credit limited by tax", "lost", "IRC 30D(c)(2)")
@check("us.vehicle.twice", "Clean vehicle entered twice", "conflict", "IRC 30D(f)(9)")
def vehicles(run):
    seen = set()
    for form in run.every("us.8936-vehicle"):
        one = form.paper
        if one.vin and one.vin in seen:
            yield found(one.address("vin"), "The same vehicle is entered twice. Remove one.", code="us.vehicle.twice")
        seen.add(one.vin)
        if run.year < _VEHICLES_SINCE:
            says = "The credit of that year went by makers and batteries. It is not supported: this return cannot be e-filed."
            yield found(one.address("in_service"), says, code="us.vehicle.before-2023")
        elif one.in_service is not None and not form.is_in_time:
            says = "No credit: acquired after September 30, 2025, or placed in service in another year."
            yield found(one.address("in_service"), says, code="us.vehicle.day")
        if one.condition == "new" and not one.credit:
            says = "The seller reports the credit to the IRS and the buyer. Enter it from that report."
            yield found(one.address("credit"), says, code="us.vehicle.report")
        if one.condition == "used" and one.price > run.laws["us"].clean_vehicle.most_price:
            yield found(one.address("price"), "A used vehicle above $25,000 does not qualify.", code="us.vehicle.price")
        if form.allowed > 0 and not form.is_within and not one.transferred:
            says = "Income of this year, and of the last as far as it is entered, is above the limit."
            yield found(form.address("is_within"), says, code="us.vehicle.income")
        if form.to_repay > 0:
            says = f"{form.to_repay:,.0f} passed on by the dealer is paid back: income is above the limit in both years."
            yield found(form.address("to_repay"), says, code="us.vehicle.repaid")
    if not run.is_idle("us.8936"):
        together, form = sum((one.claimed for one in run.every("us.8936-vehicle")), ZERO), run.form("us.8936")
        if together > form.new + form.used:
            lost = together - form.new - form.used
            says = f"The credit exceeds the tax: {lost:,.0f} is lost. A transfer to the dealer would have kept it."
            yield found(form.address("new"), says, code="us.vehicle.lost")


CHECKS = (vehicles, adoptions, adoption_limits, disabilities, certificates, minimum_tax_of_this_year)
