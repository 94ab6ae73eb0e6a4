"""`python -m taxcore FILE.json`: a return computed on the command line, with no database and no Django."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from taxcore.engine import compute, document, words
from taxcore.engine.law import LawError
from taxcore.engine.result import Result
from taxcore.packs import UnknownPack, pack_named


def main(arguments: list[str] | None = None) -> int:
    """Exit code 0, or 2 with one line on standard error that says what is wrong."""
    parser = argparse.ArgumentParser("./impuesto compute", description="Compute a return of the open format.")
    parser.add_argument("file", nargs="?", help="impuesto-return document, or - for standard input")
    parser.add_argument("--explain", metavar="ADDRESS", help="explain one figure instead, such as us.1040.16")
    parser.add_argument("--year", type=int, help="compute it under the law of another year")
    parser.add_argument("--schema", metavar="PACK", help="print the JSON Schema of the open format and stop")
    options = parser.parse_args(arguments)
    try:
        print(_answer(options))
    except document.DocumentError as error:
        return _fail(error.says)
    except (OSError, json.JSONDecodeError) as error:
        return _fail(f"{options.file}: {error}")
    except UnknownPack as error:
        return _fail(f"There is no pack {error.args[0]!r}.")
    except LawError as error:
        return _fail(str(error))
    except KeyError as error:
        return _fail(f"This return has no figure at {error.args[0]}.")
    return 0


def _answer(options: argparse.Namespace) -> str:
    if options.schema:
        return json.dumps(document.schema(pack_named(options.schema)), indent=1)
    result = _compute(options.file, options.year)
    if options.explain:
        return _explain(result, options.explain)
    return json.dumps(document.write_result(result), indent=1)


def _compute(file: str | None, year: int | None) -> Result:
    if not file:
        raise document.DocumentError("Name a file to compute, or - for standard input.")
    text = sys.stdin.read() if file == "-" else Path(file).read_text()
    data = document.read(json.loads(text))
    pack = pack_named(data.pack)
    return compute(pack, data.but(year=year) if year else data)


def _explain(result: Result, address: str) -> str:
    cell = result[address]
    made: dict[str, Any] = {
        "address": address,
        "label": cell.label,
        "value": str(cell.value),
        "how": cell.how,
        "cites": cell.spec.cites or type(cell.node).__doc__,
        "because": words.plain(cell).splitlines(),
        "read": {source.address: str(source.value) for source in cell.sources()},
        "way_to_the_bottom_line": [step.address for step in result.way_up(cell)],
    }
    return json.dumps(made, indent=1)


def _fail(says: str) -> int:
    print(says, file=sys.stderr)
    return 2


if __name__ == "__main__":
    sys.exit(main())
