"""The content of a snapshot, held against its hash."""

import hashlib
import json

from practice.firm.crypto import unseal_bytes


def content_of(snapshot):
    """What was frozen, as {"return": document, "result": lines, "drawn": forms}. ValueError when it does not fit its hash."""
    content = unseal_bytes(snapshot.content)
    if hashlib.sha256(content).hexdigest() != snapshot.hash:
        raise ValueError(f"snapshot {snapshot.pk} does not fit its hash")
    return json.loads(content)
