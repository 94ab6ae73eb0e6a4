"""What ships with an MIT product: every locked package under a license that allows it."""

import re
from importlib import metadata
from unittest import TestCase

from ops.installation import HOME

# The Lesser GPL allows the use as a library; where a package offers several, one of these is enough
ALLOWED = re.compile(r"MIT|BSD|Apache|ISC|PSF|Python Software Foundation|Mozilla|MPL|LGPL|Lesser General Public")


def locked():
    """Names in requirements.lock."""
    return re.findall(r"^([A-Za-z0-9_.-]+)(?:\[[^\]]*\])?==", (HOME / "requirements.lock").read_text(), re.M)


def said_of(name):
    """What a package says of its license: the expression, the field, the classifiers."""
    about = metadata.metadata(name)
    classifiers = [one for one in about.get_all("Classifier") or [] if one.startswith("License")]
    field = (about.get("License") or "").strip().split("\n")[0]
    return [text for text in (about.get("License-Expression") or "", field, *classifiers) if text]


class LicenseTests(TestCase):
    def test_every_package_may_ship_with_an_mit_product(self):
        said = {name: said_of(name) for name in locked()}
        refused = {name: texts for name, texts in said.items() if not any(ALLOWED.search(text) for text in texts)}
        self.assertEqual(refused, {})

    def test_enough_is_read(self):
        self.assertGreater(len(locked()), 50)
        self.assertFalse(
            any(ALLOWED.search(text) for text in ("GPL-3.0-only", "GNU General Public License v2 or later (GPLv2+)"))
        )
