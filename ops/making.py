"""Files that are made from others: styles, schemas, the lock. Tests notice when a committed one is stale.

The authorities' schemas are made at set-up; committed is only what each of them must be (`authority/contracts.txt`, a hash a
line), so that a changed contract shows in review.
"""

import hashlib
import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

from ops.installation import HOME
from ops.trouble import Trouble

STATIC = HOME / "practice" / "web" / "static" / "web"
CSS = STATIC / "app.css"
_MODULES = HOME / "assets" / "node_modules"
_COPIES = {
    "signature_pad/dist/signature_pad.umd.min.js": "signature_pad.min.js",
    "@fontsource-variable/ibm-plex-sans/files/ibm-plex-sans-latin-wght-normal.woff2": "plex-latin.woff2",
    "@fontsource-variable/ibm-plex-sans/files/ibm-plex-sans-latin-wght-italic.woff2": "plex-latin-italic.woff2",
    "@fontsource-variable/ibm-plex-sans/files/ibm-plex-sans-latin-ext-wght-normal.woff2": "plex-latin-ext.woff2",
    "@fontsource-variable/ibm-plex-sans/LICENSE": "plex-LICENSE.txt",
}
_PRINTED = {f"@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-{weight}-normal.woff2": f"plex-print-{weight}.ttf"
            for weight in (400, 600, 700)}  # fmt: skip


AXE = HOME / "ops" / "tests" / "axe.min.js"


def assets() -> int:
    """Rebuild the styles and copy fonts and scripts from the locked npm packages."""
    if shutil.which("npm") is None:
        raise Trouble("Node and npm are missing; only rebuilding the styles needs them.", "apt-get install nodejs npm")
    _call(["npm", "ci", "--no-audit", "--no-fund", "--ignore-scripts"])
    for source, name in _COPIES.items():
        content = (_MODULES / source).read_bytes()
        (STATIC / name).write_bytes(re.sub(rb"\n//# sourceMappingURL=\S+", b"", content) if name.endswith(".js") else content)
    for source, name in _PRINTED.items():
        _unpacked(_MODULES / source, STATIC / name)
    shutil.copyfile(_MODULES / "axe-core" / "axe.min.js", AXE)
    import django_htmx

    htmx = next(Path(django_htmx.__file__).parent.rglob("htmx-2.min.js"))
    shutil.copyfile(htmx, STATIC / "htmx.min.js")
    _call(["npx", "tailwindcss", "-i", "app.css", "-o", str(CSS), "--minify"])
    CSS.write_text(f"/* made from {css_inputs()} */\n" + CSS.read_text())
    print(f"{CSS.relative_to(HOME)}: {CSS.stat().st_size:,} bytes")
    return 0


def _unpacked(source: Path, target: Path) -> None:
    """The same font without its compression: a third of a PDF's time went into unpacking one and fixing its weights."""
    from fontTools.ttLib import TTFont

    font = TTFont(source, recalcTimestamp=False)
    font.flavor = None
    font.save(target)


def css_inputs() -> str:
    """A fingerprint of all that the styles depend on: their source, the lock, the class names used in templates and scripts."""
    digest = hashlib.sha256()
    for path in (HOME / "assets" / "app.css", HOME / "assets" / "package-lock.json"):
        digest.update(path.read_bytes())
    digest.update(" ".join(sorted(class_names())).encode())
    return digest.hexdigest()[:32]


def class_names() -> set[str]:
    names: set[str] = set()
    for path in [*HOME.glob("practice/*/templates/**/*.html"), *STATIC.glob("*.mjs")]:
        for found in re.findall(r'class="([^"]*)"', re.sub(r"\{[%{#].*?[%}#]\}", " ", path.read_text())):
            names |= set(found.split())
    return names


def schemas() -> int:
    """Rewrite the hashes of the authorities' schemas, the open format's JSON Schema, the catalogue, the stand-ins' registers."""
    for path, content in made_files().items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(content)
        print(path.relative_to(HOME))
    return 0


CONTRACTS = HOME / "authority" / "contracts.txt"


def contracts() -> dict[str, bytes]:
    """The schema of what is filed with each authority for each year, by file name, from the present declarations."""
    from taxcore.engine import law as law_files
    from taxcore.engine.filed import filed_schema
    from taxcore.packs import KNOWN, pack_named

    return {
        f"{authority.code}-{year}.xsd": filed_schema(pack, authority, year).encode()
        for pack in map(pack_named, KNOWN)
        for authority in pack.authorities
        for year in law_files.years(pack.law[authority.form.jurisdiction])
    }


def keep_contracts(folder: Path) -> None:
    """Make the schemas in a folder unless they are there. Trouble where the declarations give others than were agreed on."""
    agreed = dict(line.split()[::-1] for line in CONTRACTS.read_text().splitlines())
    if all(_hash_of(folder / name) == digest for name, digest in agreed.items()):
        return
    folder.mkdir(parents=True, exist_ok=True)
    made = contracts()
    for name, content in made.items():
        beside = folder / f".{name}.{os.getpid()}"
        beside.write_bytes(content)
        beside.replace(folder / name)  # whole or not at all: another start may be reading
    differ = sorted(name for name in {*agreed, *made} if _hash_of(folder / name) != agreed.get(name))
    if differ:
        raise Trouble(f"Schemas differ from authority/contracts.txt: {', '.join(differ[:5])}", "./impuesto schemas")


def _hash_of(path: Path) -> str:
    return hashlib.sha256(path.read_bytes()).hexdigest() if path.is_file() else ""


def made_files() -> dict[Path, str]:
    """Path and content of every committed file that declarations make."""
    from practice.demo import scenario
    from taxcore.engine import document
    from taxcore.packs import KNOWN, pack_named

    pack = pack_named("us")
    hashes = (f"{hashlib.sha256(content).hexdigest()}  {name}\n" for name, content in sorted(contracts().items()))
    made = {CONTRACTS: "".join(hashes)}
    made[HOME / "docs" / "impuesto-return.schema.json"] = json.dumps(document.schema(pack), indent=1) + "\n"
    made[HOME / "docs" / "diagnostics.md"] = "\n".join(
        document.catalogue(pack_named(code)) for code in KNOWN if code.partition("-")[0] == "us"
    )
    made[HOME / "authority" / "registry" / "demo.json"] = json.dumps(scenario.authority_register(), indent=1) + "\n"
    made[HOME / "standins" / "registry.json"] = json.dumps(scenario.identity_register(), indent=1) + "\n"
    return made


def lock() -> int:
    """Resolve requirements.in into requirements.lock with hashes."""
    uv = Path(sys.executable).parent / "uv"
    command = [
        str(uv),
        "pip",
        "compile",
        "-q",
        "--generate-hashes",
        "--no-header",
        "--no-emit-index-url",
        "--python-version",
        "3.11",
    ]
    done = subprocess.run([*command, "requirements.in", "-o", "requirements.lock"], cwd=HOME)
    return done.returncode


def _call(command: list[str]) -> None:
    done = subprocess.run(command, cwd=HOME / "assets", env=os.environ | {"npm_config_loglevel": "error"})
    if done.returncode:
        raise Trouble(f"{command[0]} {command[1]} failed.", f"cd assets && {' '.join(command)}")
