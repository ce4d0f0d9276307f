"""The booklet: what of a pattern to print and how, a preview of its pages, and its files."""

from __future__ import annotations

from typing import Annotated, Literal
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Path, Query, Request
from fastapi.responses import Response

from ..core.errors import CabluxError
from ..service.booklet import (
    FORMS,
    LEFT_OUT,
    PARTS,
    ChartChoice,
    Form,
    Paper,
    Part,
    Printing,
    booklet_file,
    file_in_size,
    page_pictures,
)
from ..service.errors import NotFound
from ..service.pattern import Manner
from ..service.sizes import size_choices
from .deps import ProjectDep
from .pages import file_name, page, wants_part
from .routes_pattern import WordingDep

router = APIRouter(prefix="/projects/{project_id}/booklet")


def _printing(
    wording: WordingDep,
    paper: Paper = "a4",
    ink: Literal["colour", "black"] = "colour",
    print_size: Annotated[Literal["normal", "large"], Query(alias="print")] = "normal",
    charts: ChartChoice = "repeat",
    manner: Manner = "order",
    side: Literal["out", "in"] = "out",
    part: Annotated[list[Part] | None, Query()] = None,
    chosen: bool = False,
    piece: Annotated[str, Query(max_length=80)] = "",
) -> Printing:
    """The choices as the address has them; before anything was `chosen`, all parts but those that are seldom wanted."""
    left_out = frozenset(PARTS) - frozenset(part or ()) if part or chosen else LEFT_OUT
    return Printing(
        paper=paper,
        colour=ink == "colour",
        large=print_size == "large",
        charts=charts,
        manner=manner,
        wording=wording,
        inside_out=side == "in",
        leave_out=left_out,
        piece=piece,
    )


PrintingDep = Annotated[Printing, Depends(_printing)]
SizeName = Annotated[str, Query(max_length=80)]


@router.get("", name="booklet")
def show_booklet(request: Request, project: ProjectDep, printing: PrintingDep, size: SizeName = "") -> Response:
    """The choices, and the pages as they will be printed where htmx asks for them."""
    query = urlencode(list(request.query_params.multi_items()))
    if wants_part(request):
        try:
            pages, sentence = len(page_pictures(file_in_size(project.file.text(), size), printing)), ""
        except CabluxError as error:
            pages, sentence = 0, str(error)
        return page(
            request,
            "_booklet_pages.html",
            project=project,
            query=query,
            pages=pages,
            sentence=sentence,
            printing=printing,
        )
    own, sizes = size_choices(project)
    return page(
        request,
        "booklet.html",
        project=project,
        query=query,
        printing=printing,
        parts=PARTS,
        own=size or own,
        sizes=sizes,
    )


@router.get("/page-{number}.png", name="booklet_page")
def show_page(
    project: ProjectDep, printing: PrintingDep, number: Annotated[int, Path(ge=1, le=999)], size: SizeName = ""
) -> Response:
    """One of the booklet's pages as a picture."""
    pages = page_pictures(file_in_size(project.file.text(), size), printing)
    if number > len(pages):
        raise NotFound(f"The booklet has {len(pages)} pages; there is no page {number}.")
    return Response(pages[number - 1], media_type="image/png")


@router.get("/file.{form}", name="booklet_file")
def save_file(project: ProjectDep, printing: PrintingDep, form: Form, size: SizeName = "") -> Response:
    """The booklet as a file."""
    content = booklet_file(file_in_size(project.file.text(), size), form, printing)
    headers = {"content-disposition": f'attachment; filename="{file_name(project.name, form)}"'}
    return Response(content, media_type=FORMS[form], headers=headers)
