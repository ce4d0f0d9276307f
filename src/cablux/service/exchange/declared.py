"""Files made from the core's records as they are declared: each record once, its lengths in the file's own unit.

A record's fields give the file's: a length of `width_mm` is `width` in the file's unit, held to the limits that are
declared beside it; a pattern is its id. What several records may stand for, such as the kinds of shaping, is told
apart by `kind`.
"""

from __future__ import annotations

import types
from collections.abc import Callable, Iterable, Mapping
from dataclasses import MISSING, Field, dataclass, fields, is_dataclass
from functools import cache
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from pydantic import Field as FileField
from pydantic import StringConstraints, create_model

from ...core.declared import Called, FromOne, Id, Millimetres, OverSpan, PlainWords, Unfiled
from ...core.library import StitchPattern
from ...core.piece.piece import Shaping
from ...core.shaping import KINDS
from ...core.units import GAUGE_SPAN, Unit, to_mm
from ..forms import PLAIN
from .field_types import Id as PatternId
from .field_types import kept_length, scaled_length
from .own_pattern import PatternFile, find_among
from .swatch_file import StrictModel

KINDS_OF: Mapping[type, tuple[type, ...]] = {Shaping: KINDS}
"""For a record that stands for several: those that a file can have."""
Patterns = tuple[PatternFile, ...]
_FOR_FILES = (Millimetres, OverSpan, Called, Unfiled, FromOne, Id)
"""Marks that say how a field stands in a file; what is none of them is a limit of its value there."""


@dataclass(frozen=True, kw_only=True)
class Codec:
    """How a value of a record stands in a file: its annotation there, and both ways between the two.

    `read` has the file's unit and the knitter's own patterns that came with it. `write` has the value as it was in the
    file before, whose lengths stay as they were written where they are the same. `scale` gives the file's value in
    another unit, which is so many times smaller.
    """

    annotation: Any
    read: Callable[[Any, Unit, Patterns], Any]
    write: Callable[[Any, Unit, Any], Any]
    scale: Callable[[Any, float], Any]


@dataclass(frozen=True, kw_only=True)
class FieldsCodec:
    """How fields of a record stand in a file: what a model of them declares, and both ways, by their names."""

    declared: Mapping[str, tuple[Any, Any]]
    read: Callable[[Any, Unit, Patterns], dict[str, Any]]
    write: Callable[[Any, Unit, Any], dict[str, Any]]
    scale: Callable[[Any, float], dict[str, Any]]


def _plain(annotation: Any) -> Codec:
    return Codec(
        annotation=annotation,
        read=lambda value, unit, patterns: value,
        write=lambda value, unit, old: value,
        scale=lambda value, by: value,
    )


def _length(annotation: Any) -> Codec:
    return Codec(
        annotation=annotation,
        read=lambda value, unit, patterns: to_mm(value, unit),
        write=lambda mm, unit, old: kept_length(old or 0.0, mm, unit),
        scale=scaled_length,
    )


def _from_one(annotation: Any) -> Codec:
    return Codec(
        annotation=annotation,
        read=lambda value, unit, patterns: value - 1,
        write=lambda place, unit, old: place + 1,
        scale=lambda value, by: value,
    )


def _over_span(annotation: Any) -> Codec:
    def write(to_ten: float, unit: Unit, old: float | None) -> float:
        span = GAUGE_SPAN[unit][0] / 100.0
        return old if old is not None and old / span == to_ten else round(to_ten * span, 3)

    return Codec(
        annotation=annotation,
        read=lambda value, unit, patterns: value / (GAUGE_SPAN[unit][0] / 100.0),
        write=write,
        scale=lambda value, by: value,  # another unit is another length: it is counted anew
    )


_PATTERN = Codec(
    annotation=PatternId,
    read=lambda value, unit, patterns: find_among(patterns, value),
    write=lambda pattern, unit, old: pattern.id,
    scale=lambda value, by: value,
)


@cache
def codec(hint: Any) -> Codec:
    """The codec of an annotation of the core. Raises TypeError for what no file can have."""
    origin, args = get_origin(hint), get_args(hint)
    if origin is Annotated:
        return _annotated(args[0], args[1:])
    if origin in (Union, types.UnionType):
        return _optional(hint, args)
    if origin is tuple:
        return _tuple(args)
    if hint in KINDS_OF:
        return _kinds(KINDS_OF[hint])
    if hint is StitchPattern:
        return _PATTERN
    if is_dataclass(hint) and isinstance(hint, type):
        return record_codec(hint)
    if hint is float:
        return _plain(Annotated[float, FileField(allow_inf_nan=False)])
    if hint in (int, bool, str) or origin is Literal:
        return _plain(hint)
    raise TypeError(f"no file can have {hint}")


def _annotated(inner: Any, marks: tuple[Any, ...]) -> Codec:
    words = next((m for m in marks if isinstance(m, PlainWords)), None)
    if words is not None:
        text = StringConstraints(
            strip_whitespace=True, min_length=words.least or None, max_length=words.most, pattern=PLAIN
        )
        return _plain(Annotated[str, text])
    if any(isinstance(m, Id) for m in marks):
        return _plain(PatternId)
    base = codec(inner)
    limits = tuple(m for m in marks if not isinstance(m, _FOR_FILES))
    annotation = Annotated[(base.annotation, *limits)] if limits else base.annotation
    if any(isinstance(m, Millimetres) for m in marks):
        return _length(annotation)
    if any(isinstance(m, OverSpan) for m in marks):
        return _over_span(annotation)
    if any(isinstance(m, FromOne) for m in marks):
        return _from_one(annotation)
    return Codec(annotation=annotation, read=base.read, write=base.write, scale=base.scale)


def _optional(hint: Any, args: tuple[Any, ...]) -> Codec:
    inner = [a for a in args if a is not type(None)]
    if len(inner) != 1 or len(inner) == len(args):
        raise TypeError(f"no file can have {hint}")
    one = codec(inner[0])
    return Codec(
        annotation=one.annotation | None,
        read=lambda value, unit, patterns: None if value is None else one.read(value, unit, patterns),
        write=lambda value, unit, old: None if value is None else one.write(value, unit, old),
        scale=lambda value, by: None if value is None else one.scale(value, by),
    )


def _tuple(args: tuple[Any, ...]) -> Codec:
    if len(args) == 2 and args[1] is Ellipsis:
        one = codec(args[0])

        def write(values: tuple[Any, ...], unit: Unit, old: tuple[Any, ...] | None) -> tuple[Any, ...]:
            before = (*(old or ())[: len(values)], *(None,) * (len(values) - len(old or ())))
            return tuple(one.write(v, unit, o) for v, o in zip(values, before, strict=True))

        return Codec(
            annotation=tuple[one.annotation, ...],  # type: ignore[name-defined]
            read=lambda values, unit, patterns: tuple(one.read(v, unit, patterns) for v in values),
            write=write,
            scale=lambda values, by: tuple(one.scale(v, by) for v in values),
        )
    each = [codec(a) for a in args]
    return Codec(
        annotation=tuple[tuple(c.annotation for c in each)],  # type: ignore[misc]
        read=lambda values, unit, patterns: tuple(c.read(v, unit, patterns) for c, v in zip(each, values, strict=True)),
        write=lambda values, unit, old: tuple(
            c.write(v, unit, o) for c, v, o in zip(each, values, old or (None,) * len(each), strict=True)
        ),
        scale=lambda values, by: tuple(c.scale(v, by) for c, v in zip(each, values, strict=True)),
    )


def _kinds(kinds: tuple[type, ...]) -> Codec:
    """One of several records, told apart by their `kind`."""
    each = {kind.kind: record_codec(kind) for kind in kinds}  # type: ignore[attr-defined]
    models: Any = Union[tuple(c.annotation for c in each.values())]  # noqa: UP007
    annotation = Annotated[models, FileField(discriminator="kind")]

    def write(value: Any, unit: Unit, old: Any) -> Any:
        return each[value.kind].write(value, unit, old if old is not None and old.kind == value.kind else None)

    return Codec(
        annotation=annotation,
        read=lambda value, unit, patterns: each[value.kind].read(value, unit, patterns),
        write=write,
        scale=lambda value, by: each[value.kind].scale(value, by),
    )


def fields_codec(record: type, only: Iterable[str] = ()) -> FieldsCodec:
    """The codec of the fields of a record, of all that a file has or of these alone, in this order."""
    hints, known = get_type_hints(record, include_extras=True), {f.name: f for f in fields(record)}
    listed = [name for name in only or known if not any(isinstance(m, Unfiled) for m in _marks(hints[name]))]
    each = {name: (file_name(name, hints[name]), codec(hints[name])) for name in listed}

    def write(value: Any, unit: Unit, old: Any) -> dict[str, Any]:
        return {
            key: c.write(getattr(value, name), unit, None if old is None else getattr(old, key))
            for name, (key, c) in each.items()
        }

    return FieldsCodec(
        declared={key: (c.annotation, _default(known[name], c)) for name, (key, c) in each.items()},
        read=lambda value, unit, patterns: {
            name: c.read(getattr(value, key), unit, patterns) for name, (key, c) in each.items()
        },
        write=write,
        scale=lambda value, by: {key: c.scale(getattr(value, key), by) for key, c in each.values()},
    )


@cache
def record_codec(record: type) -> Codec:
    """The codec of a record: a model with its fields, named for it."""
    own = fields_codec(record)
    kind = getattr(record, "kind", None) if any(record in kinds for kinds in KINDS_OF.values()) else None
    told = record.__doc__ or ""
    for name, hint in get_type_hints(record, include_extras=True).items():
        told = told.replace(f"`{name}`", f"`{file_name(name, hint)}`")
    declared: dict[str, Any] = ({"kind": (Literal[kind], ...)} if kind else {}) | dict(own.declared)
    model = create_model(f"{record.__name__}File", __base__=StrictModel, __doc__=told, **declared)
    known = {"kind": kind} if kind else {}
    return Codec(
        annotation=model,
        read=lambda value, unit, patterns: record(**own.read(value, unit, patterns)),
        write=lambda value, unit, old: model(**known, **own.write(value, unit, old)),
        scale=lambda value, by: value.model_copy(update=own.scale(value, by)),
    )


def _marks(hint: Any) -> tuple[Any, ...]:
    return get_args(hint)[1:] if get_origin(hint) is Annotated else ()


def file_name(name: str, hint: Any) -> str:
    """What a file calls a field: a length without its unit."""
    called = next((m.name for m in _marks(hint) if isinstance(m, Called)), name)
    return called.removesuffix("_mm") if any(isinstance(m, Millimetres) for m in _marks(hint)) else called


def _default(field: Field[Any], own: Codec) -> Any:
    if field.default is MISSING:
        return ...
    return own.write(field.default, "cm", None)
