"""The swatch book: the list, one swatch with its readings and its photo, and CSV."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from ..core.errors import CabluxError
from ..core.gauge import FIBRES, STATES
from ..core.library import StitchPattern
from ..service.errors import InvalidForm
from ..service.exchange import KINDS, PRECISION
from ..service.gauge import planned_for, swatch_to_knit
from ..service.panels import Drawer, swatch_picture
from ..service.swatches import (
    MAX_BYTES,
    WEIGHTS,
    ReadingForm,
    Swatch,
    SwatchForm,
    read_csv,
    readings_of,
    swatch_file,
    swatch_form,
    swatch_reading,
    write_csv,
)
from .deps import BookDep, DrawerDep, ProjectsDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/swatches")
MAX_CSV = 2_000_000  # bytes, our choice: five thousand lines
Text = Annotated[str, Form()]
Texts = Annotated[list[str], Form()]


def _facts(
    name: Text = "",
    unit: Text = "cm",
    yarn: Text = "",
    fibre: Text = "wool",
    weight: Text = "-1",
    strands: Text = "1",
    needle: Text = "",
    rows: Text = "",
    note: Text = "",
    pattern: Texts = [],  # noqa: B006 - FastAPI copies it
    stitches: Texts = [],  # noqa: B006
) -> SwatchForm:
    """The fields as typed; what is missing is empty, so that the form can say so itself."""
    return SwatchForm(
        name=name,
        unit=unit,
        yarn=yarn,
        fibre=fibre,
        weight=weight,
        strands=strands,
        needle=needle,
        rows=rows,
        note=note,
        patterns=tuple(pattern),
        stitches=tuple(stitches),
    )


FactsDep = Annotated[SwatchForm, Depends(_facts)]


def _choices(drawer: Drawer) -> list[tuple[str, list[StitchPattern]]]:
    """The drawer's patterns by what they are for."""
    groups: dict[str, list[StitchPattern]] = {"Backgrounds and textures": [], "Panels": [], "Edges": []}
    names = {"background": "Backgrounds and textures", "panel": "Panels", "edge": "Edges"}
    for entry in drawer.entries():
        groups[names[entry.use]].append(entry.pattern)
    return [(name, sorted(group, key=lambda p: p.name)) for name, group in groups.items() if group]


def _form_page(request: Request, drawer: Drawer, form: SwatchForm, error: CabluxError | None = None) -> Response:
    problems = error.fields if isinstance(error, InvalidForm) else {}
    return page(
        request,
        "swatch_new.html",
        422 if error else 200,
        form=form,
        problems=problems,
        general="" if problems or error is None else str(error),
        choices=_choices(drawer),
        fibres=FIBRES,
        weights=WEIGHTS,
    )


Show = Callable[[Swatch], Response]


def _show(request: Request, drawer: DrawerDep, projects: ProjectsDep) -> Show:
    """What answers with a swatch's page, or with its changing part where htmx asked."""

    def show(swatch: Swatch) -> Response:
        if request.method == "POST" and not wants_part(request):
            return RedirectResponse(path_maker(request)("swatch", swatch_id=swatch.id), 303)
        planned = planned_for(swatch, projects)
        return page(
            request,
            "_swatch.html" if wants_part(request) else "swatch.html",
            swatch=swatch,
            planned=planned,
            readings=readings_of(swatch.file, planned.width_mm, planned.height_mm),
            form=swatch_form(swatch.file),
            choices=_choices(drawer),
            fibres=FIBRES,
            weights=WEIGHTS,
            kinds=KINDS,
            states=STATES,
            precisions=PRECISION,
        )

    return show


ShowDep = Annotated[Show, Depends(_show)]


@router.get("", name="swatches")
def show_book(request: Request, book: BookDep) -> Response:
    """The swatch book."""
    return page(request, "swatches.html", swatches=book.all())


@router.get("/new", name="new_swatch")
def new_swatch(
    request: Request, projects: ProjectsDep, drawer: DrawerDep, project: int = 0, pattern: str = ""
) -> Response:
    """The form for a new swatch, perhaps the one that a project's adviser named."""
    named = drawer.pattern(pattern) if pattern else None
    form = swatch_to_knit(projects.open(project), named) if project else SwatchForm()
    return _form_page(request, drawer, form)


@router.post("", name="create_swatch")
def create_swatch(request: Request, book: BookDep, drawer: DrawerDep, facts: FactsDep) -> Response:
    """Puts a swatch in the book, or shows the form again with what is wrong."""
    try:
        made = book.create(swatch_file(facts, drawer.pattern))
    except CabluxError as error:
        return _form_page(request, drawer, facts, error=error)
    return RedirectResponse(path_maker(request)("swatch", swatch_id=made), 303)


@router.get("/swatches.csv", name="swatches_csv")
def download_swatches(book: BookDep) -> Response:
    """Every swatch as CSV."""
    headers = {"content-disposition": 'attachment; filename="swatches.csv"'}
    text = write_csv(s.file for s in book.all())
    return Response(text, media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/import", name="import_swatches")
def take_in(request: Request, book: BookDep, drawer: DrawerDep, file: Annotated[UploadFile, File()]) -> Response:
    """Takes swatches in from CSV: all of them, or none with what is wrong."""
    content = file.file.read(MAX_CSV + 1)
    if len(content) > MAX_CSV:
        raise CabluxError("This file is larger than two megabytes; bring your swatches in parts.")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise CabluxError("This is not a CSV file in UTF-8; save the table again with that encoding.") from None
    book.create_all(read_csv(text, drawer.pattern))
    return RedirectResponse(path_maker(request)("swatches"), 303)


@router.get("/photos/{photo}.jpg", name="photo")
def show_photo(book: BookDep, photo: str) -> Response:
    """A kept photo."""
    headers = {"cache-control": "private, max-age=31536000, immutable"}
    return Response(book.photo(photo), media_type="image/jpeg", headers=headers)


@router.get("/{swatch_id}/cloth.svg", name="swatch_cloth")
def show_swatch_cloth(book: BookDep, swatch_id: int) -> Response:
    """The swatch in relief, as computed; its address says what it shows, so it may be kept."""
    file = book.open(swatch_id).file
    headers = {"cache-control": "private, max-age=31536000, immutable"}
    return Response(swatch_picture(file.core_parts(), file.rows), media_type="image/svg+xml", headers=headers)


@router.get("/{swatch_id}", name="swatch")
def show_swatch(book: BookDep, show: ShowDep, swatch_id: int) -> Response:
    """A swatch."""
    return show(book.open(swatch_id))


@router.post("/{swatch_id}", name="change_swatch")
def change_swatch(book: BookDep, show: ShowDep, drawer: DrawerDep, swatch_id: int, facts: FactsDep) -> Response:
    """Changes what was knitted and in what; readings stay."""
    return show(book.change(swatch_id, "what was knitted", lambda file: swatch_file(facts, drawer.pattern, file)))


@router.post("/{swatch_id}/readings", name="add_reading")
def add_reading(
    book: BookDep,
    show: ShowDep,
    swatch_id: int,
    kind: Text = "stitches",
    state: Text = "washed",
    part: Text = "0",
    values: Text = "",
    over: Text = "",
    precision: Text = "half",
) -> Response:
    """One more reading."""
    reading = swatch_reading(
        ReadingForm(kind=kind, state=state, part=part, values=values, over=over, precision=precision)
    )
    return show(book.add_reading(swatch_id, reading))


@router.post("/{swatch_id}/readings/remove", name="drop_reading")
def drop_reading(book: BookDep, show: ShowDep, swatch_id: int, at: Annotated[int, Form(ge=0, le=100)]) -> Response:
    """Takes a reading out."""
    return show(book.drop_reading(swatch_id, at))


@router.post("/{swatch_id}/photo", name="add_photo")
def add_photo(book: BookDep, show: ShowDep, swatch_id: int, file: Annotated[UploadFile, File()]) -> Response:
    """Keeps a photo with the swatch."""
    return show(book.add_photo(swatch_id, file.file.read(MAX_BYTES + 1)))


@router.post("/{swatch_id}/undo", name="swatch_undo")
def undo_on_swatch(book: BookDep, show: ShowDep, swatch_id: int) -> Response:
    """One step back."""
    return show(book.move(swatch_id, -1))


@router.post("/{swatch_id}/redo", name="swatch_redo")
def redo_on_swatch(book: BookDep, show: ShowDep, swatch_id: int) -> Response:
    """One step forward again."""
    return show(book.move(swatch_id, +1))


@router.post("/{swatch_id}/remove", name="remove_swatch")
def remove_swatch(request: Request, book: BookDep, swatch_id: int, sure: Text = "") -> Response:
    """Removes a swatch for good, once the person has said so."""
    if sure != "yes":
        raise CabluxError("Tick “for good” first; a removed swatch cannot be brought back.")
    book.remove(swatch_id)
    return RedirectResponse(path_maker(request)("swatches"), 303)
