"""The stand-in's own data, in its own SQLite file."""

import sqlite3
import threading
from pathlib import Path
from typing import Any

_MAKE = 5
_TABLES = """
CREATE TABLE IF NOT EXISTS account (id INTEGER PRIMARY KEY, network TEXT NOT NULL, login TEXT NOT NULL, password TEXT NOT NULL,
    name TEXT NOT NULL, UNIQUE (network, login));
CREATE TABLE IF NOT EXISTS profile (network TEXT NOT NULL, uid TEXT NOT NULL, account INTEGER NOT NULL REFERENCES account,
    handle TEXT NOT NULL, name TEXT NOT NULL, kind TEXT NOT NULL, colour TEXT NOT NULL, followers INTEGER NOT NULL DEFAULT 0,
    facts TEXT NOT NULL DEFAULT '{}', PRIMARY KEY (network, uid));
CREATE TABLE IF NOT EXISTS site (name TEXT PRIMARY KEY, said TEXT NOT NULL);
CREATE TABLE IF NOT EXISTS code (code TEXT PRIMARY KEY, network TEXT NOT NULL, account INTEGER NOT NULL, client TEXT NOT NULL,
    redirect TEXT NOT NULL, scope TEXT NOT NULL, challenge TEXT NOT NULL, method TEXT NOT NULL, chosen TEXT NOT NULL, ends REAL NOT NULL);
CREATE TABLE IF NOT EXISTS token (access TEXT PRIMARY KEY, refresh TEXT UNIQUE, network TEXT NOT NULL, account INTEGER NOT NULL,
    client TEXT NOT NULL, scope TEXT NOT NULL, chosen TEXT NOT NULL, access_ends REAL NOT NULL, connection_ends REAL NOT NULL,
    revoked INTEGER NOT NULL DEFAULT 0);
CREATE TABLE IF NOT EXISTS medium (id TEXT PRIMARY KEY, network TEXT NOT NULL, format TEXT NOT NULL, kind TEXT NOT NULL,
    width INTEGER NOT NULL, height INTEGER NOT NULL, size INTEGER NOT NULL, seconds REAL, codec TEXT NOT NULL);
CREATE TABLE IF NOT EXISTS post (id INTEGER PRIMARY KEY, network TEXT NOT NULL, uid TEXT NOT NULL, key TEXT, body TEXT NOT NULL,
    at REAL NOT NULL, reply_to INTEGER REFERENCES post, gone REAL, UNIQUE (network, key));
CREATE TABLE IF NOT EXISTS rising (network TEXT NOT NULL, tag TEXT NOT NULL, posts INTEGER NOT NULL, PRIMARY KEY (network, tag));
CREATE TABLE IF NOT EXISTS file (site TEXT NOT NULL, path TEXT NOT NULL, type TEXT NOT NULL, status INTEGER NOT NULL,
    headers TEXT NOT NULL, body BLOB NOT NULL, PRIMARY KEY (site, path));
CREATE INDEX IF NOT EXISTS post_of ON post (network, uid, at);
"""


class Store:
    """One connection a thread; SQLite's write-ahead log lets readers and one writer go on together."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)
        (folder / "media").mkdir(exist_ok=True)
        self._local = threading.local()
        # Its data are for trying things out: tables of an older make are laid anew.
        if self._connection().execute("PRAGMA user_version").fetchone()[0] != _MAKE:
            for row in self.fetch_all(
                "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'"
            ):
                self.execute(f"DROP TABLE {row['name']}")
            self.execute(f"PRAGMA user_version = {_MAKE}")
        self._connection().executescript(_TABLES)

    def _connection(self) -> sqlite3.Connection:
        db: sqlite3.Connection | None = getattr(self._local, "db", None)
        if db is None:
            db = sqlite3.connect(self.folder / "standin.sqlite3", isolation_level=None, timeout=15)
            db.row_factory = sqlite3.Row
            db.execute("PRAGMA journal_mode=WAL")
            db.execute("PRAGMA synchronous=NORMAL")
            self._local.db = db
        return db

    def fetch_all(self, sql: str, *values: Any) -> list[sqlite3.Row]:
        return self._connection().execute(sql, values).fetchall()

    def fetch_one(self, sql: str, *values: Any) -> sqlite3.Row | None:
        row: sqlite3.Row | None = self._connection().execute(sql, values).fetchone()
        return row

    def execute(self, sql: str, *values: Any) -> int:
        """Run one statement; the number of rows it changed."""
        return self._connection().execute(sql, values).rowcount

    def insert(self, sql: str, *values: Any) -> int:
        """Run one insert; the new row's id."""
        return self._connection().execute(sql, values).lastrowid or 0

    def clear(self) -> None:
        """Forget everything."""
        for table in ("file", "rising", "site", "post", "medium", "token", "code", "profile", "account"):
            self.execute(f"DELETE FROM {table}")  # noqa: S608 (names from the line above)
