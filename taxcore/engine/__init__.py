"""Figures, lines, forms, evaluation, explanation, overrides. Knows no country."""

from taxcore.engine.cells import Cell, Node
from taxcore.engine.checks import Finding, Mend, check, idea, stops_filing
from taxcore.engine.explain import (
    by_bands,
    excess,
    explained,
    greatest,
    least,
    nothing_because,
    share,
    steps,
    times,
    total,
    when,
)
from taxcore.engine.figures import ZERO, Operand, cents, whole
from taxcore.engine.forms import Form, Loop, fact, line, linked
from taxcore.engine.pack import Authority, Pack
from taxcore.engine.papers import Amount, BadValue, Choice, Count, Day, Field, Flag, Paper, Person, Refer, Row, Rows, Text
from taxcore.engine.result import Result, compute, ripple
from taxcore.engine.values import Override, PaperValues, ReturnData

__all__ = [
    "ZERO",
    "Amount",
    "Authority",
    "BadValue",
    "Cell",
    "Choice",
    "Count",
    "Day",
    "Field",
    "Finding",
    "Flag",
    "Form",
    "Loop",
    "Mend",
    "Node",
    "Operand",
    "Override",
    "Pack",
    "Paper",
    "PaperValues",
    "Person",
    "Refer",
    "Result",
    "ReturnData",
    "Row",
    "Rows",
    "Text",
    "by_bands",
    "cents",
    "check",
    "compute",
    "excess",
    "explained",
    "fact",
    "greatest",
    "idea",
    "least",
    "line",
    "linked",
    "nothing_because",
    "ripple",
    "share",
    "steps",
    "stops_filing",
    "times",
    "total",
    "when",
    "whole",
]
