"""One installation: its data folder, its secrets, and the environment that its processes get."""

import json
import os
import secrets
from pathlib import Path

from ops.cluster import USER, Cluster

HOME = Path(__file__).resolve().parent.parent
PYTHON = str(HOME / ".venv" / "bin" / "python")


class Installation:
    """`data` is where everything that is not code lives; `ports` are chosen at start and kept in `ports.json`.

    IMPUESTO_DURABLE=no, for tests alone: what the machine has not written when its power goes is lost.
    """

    def __init__(self, data: Path | None = None):
        self.data = (data or Path(os.environ.get("IMPUESTO_DATA", HOME / "var"))).absolute()
        self.cluster = Cluster(self.data / "pg", durable=os.environ.get("IMPUESTO_DURABLE") != "no")

    def make_secrets(self) -> None:
        """Secrets are made once and never leave the data folder."""
        folder = self.data / "secrets"
        self.data.mkdir(parents=True, exist_ok=True)
        folder.mkdir(mode=0o700, exist_ok=True)
        keys = folder / "field_keys"
        # Before fingerprints had a secret of their own, they were made with the oldest field key: those that are there stay right
        oldest = keys.read_text().split()[-1] if keys.exists() else ""
        makers = {"secret_key": lambda: secrets.token_urlsafe(50), "field_keys": _fernet_key, "authority_key": _token,
                  "payment_key": _token, "text_key": _token, "mail_in_key": _token,
                  "set_up_key": _token,
                  "digest_key": lambda: oldest or _token()}  # fmt: skip
        for name, make in makers.items():
            path = folder / name
            if not path.exists():
                path.touch(mode=0o600)
                path.write_text(make())

    @property
    def ports(self) -> dict[str, int]:
        return json.loads((self.data / "ports.json").read_text())

    @ports.setter
    def ports(self, ports: dict[str, int]) -> None:
        (self.data / "ports.json").write_text(json.dumps(ports))

    def environment(self) -> dict[str, str]:
        """Environment for practice, worker, authority and stand-ins."""
        made = {
            "PYTHONPATH": str(HOME),
            "PYTHONUNBUFFERED": "1",
            "IMPUESTO_DATA": str(self.data),
            "IMPUESTO_SCHEMAS": str(self.data / "schemas"),
            "IMPUESTO_DB_HOST": "127.0.0.1",
            "IMPUESTO_DB_PORT": str(self.cluster.port),
            "IMPUESTO_DB_USER": USER,
            "IMPUESTO_DB_PASSWORD": self.cluster.password,
        }
        if (self.data / "ports.json").exists():
            ports = self.ports
            made |= {
                "IMPUESTO_PUBLIC_URL": f"http://127.0.0.1:{ports['web']}",
                "IMPUESTO_AUTHORITY_URL": f"http://127.0.0.1:{ports['authority']}",
                "IMPUESTO_IDENTITY_URL": f"http://127.0.0.1:{ports['standins']}",
                "IMPUESTO_PAYMENT_URL": f"http://127.0.0.1:{ports['standins']}",
                "IMPUESTO_TEXT_URL": f"http://127.0.0.1:{ports['standins']}",
                "IMPUESTO_STANDINS_PORT": str(ports["standins"]),
                "IMPUESTO_SMTP_PORT": str(ports["smtp"]),
                "IMPUESTO_SCANNER_PORT": str(ports.get("scanner", 0)),
                "IMPUESTO_MAILDROP_PORT": str(ports.get("maildrop", 0)),
                "IMPUESTO_MAIL_IN": f"pop://documents@127.0.0.1:{ports.get('maildrop', 0)}",
                "IMPUESTO_SCAN_FOLDER": str(self.data / "scans"),
                "IMPUESTO_SCANNER": f"127.0.0.1:{ports.get('scanner', 0)}",
            }
        return os.environ | made


def _fernet_key() -> str:
    from cryptography.fernet import Fernet

    return Fernet.generate_key().decode()


def _token() -> str:
    return secrets.token_urlsafe(32)
