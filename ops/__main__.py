"""The verbs of `./impuesto`."""

import os
import subprocess
import sys

from ops.trouble import Trouble

HELP = """./impuesto VERB

  start [--port N] [--data FOLDER] [--no-demo]  make what is missing and run the practice
  test [--search] [LABEL ...]                   every check and test, or the named tests only
  compute FILE [--explain ADDRESS] [--year Y]   a return of the open format, computed without a database
  bench [--quick]                               measure this machine; ratios within the run
  backup FILE                                   everything into one file
  restore FILE                                  everything back from it, into an empty or stopped practice
  assets                                        rebuild the committed styles, fonts and scripts (needs Node)
  schemas                                       rewrite the schemas and the catalog of diagnostics in docs
  pictures                                      retake docs/screenshots from a fresh demo practice
  lock                                          resolve requirements.in into requirements.lock
  manage practice|authority COMMAND             Django's management commands
  help                                          this page
"""


def main(arguments: list[str]) -> int:
    verb, rest = (arguments[0], arguments[1:]) if arguments else ("help", [])
    if verb in ("help", "--help", "-h"):
        print(HELP)
        return 0
    if verb == "compute":
        from taxcore.__main__ import main as compute

        return compute(rest)
    if verb == "start":
        from ops.start import main as start

        return start(rest)
    if verb == "test":
        from ops.verify import main as verify

        return verify(rest)
    if verb == "bench":
        from ops.bench import main as bench

        return bench(rest)
    if verb in ("backup", "restore"):
        from ops import backup

        return getattr(backup, verb)(rest)
    if verb in ("assets", "lock", "schemas"):
        from ops import making

        return getattr(making, verb)()
    if verb == "pictures":
        from ops.pictures import main as pictures

        return pictures()
    if verb == "manage":
        return manage(rest)
    raise Trouble(f"There is no verb {verb!r}.", "./impuesto help")


def manage(arguments: list[str]) -> int:
    from ops.installation import HOME, PYTHON, Installation

    if not arguments or arguments[0] not in ("practice", "authority"):
        raise Trouble("Say which project: practice or authority.", "./impuesto manage practice check")
    installation = Installation()
    installation.make_secrets()
    started = not installation.cluster.is_ready()
    installation.cluster.ensure()
    try:
        return subprocess.run([PYTHON, "-m", *arguments], cwd=HOME, env=installation.environment()).returncode
    finally:
        if started:
            installation.cluster.stop()


if __name__ == "__main__":
    try:
        code = main(sys.argv[1:])
    except Trouble as trouble:
        print(f"{trouble.happened}\nWhat mends it: {trouble.mend}", file=sys.stderr)
        code = 3
    except KeyboardInterrupt:
        code = 130
    except BrokenPipeError:
        os.close(1)
        code = 0
    sys.exit(code)
