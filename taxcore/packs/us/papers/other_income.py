"""Income of other kinds: public payments, gambling, and what no statement reports. IRC 61, 74, 85, 111, 165(d)."""

from taxcore.engine import Amount, Count, Day, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.balances import OPERATING_LOSS
from taxcore.packs.us.base import FederalPaper, Placed
from taxcore.packs.us.papers.statements import PayersStatement, state_rows


class PublicPayments(PayersStatement):
    """Unemployment benefits and refunds of state income tax. IRC 85, 111."""

    placed = Placed("unemployment", rows="income")
    kind, name, official, group = "1099-g", "Government payments", "1099-G", "income"
    short, main, joint_owner = "Government", "unemployment", True

    unemployment = Amount("1", "Unemployment compensation", cites="IRC 85")
    repaid = Amount(None, "Repaid this year", help="Of benefits received this year.")
    state_refund = Amount("2", "State or local income tax refunds", cites="IRC 111")
    refund_year = Count("3", "Tax year of the refund", most=2199)
    withheld = Amount("4", "Federal income tax withheld")
    adjustment_assistance = Amount("5", "RTAA payments")
    grants = Amount("6", "Taxable grants")
    agriculture = Amount("7", "Agriculture payments")
    farm = Refer(None, "Boxes 7 and 9 reported on", ("farm",), kept=True)
    trade_income = Flag("8", "Box 2 is trade or business income")
    market_gain = Amount("9", "Market gain")
    states = state_rows("10 and 11")


class GamblingStatement(PayersStatement):
    """Winnings with a statement. IRC 3402(q), 6041."""

    placed = Placed("winnings", rows="income")
    kind, name, official, group = "w2g", "Gambling winnings", "W-2G", "income"
    short, main = "Reportable winnings", "winnings"

    winnings = Amount("1", "Reportable winnings")
    won = Day("2", "Date won")
    wager = Text("3", "Type of wager", longest=30)
    withheld = Amount("4", "Federal income tax withheld")
    states = state_rows("13 to 15")


class LossRow(Row):
    from_year = Count(None, "Year of the loss", most=2199, needed="Its age decides how it is deducted.")
    amount = Amount(None, "Not used yet")


class OperatingLosses(FederalPaper):
    """Net operating losses of earlier years. IRC 172(b)."""

    kind, name, official, group = "operating-losses", "Net operating losses of earlier years", "Form 172", "income"
    single, owned = True, False

    rows = Rows(None, "Losses", LossRow, opens=OPERATING_LOSS)


class OtherRow(Row):
    description = Text(None, "Description", longest=60, needed="Line 8z asks for a description.")
    amount = Amount(None, "Amount")


class OtherIncome(FederalPaper):
    """Income of one person that has no statement of its own here."""

    kind, name, official, group = "other-income", "Other income", "Schedule 1, part I", "income"
    goes_on = True
    main, joint_owner = "", True

    household_wages = Amount("1b", "Household employee wages not on a W-2")
    tips = Amount("1c", "Tip income not reported to the employer")
    medicaid_waiver = Amount("1d", "Medicaid waiver payments not on a W-2", cites="Notice 2014-7",
                             help="They count as earned income where that helps.")  # fmt: skip
    other_earned = Amount("1h", "Other earned income", help="Strike benefits, stipends.")
    combat_pay = Amount("1i", "Nontaxable combat pay election", cites="IRC 32(c)(2)(B)(vi)")
    alimony = Amount("2a", "Alimony received, agreement before 2019", cites="P.L. 115-97, sec. 11051")
    alimony_since = Day("2b", "Date of the agreement")
    gambling = Amount("8b", "Gambling winnings not on a W-2G")
    cancelled_debt = Amount("8c", "Cancellation of debt income", cites="IRC 61(a)(11), 108")
    permanent_fund = Amount("8g", "Alaska permanent fund dividends")
    jury = Amount("8h", "Jury duty pay")
    jury_given_up = Amount("24a", "Jury duty pay given to employer", cites="IRC 62(a)(13)")
    prizes = Amount("8i", "Prizes and awards", cites="IRC 74")
    hobby = Amount("8j", "Activity not engaged in for profit", cites="IRC 183")
    stock_options = Amount("8k", "Stock options")
    rented_things = Amount("8l", "Rental of personal property, not a business")
    rented_expenses = Amount("24b", "Expenses of that rental", cites="IRC 62(a)(4)")
    excess_business_loss = Amount("8p", "Section 461(l) excess business loss adjustment", cites="IRC 461(l)")
    disability_account = Amount("8q", "Taxable distributions from an ABLE account", cites="IRC 529A")
    scholarships = Amount("8r", "Scholarship and fellowship grants not on a W-2", cites="IRC 117")
    deferred_pay = Amount("8t", "Pension from a nonqualified deferred compensation plan")
    prison_wages = Amount("8u", "Wages earned while incarcerated")
    digital_assets = Amount("8v", "Digital assets received as ordinary income", help="Mining, staking, rewards.")
    others = Rows("8z", "Other", OtherRow)
