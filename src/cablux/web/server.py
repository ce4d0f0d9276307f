"""Runs the application on this machine and says where."""

from __future__ import annotations

import gc
import socket

import uvicorn

from ..core.errors import CabluxError
from ..service.door import Door
from ..settings import Settings
from .app import create_app
from .nearby import phone_address, qr_terminal


def keep_for_good() -> None:
    """Leaves what lives as long as the program out of every later search for garbage.

    Those are 150,000 objects; each full search through them held a page up by 75 ms.
    """
    gc.freeze()


def serve(settings: Settings) -> None:
    """Listens until it is stopped. Raises CabluxError where the port is taken, or a passphrase is wanting."""
    if settings.reaches_out and not Door(settings.data).has_passphrase:
        raise CabluxError(
            f"{settings.host} can be reached by others, so a passphrase is wanted first: start it once with "
            "“cablux serve --lan”, which asks for one or makes one."
        )
    family = socket.AF_INET6 if ":" in settings.host else socket.AF_INET
    listener = socket.socket(family, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((settings.host, settings.port))
    except OSError as error:
        listener.close()
        raise CabluxError(
            f"Port {settings.port} on {settings.host} cannot be used ({error.strerror}). "
            "Is Cablux running already? Another port: PORT=8766, or --port 8766."
        ) from None
    port = listener.getsockname()[1]
    app = create_app(settings)
    listener.listen(128)  # from here on a browser waits instead of being refused
    address = f"http://{settings.host}:{port}/"
    if settings.reaches_out:
        app.state.phone_address = address = phone_address(settings.host, port)
        print(qr_terminal(address))
        print("For whoever is in the same network and knows the passphrase. What is sent is not encrypted.")
    print(f"Cablux: {address}   (data in {settings.data}; Ctrl+C stops it)", flush=True)
    keep_for_good()
    config = uvicorn.Config(app, log_level="warning", access_log=False)
    uvicorn.Server(config).run(sockets=[listener])
