"""Loads the demo's projects, swatches and panel once; what the person changes afterwards is kept."""

from __future__ import annotations

from datetime import datetime
from importlib import resources
from pathlib import Path

from ..core.mistakes import Mistake
from ..core.pattern import compile_piece
from ..service.chair import Chair, Noted, add_note, leave_mistake
from ..service.commands import AddMeasurement, UseSwatch, carry_out
from ..service.exchange import PanelFile
from ..service.panels import Drawer, Panels
from ..service.projects import Projects
from ..service.swatches import SwatchBook, read_csv
from ..settings import Settings
from ..store.database import Database

THROW_ROWS = 46
THROW = 2
COWL, COWL_ROWS = 3, 21
MINUTES = 6.0  # for a row of the demo's projects, so that there is a pace to be told
NOTES: tuple[tuple[Noted, str, float], ...] = (
    ("lifeline", "Blue thread, before the second crossing.", 0.0),
    ("weighed", "One ball and a bit.", 63.0),
    ("note", "Changed to the wooden needle; it slips less.", 0.0),
)
# file, rows already knitted of each copy of its first piece, of its second and so on; the list begins with the last
# changed, which is the throw once it has been measured
DEMO: tuple[tuple[str, tuple[tuple[int, ...], ...]], ...] = (
    ("window-seat.json", ((0,),)),
    ("bothy-blanket.json", ((0,),)),
    ("skerry-throw.json", ((THROW_ROWS,),)),
    ("tarn-cowl.json", ((COWL_ROWS,),)),
    ("tideline-cowl.json", ((0,),)),
    ("fulmar-leg-warmers.json", ((0, 0),)),
    ("harbour-squares.json", ((84, 30),)),
    ("hearth-cloth.json", ((41,),)),
    ("curlew-mitts.json", ((56, 17),)),
    ("skua-hat.json", ((40,),)),
    ("dunlin-mittens.json", ((76,), (18,), (33,))),
    ("gannet-socks.json", ((67, 24), (46,), (31,))),
    ("tern-collar.json", ((0,),)),
    ("puffin-pullover.json", ((999,), (88,), (0,), (0,), (61, 0))),
    ("wren-vest.json", ((0,),)),
    ("guillemot-raglan.json", ((999,), (47,))),
    ("dotterel-cardigan.json", ((999,), (999,), (61,))),
    ("sanderling-pullover.json", ((999,), (999,), (999,), (999,), (22,))),
    ("kittiwake-shawl.json", ((58,),)),
)
PANELS = (("kelp-and-cord.txt", "Two lines leave the cord, sway round a bobble like kelp, and come home."),)


def prepare_demo(settings: Settings, *, fresh: bool = False) -> Path | None:
    """Makes the demo's database if it has no projects; with `fresh` the old file is put aside and its path returned."""
    aside = _put_aside(settings.database) if fresh else None
    database = Database(settings.database)
    try:
        database.upgrade()
        if not Projects(database).all():
            load_demo(database)
    finally:
        database.close()
    return aside


def load_demo(database: Database) -> list[int]:
    """Stores the demo's projects; returns their ids."""
    projects, chair = Projects(database), Chair(database)
    made = []
    for name, rows in DEMO:
        text = (resources.files(__package__) / name).read_text("utf-8")
        project_id = projects.import_text(text)
        project = projects.open(project_id)
        for piece, copies in zip(project.pieces(), rows, strict=False):
            for which, done in enumerate(copies, start=1):
                chair.catch_up(piece, min(done, piece.numbers.rows.total), which, minutes=MINUTES)
        made.append(project_id)
    _journal(projects, chair, made)
    _swatches(database, projects, made)
    panels = Panels(database)
    for name, note in PANELS:
        chart = (resources.files(__package__) / name).read_text("utf-8")
        panels.create(PanelFile(chart=chart, family="diamond", note=note))
    return made


def _journal(projects: Projects, chair: Chair, made: list[int]) -> None:
    """What was noted at the cowl: a lifeline, what the scales said, and a crossing left in that leans the wrong way."""
    cowl = projects.open(made[COWL])
    for kind, text, value in NOTES:
        add_note(chair, cowl, kind, copy=1, text=text, value=value)
    row = compile_piece(cowl.piece).crossing_rows[0]
    leave_mistake(chair, cowl, Mistake(kind="wrong-lean", row=row, segment=0, seen_at=COWL_ROWS, stitch=5), copy=1)


def _swatches(database: Database, projects: Projects, made: list[int]) -> None:
    """The swatch book; the throw goes by two of its swatches and was measured on the needle."""
    book, drawer = SwatchBook(database), Drawer(database, Panels(database))
    table = (resources.files(__package__) / "swatches.csv").read_text("utf-8")
    book.create_all(read_csv(table, drawer.pattern))
    throw = made[THROW]
    for swatch in book.all():
        if swatch.file.needle == projects.open(throw).file.needle:
            carry_out(projects, throw, UseSwatch(swatch=swatch.id), swatch=book.open)
    carry_out(projects, throw, AddMeasurement(row=THROW_ROWS, values="106.5, 107.5"))


def _put_aside(file: Path) -> Path | None:
    """Renames the old database: starting anew must not lose anything."""
    if not file.exists():
        return None
    stamp = datetime.now().strftime("%Y%m%d-%H%M%S")
    aside = file.with_name(f"{file.stem}-before-{stamp}.db")
    file.rename(aside)
    for suffix in ("-wal", "-shm"):
        extra = file.with_name(file.name + suffix)
        if extra.exists():
            extra.rename(aside.with_name(aside.name + suffix))
    return aside
