"""Lays out whole pieces in the background, one after the other, and keeps the last few as pictures' geometry."""

from __future__ import annotations

import threading
from concurrent.futures import CancelledError, Future, ThreadPoolExecutor
from dataclasses import dataclass, field, replace

from cachetools import LRUCache

from ...core.fabric.profile import BandProfile
from ...core.mistakes import Mistake, left_in
from ...core.notation import Op, Side
from ...core.pattern import compile_piece
from ...core.pattern.cloth import Cloth, relax_pattern
from ...core.piece.piece import Piece
from ...core.piece.widths import body_um
from ...core.rows.clashing_heights import height_mismatches
from ...core.rows.heights import plan_rows
from ...core.shaping.bend import Bent
from ...render.geometry import encode_geometry
from ...render.yarn import Yarn
from ..errors import NotFound
from .round_picture import round_svg

KEEP = 4  # our choice: a piece of 100,000 loops holds about 20 MB while it is kept


@dataclass(kw_only=True)
class _Job:
    """A piece and the mistakes left in it, under way: how far it is, whether it is wanted, and what came of it."""

    piece: Piece
    left: tuple[Mistake, ...]
    part: float = 0.0
    wanted: bool = True
    done: Future[Cloth] = field(default_factory=Future)

    def told(self, part: float) -> bool:
        self.part = part
        return self.wanted


@dataclass(frozen=True, kw_only=True)
class Behaviour:
    """What a relaxed piece does, lengths in µm: each band with its width and its flare, flare and waves of the cast-on
    and the bind-off, how much shorter the right and the left edge are than the middle, and neighbours that want
    different heights: the taller, the shorter, and by how much."""

    bands: tuple[tuple[str, BandProfile, float, float], ...]
    flare: tuple[float, float]
    scallop: tuple[float, float]
    edge_pull: tuple[float, float]
    clashes: tuple[tuple[str, str, float], ...]


@dataclass(frozen=True, kw_only=True)
class LoopFacts:
    """What a loop of the picture is: its row, its place from the right, its segment and the operation that made it."""

    row: int
    side: str
    stitch: int
    of: int
    segment: str
    operation: str


_Wanted = tuple[Piece, tuple[Mistake, ...]]


class _Jobs(LRUCache[_Wanted, _Job]):
    """The last few pieces; what drops out is no longer wanted."""

    def popitem(self) -> tuple[_Wanted, _Job]:
        piece, job = super().popitem()
        job.wanted = False
        return piece, job


class PieceRelaxer:
    """The pieces of one application. A piece asked for later takes the place of those that nobody waits for."""

    def __init__(self) -> None:
        self._jobs = _Jobs(KEEP)
        self._under_way: list[_Job] = []
        self._lock = threading.Lock()
        self._hands = ThreadPoolExecutor(1, thread_name_prefix="relax-piece")

    def geometry(
        self, piece: Piece, *, behind: bool = False, wait: float = 0.0, left: tuple[Mistake, ...] = ()
    ) -> bytes | float:
        """The piece's geometry, or what part of the way it is (0 to 1). Raises what the laying out raised.

        `left`: the mistakes that are in it.
        """
        job = self._job(piece, left)
        try:
            laid = job.done.result(timeout=wait)
        except TimeoutError:
            return job.part
        except CancelledError:  # given up for another piece meanwhile; asked for again, it begins anew
            return 0.0
        return encode_geometry(laid, behind=behind)

    def laid_round(self, piece: Piece, yarn: Yarn, *, wait: float) -> str:
        """The piece's picture laid round; empty where it is not laid out in time."""
        try:
            laid = self._job(piece).done.result(timeout=wait)
        except (TimeoutError, CancelledError):
            return ""
        return round_svg(laid, yarn)

    def behaviour(self, piece: Piece, *, wait: float = 0.0) -> Behaviour | None:
        """What the piece does, once it is laid out."""
        job = self._job(piece)
        try:
            laid = job.done.result(timeout=wait)
        except (TimeoutError, CancelledError):
            return None
        shape = laid.shape
        # as wide as the estimate says, which knows the swatches
        stitch = body_um(piece.main_view, piece.outlook) / _main_width(laid)
        apart = {}  # the same neighbours are told of once, the taller first
        for view, rows in zip(piece.band_views, plan_rows(piece).bands, strict=True):
            if isinstance(view.shaping, Bent):
                continue  # short rows even out what would differ
            for clash in height_mismatches(view, rows.body):
                pair = [view.segments[clash.left_of + 1].pattern.name, view.segments[clash.left_of].pattern.name]
                taller, shorter = pair if clash.um > 0 else reversed(pair)
                apart[taller, shorter] = abs(clash.um)
        return Behaviour(
            bands=tuple(
                (name, band, stitch * band.width_stitches, stitch * band.flare_stitches) for name, band in laid.bands
            ),
            flare=(stitch * shape.flare[0], stitch * shape.flare[1]),
            scallop=(stitch * shape.scallop[0], stitch * shape.scallop[1]),
            edge_pull=(stitch * shape.edge_pull[0], stitch * shape.edge_pull[1]),
            clashes=tuple((*pair, um) for pair, um in sorted(apart.items(), key=lambda item: -item[1])),
        )

    def _job(self, piece: Piece, left: tuple[Mistake, ...] = ()) -> _Job:
        piece = replace(piece, name="", progress=())  # a name or a measure moves no loop
        with self._lock:
            job = self._jobs.get((piece, left))
            if job is None or job.done.cancelled():
                self._under_way = [other for other in self._under_way if not other.done.done()]
                for other in self._under_way:
                    other.wanted = False  # given up for the new one
                job = self._jobs[piece, left] = _Job(piece=piece, left=left)
                self._under_way.append(job)
                self._hands.submit(self._lay, job)
            job.wanted = True
            return job

    @staticmethod
    def _lay(job: _Job) -> None:
        if not job.wanted:
            job.done.cancel()
            return
        try:
            laid = relax_pattern(left_in(compile_piece(job.piece), job.left), progress=job.told)
        except BaseException as error:
            job.done.set_exception(error)
            return
        if job.wanted or laid.relaxed.converged:
            job.done.set_result(laid)
        else:
            job.done.cancel()

    def close(self) -> None:
        """Gives up what is under way."""
        with self._lock:
            for job in self._jobs.values():
                job.wanted = False
        self._hands.shutdown(wait=True, cancel_futures=True)


def _main_width(laid: Cloth) -> float:
    """The width in stitches of the band whose width is the piece’s: half-way up; of a shaped piece its own rows’."""
    piece = laid.pattern.piece
    if all(band.shaping is None for band in piece.bands):
        return laid.shape.middle_stitches
    rows = [row.number for row in laid.pattern.rows if row.band == piece.main_view.at and row.section == "body"]
    return float(laid.shape.widths[rows].mean())


def facts_at(piece: Piece, row: int, place: int) -> LoopFacts:
    """What lies at a place of a row (0 is the cast-on), both counted from 0 at the right. Raises NotFound."""
    pattern = compile_piece(piece)
    if not 0 <= row <= len(pattern.rows):
        raise NotFound("There is no such row.")
    worked = pattern.rows[max(0, row - 1)]
    count = worked.before if row == 0 else worked.after
    if not 0 <= place < count:
        raise NotFound("There is no such stitch in that row.")
    at = place
    for part in worked.parts:
        size = part.takes if row == 0 else part.makes
        if at < size:
            name = "cast on" if row == 0 else _made_by(part.ops, at, worked.side)
            return LoopFacts(
                row=row, side=str(worked.side), stitch=place + 1, of=count, segment=part.name, operation=name
            )
        at -= size
    raise NotFound("There is no such stitch in that row.")


def _made_by(ops: tuple[Op, ...], at: int, side: Side) -> str:
    """The operation that made a loop, as it was worked."""
    for op in ops:
        if at < op.makes:
            return op.token if side is Side.RS else op.wrong_side().token
        at -= op.makes
    return ""
