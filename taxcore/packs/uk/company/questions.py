"""The guided entry of a company's return: plain questions whose answers bring the papers."""

from taxcore.engine import Question

QUESTIONS = (
    Question("plant", "Assets", "Were plant, vans, cars or buildings bought, sold, or there from before?", ("plant",),
             "Pools of last period, what was bought and sold, buildings in use.",
             client="Did the company buy or sell equipment, vehicles or buildings?"),
    Question("income", "Income", "Was there income besides the trade: interest, rents, dividends?", ("other-income",),
             "What the trial balance shows by its lines need not be entered again.",
             client="Did the company receive interest, rent or dividends?"),
    Question("gains", "Income", "Was land, a building or an investment sold?", ("gains",),
             client="Did the company sell land, a building or an investment?"),
    Question("losses", "Losses", "Are there losses of before, or did the period end with one?", ("losses",),
             "Where a loss is set, and what earlier periods paid."),
    Question("loans", "Owners", "Did an owner or director owe the company money at the period's end?", ("loans",),
             "What was repaid within nine months bears no tax.",
             client="Did you or your family owe the company money at its year end?"),
    Question("reliefs", "Reliefs", "Were donations made to charities?", ("reliefs",),
             client="Did the company give to charities?"),
    Question("group", "Reliefs", "Are losses claimed from, or given up to, other companies of a group?", ("group",),
             "Each with its period, and its consent."),
    Question("supplementary", "Reliefs", "Does anything call for other pages: abroad, research, creative work?",
             ("supplementary",),
             "Those that are not made here stop filing by their name.",
             client="Did the company do research and development, or trade through branches abroad?"),
)  # fmt: skip
