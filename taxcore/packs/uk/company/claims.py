"""What a company claims: losses of before and of the period, relief within a group, loans to participators, pages besides."""

from taxcore.engine import Amount, Choice, Day, Flag, Row, Rows, Text
from taxcore.packs.uk.company.balances import DEFICIT, PROPERTY_LOSS, TRADE_LOSS, TRADE_LOSS_2017
from taxcore.packs.uk.company.base import CompanyPaper

GIVEN = {
    "trade": "Trading loss", "deficit": "Deficit of loans", "property": "Loss of lettings", "donations": "Donations",
}  # fmt: skip


class EarlierRow(Row):
    begun = Day(None, "Period from", needed="Twelve months are counted.")
    ended = Day(None, "To", needed="Twelve months are counted.")
    profits = Amount(None, "Profits of it, before donations", help="After reliefs that come before.")
    interest = Amount(None, "Of them, of loans", help="A deficit of loans is carried back against no others.")
    tax_before = Amount(None, "Tax of it")
    tax_after = Amount(None, "The same with what is carried back")


class Losses(CompanyPaper):
    """Losses of before, and what becomes of those of the period. CTA 2010 Part 4; CTA 2009 Part 5 ch. 16A."""

    kind, name, official, group = "losses", "Losses", "CT600, boxes 160, 250 to 285", "losses"
    single = True

    this_year = Flag(
        "275", "Trading loss against all profits of the period", cites="CTA 2010 s. 37(3)(a)", begins="Loss of the period"
    )
    back = Flag(None, "And against profits of before", cites="CTA 2010 ss. 37(3)(b), 39",
                help="Twelve months; three years where the trade ceased.")  # fmt: skip
    deficit_claim = Amount(
        "260",
        "Deficit of loans against profits of the period, if less",
        cites="CTA 2009 s. 463B(1)(a)",
        begins="Deficit of loans",
    )
    deficit_back = Flag(
        None, "What is left of it against profits of loans of the twelve months before", cites="CTA 2009 s. 463B(1)(b)"
    )
    earlier = Rows(None, "Earlier periods", EarlierRow)
    trade_before = Amount(
        "285", "Trading losses brought forward", opens=TRADE_LOSS, begins="Brought forward", cites="CTA 2010 s. 45A"
    )
    trade_claim = Amount(None, "No more of them than", cites="CTA 2010 s. 45A(4)")
    trade_before_2017 = Amount("160", "Trading losses of before April 2017", opens=TRADE_LOSS_2017, cites="CTA 2010 s. 45")
    property_before = Amount("250", "Losses of lettings", opens=PROPERTY_LOSS, cites="CTA 2010 s. 62(5)")
    deficit_before = Amount("263", "Non-trading deficits of loans", opens=DEFICIT, cites="CTA 2009 s. 463G")
    allowance = Amount(
        None, "The company's part of the deductions allowance", cites="CTA 2010 s. 269ZW", help="If empty, all of it."
    )


class LoanRow(Row):
    who = Text(None, "Participator", longest=60, needed="The page names who owes.")
    made = Day(None, "Lent on", needed="The rate depends on it.")
    amount = Amount(None, "Owed at the end of the period")
    repaid = Amount(None, "Of it, repaid within nine months", cites="CTA 2010 s. 458(4)")
    later = Amount(None, "Of it, repaid later", cites="CTA 2010 s. 458(5)")
    later_on = Day(None, "On")


class Loans(CompanyPaper):
    """Loans to participators and their associates: CT600A. CTA 2010 s. 455."""

    kind, name, official, group = "loans", "Loans to participators", "CT600A", "reliefs"
    single = True

    loans = Rows(None, "Loans of the period", LoanRow)
    before = Amount("A75", "Loans of earlier periods that are still owed", help="Their tax was due with those periods.")


class _PartnerRow(Row):
    company = Text(None, "Company", longest=60, needed="The page names it.")
    reference = Text(
        None, "Its reference", pattern=r"\d{10}", longest=10, pattern_says="Ten digits.", needed="The page names it."
    )
    begun = Day(None, "Its period from", needed="Relief goes by the days that both periods have.")
    ended = Day(None, "To", needed="Relief goes by the days that both periods have.")


class ClaimedRow(_PartnerRow):
    loss = Amount(None, "What it lost in its period", needed="No more than that can be given up.")
    amount = Amount(None, "Claimed of it")
    consented = Flag(None, "Its consent is there", cites="FA 1998 Sch. 18 para. 70")


class GivenRow(_PartnerRow):
    sort = Choice(None, "What is given up", GIVEN, needed="The law tells them apart.")
    amount = Amount(None, "How much")
    consented = Flag(None, "This company consents", cites="FA 1998 Sch. 18 para. 70")


class Group(CompanyPaper):
    """Group and consortium relief: CT600C. CTA 2010 Part 5."""

    kind, name, official, group = "group", "Group relief", "CT600C", "reliefs"
    single = True

    claims = Rows("1", "Claimed: losses that others gave up", ClaimedRow, cites="CTA 2010 s. 130")
    given = Rows("2", "Given up to others", GivenRow, cites="CTA 2010 s. 99")


class Reliefs(CompanyPaper):
    """Donations. CTA 2010 Part 6."""

    kind, name, official, group = "reliefs", "Donations", "CT600, box 305", "reliefs"
    single = True

    donations = Amount("305", "Qualifying donations", cites="CTA 2010 s. 189")


class Supplementary(CompanyPaper):
    """Which other pages the facts call for. What is not made here stops filing by its name."""

    kind, name, official, group = "supplementary", "Supplementary pages", "CT600, boxes 95 to 144", "company"
    single = True

    abroad = Flag("CT600B", "CT600B: controlled foreign companies, exempt branches abroad", cites="TIOPA 2010 Part 9A", kept=True)
    insurance = Flag("CT600D", "CT600D: insurance", cites="FA 2012 Part 2", kept=True)
    charity = Flag("CT600E", "CT600E: a charity or amateur sports club", cites="CTA 2010 Part 11", kept=True)
    ships = Flag("CT600F", "CT600F: tonnage tax", cites="FA 2000 Sch. 22", kept=True)
    royalties = Flag("CT600H", "CT600H: royalties paid abroad without tax taken off", cites="ITA 2007 s. 911", kept=True)
    oil = Flag("CT600I", "CT600I: ring fence trades", cites="CTA 2010 Part 8", kept=True)
    schemes = Flag("CT600J", "CT600J: disclosed tax avoidance schemes", cites="FA 2004 Part 7", kept=True)
    research = Flag("CT600L", "CT600L: research and development", cites="CTA 2009 Part 13", kept=True)
    freeports = Flag("CT600M", "CT600M: freeports and investment zones", cites="CAA 2001 s. 45O", kept=True)
    homes = Flag("CT600N", "CT600N: residential property developer tax", cites="FA 2022 Part 2", kept=True)
    creative = Flag("CT600P", "CT600P: creative industries", cites="CTA 2009 Part 14A", kept=True)
