"""The papers of a household: what its people would hand to a preparer."""

from decimal import Decimal

from taxcore.packs.us.tests import returns
from taxcore.packs.us.tests.diagnosed.making import paper, rows
from taxcore.packs.us.tests.straight_line import BASE, hundredths

VALUE = 90_000  # of somebody's IRAs at the end of the year
HOME = 1_500  # square feet


def papers(facts):
    """The papers that say so, one after another."""
    yield from _people(facts)
    for one in facts.people:
        yield from _of_person(facts, one)
    yield from _money(facts)
    yield from _spending(facts)


def _people(facts):
    for one in facts.people:
        yield returns.person(one.role, born=one.born.isoformat(), blind="yes" if one.blind else "no", student="no")
    for child in facts.children:
        yield returns.child(child.key, born=child.born.isoformat(), student="yes" if child.student else "no")
    answers = {"kept_home": "yes"} if facts.status in ("head_of_household", "surviving_spouse") else {}
    if facts.status == "surviving_spouse":
        answers["spouse_died"] = str(facts.year - 1)
    if facts.status == "separate":
        answers |= {"spouse_itemises": "no", "spouse_covered": "no", "lived_apart": "no", "lived_apart_half": "no"}
    yield returns.filing(facts.status, residence=facts.home, state=facts.home, **answers)


def _of_person(facts, one):
    mine = {"owner": one.role}
    for number, job in enumerate(one.jobs):
        yield _w2(facts, one, number, job)
    if (trade := one.trade) and trade.farm:
        yield paper("farm", f"business-{one.role}", product="Kelp", code="112510", method="cash", participates="yes", **mine,
                    **_given(raised=trade.receipts, feed=trade.supplies, health_insurance=trade.insurance, sep=trade.plan))  # fmt: skip
    elif trade:
        yield paper(
            "business", f"business-{one.role}", activity="Net mending", code="811490", participates="yes", service_trade="no",
            **mine, **_given(receipts=trade.receipts, supplies=trade.supplies, meals=trade.meals, health_insurance=trade.insurance,
                             sep=trade.plan),
            **({"miles": str(trade.miles), "car_method": "miles", "car_placed": "2021-01-01", "car_evidence": "yes"} if trade.miles else {}),
            **_office(trade),
        )  # fmt: skip
    if trade and trade.machine:
        cost, age = trade.machine
        yield paper("asset", f"machine-{one.role}", description="Net loom", used_in=f"business-{one.role}", sort="machinery",
                    in_service=f"{facts.year - age}-04-01", cost=str(cost), no_special="yes", quarter="0")  # fmt: skip
    if one.pension:
        yield paper(
            "1099-r",
            f"pension-{one.role}",
            payer="Tern Pension",
            gross=str(one.pension),
            taxable=str(one.pension),
            code="7",
            ira="no",
            **mine,
        )
    if one.early:
        yield paper(
            "1099-r",
            f"early-{one.role}",
            payer="Sandbar Trust",
            gross=str(one.early),
            taxable=str(one.early),
            code="1",
            ira="yes",
            **mine,
        )
    if one.benefits:
        yield paper("ssa-1099", f"benefits-{one.role}", net=str(one.benefits), **mine)
    if one.converted:
        young = facts.year - one.born.year < 59
        yield paper("1099-r", f"converted-{one.role}", payer="Sandbar Trust", gross=str(one.converted), taxable=str(one.converted),
                    converted=str(one.converted), code="2" if young else "7", ira="yes", **mine)  # fmt: skip
    if one.ira or one.roth or one.early or one.converted:
        yield paper("ira", f"ira-{one.role}", value_at_end=str(VALUE), **mine,
                    **_given(traditional=one.ira, roth=one.roth, basis_before=one.basis))  # fmt: skip
    if one.health or any(job.health for job in one.jobs):
        cover = {"kind": "family" if one.family_cover else "alone", "first": "1", "last": "12"}
        yield paper("hsa", f"hsa-{one.role}", value_at_end="90000", coverage=rows(cover), **mine, **_given(paid_in=one.health))
    if one.educator:
        yield paper("adjustments", f"adjustments-{one.role}", educator=str(one.educator), **mine)


def _office(trade):
    """The home by the square foot, or by its costs."""
    if not trade.area:
        return {}
    if not trade.office:
        return {"home_method": "simplified", "home_area": str(trade.area), "home_months": "12"}
    costs = {f"home_{name}": str(amount) for name, amount in trade.office.items()}
    return {"home_method": "regular", "home_area": str(trade.area), "home_total": str(HOME), "home_itemised": "no"} | costs


def _w2(facts, one, number, job):
    year = facts.year
    there = (
        [] if facts.home == "TX" else [{"state": facts.home, "state_number": "0071", "wages": str(job.wages), "withheld": "0"}]
    )
    codes = [{"code": code, "amount": str(amount)} for code, amount in (("D", job.deferral), ("W", job.health)) if amount]
    others = [
        {"kind": kind, "amount": str(amount)} for kind, amount in (("tips", job.tips), ("overtime", job.overtime)) if amount
    ]
    capped = min(job.insured, BASE[year])
    boxes = {
        "social_security_wages": str(capped), "social_security_withheld": f"{box_4(year, job):.2f}", "medicare_wages": str(job.insured),
        "medicare_withheld": f"{box_6(job):.2f}", "retirement_plan": "yes" if job.deferral else "no",
        **({"care_benefits": str(job.care)} if job.care else {}), **({"codes": rows(*codes)} if codes else {}),
        **({"others": rows(*others)} if others else {}), "states": rows(*there),
    }  # fmt: skip
    return returns.w2(job.wages, job.withheld, f"w-{one.role}-{number}", one.role, **boxes)


def box_4(year, job):
    return hundredths(Decimal(min(job.insured, BASE[year])) * 62 / 1_000)


def box_6(job):
    return hundredths(Decimal(job.insured) * 145 / 10_000 + Decimal(max(job.insured - 200_000, 0)) * 9 / 1_000)


def _given(**amounts):
    return {name: str(amount) for name, amount in amounts.items() if amount}


def _money(facts):
    mine = {"owner": "taxpayer"}
    if facts.interest or facts.government or facts.exempt or facts.early_withdrawal or facts.private:
        yield paper("1099-int", "interest", payer="River Bank", **mine, **_given(
            interest=facts.interest, government_interest=facts.government, exempt_interest=facts.exempt + facts.private,
            private_activity=facts.private, early_withdrawal=facts.early_withdrawal))  # fmt: skip
    if facts.abroad or facts.abroad_before:
        before = [{"from_year": str(facts.year - 3), "amount": str(facts.abroad_before)}] if facts.abroad_before else []
        yield paper("foreign-tax", "foreign-tax", category="passive", country="Norway", carried=rows(*before), **_given(
            gross_income=facts.abroad_income, direct_deductions=facts.abroad_costs, other_tax=facts.abroad))  # fmt: skip
    if facts.dividends or facts.distributions or facts.foreign:
        yield paper("1099-div", "dividends", payer="Heron Fund", **mine, **_given(
            dividends=facts.dividends, qualified=facts.qualified, capital_gain=facts.distributions, unrecaptured=facts.unrecaptured,
            collectibles=facts.collectibles, trust_dividends=facts.trust, foreign_tax=facts.foreign),
            **({"foreign_country": "Norway"} if facts.foreign else {}))  # fmt: skip
    sold = [
        {"box": box, "proceeds": str(max(amount, 0) + 1_000), "basis": str(max(-amount, 0) + 1_000)}
        for box, amount in (("A", facts.short), ("D", facts.long))
        if amount
    ]
    if sold:
        yield paper("1099-b", "sold", payer="Sandbar Brokers", summaries=rows(*sold), **mine)
    if facts.carried_short or facts.carried_long:
        yield paper(
            "capital-carryover", "capital-carryover", **_given(short_term=facts.carried_short, long_term=facts.carried_long)
        )
    if facts.unemployment:
        yield paper("1099-g", "unemployed", payer="State of Texas", unemployment=str(facts.unemployment), **mine)
    if facts.winnings:
        yield paper("w2g", "won", payer="Levee Casino", winnings=str(facts.winnings), **mine)
    if facts.share:
        yield paper("k1-1065", "share", entity="Quay Partners", entity_number="00-4455668", participates="yes", all_at_risk="yes",
                    ordinary=str(facts.share), qualified_income=str(facts.share), service_trade="no", publicly_traded="no",
                    qualified_wages=str(abs(facts.share)), **mine)  # fmt: skip
    if facts.rents or facts.rent_costs or facts.rents_waiting:
        yield paper("rental", "house", address_line="9 Weir Lane", property_kind="1", state="TX", active="yes", rented_days="365",
                    **_given(rents=facts.rents, taxes=facts.rent_costs, passive_before=facts.rents_waiting), **mine)  # fmt: skip
    if facts.options:
        yield paper("minimum-tax", "minimum-tax", stock_options=str(facts.options))
    tax, income = facts.before
    yield paper("prior-year", "prior-year", tax=str(tax), adjusted_gross_income=str(income), whole_year="yes")
    if facts.paid:
        made = [{"paid": day.isoformat(), "amount": str(amount)} for day, amount in facts.paid]
        yield paper("estimates", "estimates", rows=rows(*made))


def _spending(facts):
    mine = {"owner": "taxpayer"}
    if facts.alimony:
        to = {"recipient": "Edda Roe", "number": "916-20-1111", "since": "2017-05-01", "amount": str(facts.alimony)}
        yield paper("adjustments", "alimony", alimony=rows(to), **mine)
    if facts.student_loan:
        yield paper("1098-e", "loan", lender="Loan House", interest=str(facts.student_loan), **mine)
    spent = _given(medical=facts.medical, state_income_tax=facts.state_tax, property_tax=facts.property_tax, gambling_losses=facts.lost,
                   investment_interest=facts.margin, investment_interest_before=facts.margin_before, sales_tax=facts.sales_tax)  # fmt: skip
    yield paper("itemized", "itemized", choice="better", **spent)
    if facts.mortgage:
        yield paper(
            "1098",
            "mortgage",
            lender="Ferry Bank",
            use="main",
            interest=str(facts.mortgage),
            principal="200000",
            origin="2019-05-05",
            **mine,
        )
    for key, kind, amount in (("given", "cash", facts.given), ("things", "property", facts.given_things)):
        if amount:
            yield paper("gift", key, charity="Lamplighters", gift_kind=kind, amount=str(amount), acknowledged="yes", **mine)
    if facts.given_before:
        kept = {"from_year": str(facts.year - 2), "gift_kind": "cash", "amount": str(facts.given_before)}
        yield paper("gift-carryover", "gift-carryover", rows=rows(kept))
    energy = _given(solar_electric=facts.solar, insulation=facts.insulation, heat_pump=facts.heat_pump, windows=facts.windows,
                    door_most=facts.doors, furnace=facts.furnace, panels=facts.panels, audit=facts.audit, battery=facts.battery)  # fmt: skip
    if energy:
        yield paper("energy", "energy", **energy)
    if facts.car_loan:
        yield paper("car-loan", "car", interest=str(facts.car_loan), lender="Lock Motors", vin="1HGCM82633A004352", loan_date="2025-03-01",
                    new_for_owner="yes", assembled_here="yes", personal="yes", **mine)  # fmt: skip
    costs = [{"person": child.key, "amount": str(child.care)} for child in facts.children if child.care]
    if costs:
        yield paper(
            "care", "care", provider="Wren Nursery", provider_address="3 Dock Road", number="00-1122334", costs=rows(*costs)
        )
    if facts.tuition:
        who, paid, credit = facts.tuition
        yield paper("1098-t", "tuition", payer="Galena College", payer_number="00-1122335", student=who, paid=str(paid), half_time="yes",
                    degree="yes", four_years_done="no", convicted="no", graduate="no", years_claimed="0", credit=credit)  # fmt: skip
    if facts.cover:
        names = ("first", "last", "premium", "benchmark", "advance")
        months = [dict(zip(names, map(str, span), strict=True)) for span in facts.cover]
        yield paper("1095-a", "cover", marketplace="Prairie Exchange", months=rows(*months))
