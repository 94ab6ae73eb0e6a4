"""How many examples a property is tried with: a sample in the suite, thousands where `./impuesto test --search` asks for them."""

import os

SEARCH = os.environ.get("IMPUESTO_SEARCH") == "1"


def examples(few):
    return few * 25 if SEARCH else few
