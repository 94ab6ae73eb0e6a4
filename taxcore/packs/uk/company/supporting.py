"""What goes with a company's return, and what a director declares."""

from dataclasses import replace

from taxcore.engine.outgoing import Attachable, Drawn
from taxcore.packs.uk.company import tagged
from taxcore.packs.uk.company.journal import statements
from taxcore.packs.uk.individual.supporting import OUTGOING as INDIVIDUAL


def drawn(result, authority):
    """Computation and, from a trial balance, accounts as tagged pages."""
    run = result.run
    if authority != "uk-ct":
        return ()
    made = [Drawn("computation", "Tax computation", (), page=tagged.computation(run))]
    if run.single("accounts").rows:
        made.append(Drawn("accounts", "Accounts", (), page=tagged.accounts(run)))
    return tuple(made)


_DECLARED = (
    "I declare that this return, with its computation and accounts, is correct and complete to the best of my knowledge and "
    "belief. I know that false information can lead to prosecution."
)
OUTGOING = replace(
    INDIVIDUAL,
    attachable=(
        Attachable("accounts", "Accounts", "FA 1998 Sch. 18 para. 11", tagged=True),
        Attachable("computation", "Tax computation", "FA 1998 Sch. 18 para. 11", tagged=True),
        Attachable("consent", "Consent to group relief", "FA 1998 Sch. 18 para. 70"),
        Attachable("other", "Other supporting document", "CT600 notes"),
    ),
    signs=f"{_DECLARED} {{practice}} may send it to {{authority}} for the company.",
    authorizes=f"{_DECLARED} {{practice}} may send the return {{year}} to {{authority}} for the company.",
    signs_on_paper=_DECLARED,
    drawn=drawn,
    statements=statements,
)
