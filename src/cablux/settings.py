"""Settings by environment: CABLUX_DATA, CABLUX_HOST, CABLUX_PORT, CABLUX_DEVELOPMENT."""

from __future__ import annotations

from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict


def _home() -> Path:
    return Path.home() / ".local" / "share" / "cablux"


LOOPBACK = ("127.0.0.1", "localhost", "::1")


class Settings(BaseSettings):
    """Where the data lies and where the program listens."""

    model_config = SettingsConfigDict(env_prefix="CABLUX_")

    data: Path = Field(default_factory=_home, description="folder of the database and files")
    host: str = Field(default="127.0.0.1", description="address to listen on")
    port: int = Field(default=8765, ge=0, le=65535, description="port to listen on; 0 picks a free one")
    development: bool = Field(default=False, description="whether it shows what only those who work on it need")

    @property
    def reaches_out(self) -> bool:
        """Whether others than this machine can reach it."""
        return self.host not in LOOPBACK

    @property
    def database(self) -> Path:
        """The database file."""
        return self.data / "cablux.db"
