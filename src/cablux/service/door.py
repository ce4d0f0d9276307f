"""The door: beyond this machine Cablux is opened by a passphrase, kept only as its Argon2 hash."""

from __future__ import annotations

import hashlib
import os
import secrets
import threading
import time
from collections import deque
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from itsdangerous import BadData, URLSafeTimedSerializer

from .errors import InvalidForm

LEAST = 10
"""Our choice: so many characters at the least; a passphrase that we make has 24, chosen out of 10^18."""
MOST = 200
STAYS = 30 * 24 * 3600.0  # seconds, our choice: a phone at the chair is asked once a month
TRIES, PAUSE = 5, 60.0
"""Our choice: after five wrong passphrases within a minute nobody is let in until a minute has passed."""
_SYLLABLES = [f"{consonant}{vowel}" for consonant in "bdfghklmnprstw" for vowel in "aeiou"]


class Door:
    """The passphrase of one folder of data, and who has given it."""

    def __init__(self, folder: Path) -> None:
        self.file = folder / "passphrase"
        self._hasher, self._wrong, self._lock = PasswordHasher(), deque[float](maxlen=TRIES), threading.Lock()

    @property
    def has_passphrase(self) -> bool:
        """Whether one is kept."""
        return self.file.exists()

    def set_passphrase(self, passphrase: str) -> None:
        """Keeps a passphrase; whoever was let in by another one is asked again. Raises InvalidForm if it is short."""
        if not LEAST <= len(passphrase.strip()) <= MOST:
            sentence = f"Type a passphrase of {LEAST} to {MOST} characters; several words are easy to keep in mind."
            raise InvalidForm({"passphrase": sentence})
        self.file.parent.mkdir(parents=True, exist_ok=True)
        fresh = self.file.with_suffix(".new")
        with os.fdopen(os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as kept:
            kept.write(self._hasher.hash(passphrase.strip()))
        fresh.replace(self.file)

    def open_with(self, passphrase: str) -> str:
        """The pass for whoever gives the passphrase. Raises InvalidForm where it is wrong, or was wrong too often."""
        with self._lock:  # one try at a time: guessing is as slow as one hash after the other
            now = time.monotonic()
            if len(self._wrong) == TRIES and now - self._wrong[0] < PAUSE:
                raise _refusal("Wrong five times: wait a minute, then type it again.")
            try:
                self._hasher.verify(self.file.read_text(), passphrase.strip()[:MOST])
            except (VerifyMismatchError, InvalidHashError, OSError):
                self._wrong.append(now)
                raise _refusal("That is not the passphrase. It was shown where Cablux was started.") from None
            self._wrong.clear()
        return self._passes().dumps("in")

    def lets_in(self, given: str) -> bool:
        """Whether a pass is one of this passphrase, and not too old."""
        try:
            return bool(given) and self._passes().loads(given, max_age=int(STAYS)) == "in"
        except (BadData, OSError):
            return False

    def _passes(self) -> URLSafeTimedSerializer:
        """Passes are signed by what is made of the hash: another passphrase ends them all."""
        key = hashlib.sha256(self.file.read_bytes()).hexdigest()
        return URLSafeTimedSerializer(key, salt="cablux-door")


def _refusal(sentence: str) -> InvalidForm:
    return InvalidForm({"passphrase": sentence})


def made_passphrase() -> str:
    """A passphrase that can be said and typed on a phone: five words of two syllables, by chance."""
    return "-".join(secrets.choice(_SYLLABLES) + secrets.choice(_SYLLABLES) for _ in range(5))
