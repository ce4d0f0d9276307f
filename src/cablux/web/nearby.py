"""How this machine is reached from the same network: its addresses, and one of them as a QR code."""

from __future__ import annotations

import io
import socket
from contextlib import suppress
from functools import lru_cache

import segno

ANYWHERE = "192.0.2.1"
"""An address that nobody has (RFC 5737): asked for the way to it, the system names our own; nothing is sent."""


@lru_cache(maxsize=1)
def own_addresses() -> tuple[str, ...]:
    """The names and addresses of this machine in its network, the one that others use first."""
    found: dict[str, None] = {}
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked, suppress(OSError):  # no network at all
        asked.connect((ANYWHERE, 9))
        found[asked.getsockname()[0]] = None
    name = socket.gethostname()
    with suppress(OSError):
        found.update(dict.fromkeys(socket.gethostbyname_ex(name)[2]))
    found.update({name.lower(): None, f"{name.lower()}.local": None})
    return tuple(found)


def phone_address(host: str, port: int) -> str:
    """The address that a phone in the same network types."""
    shown = next(iter(own_addresses())) if host in ("0.0.0.0", "::") else host
    return f"http://[{shown}]:{port}/" if ":" in shown else f"http://{shown}:{port}/"


def qr_svg(address: str) -> str:
    """An address as a QR code (ISO/IEC 18004), SVG without styles of its own."""
    out = io.BytesIO()
    segno.make(address, micro=False).save(
        out, kind="svg", scale=5, border=4, xmldecl=False, omitsize=True, light="#fff"
    )
    return out.getvalue().decode()


def qr_terminal(address: str) -> str:
    """The same for a terminal."""
    out = io.StringIO()
    segno.make(address, micro=False).terminal(out, compact=True, border=2)
    return out.getvalue()
