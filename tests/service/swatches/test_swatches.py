"""The swatch book: forms, photos without secrets, CSV; and a project that goes by it."""

from __future__ import annotations

import io
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from cablux.core.errors import CabluxError, IllegalPiece, InvalidText
from cablux.core.library import LIBRARY, find_pattern
from cablux.demo.loader import THROW
from cablux.service import gauge
from cablux.service.errors import NotFound
from cablux.service.exchange.swatch_file import SwatchFile, SwatchReading
from cablux.service.gauge import edits as measures
from cablux.service.projects.project import Projects
from cablux.service.swatches.book import SwatchBook, readings_of
from cablux.service.swatches.csv_file import COLUMNS, read_csv, write_csv
from cablux.service.swatches.form import ReadingForm, SwatchForm, swatch_file, swatch_form, swatch_reading
from cablux.service.swatches.photos import cleaned_photo

PLAIN = SwatchForm(name="Plain", patterns=("stockinette",), stitches=("30",))
TEN = SwatchReading(kind="stitches", values=(18.0, 18.5), over=10.0)


def photo(**more) -> bytes:
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "A camera nobody should know"  # turned by a quarter; the maker
    Image.new("RGB", (40, 20), "teal").save(out, "JPEG", exif=exif, **more)
    return out.getvalue()


def test_the_form_is_read_and_filled_again_and_keeps_what_was_measured():
    file = swatch_file(replace(PLAIN, needle="4,5", note="one\ntwo"), find_pattern)
    assert (file.needle, file.cast_on, swatch_form(file).needle) == (4.5, 30, "4.5 mm")
    measured = file.model_copy(update={"readings": (TEN,)})
    assert swatch_file(swatch_form(measured), find_pattern, measured) == measured
    (reading,) = measured.core_readings()
    assert (reading.count, reading.mm, reading.places) == (18.25, 100.0, 2)
    inches = SwatchFile.model_validate({**measured.model_dump(), "unit": "in"})
    assert inches.core_readings()[0].mm == pytest.approx(254.0)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"name": " "}, "Give the swatch a name"),
        ({"stitches": ("many",)}, "a whole number from 1 to 400"),
        ({"stitches": ("2.5",)}, "a whole number from 1 to 400"),
        ({"patterns": ("",)}, "at least one pattern"),
        ({"needle": "90"}, "0.5 to 30 mm"),
        ({"fibre": "moonlight"}, "The fibre must be one of: acrylic"),
        ({"note": "<script>"}, "without < and >"),
    ],
)
def test_what_cannot_be_is_refused_in_words(change, says):
    with pytest.raises(CabluxError, match=says):
        swatch_file(replace(PLAIN, **change), find_pattern)


@pytest.mark.parametrize(
    ("form", "says"),
    [
        (ReadingForm(values=""), "one number or several"),
        (ReadingForm(values="20 twenty"), "each must be a number"),
        (ReadingForm(values="20", over="0"), "The length you counted over"),
        (ReadingForm(kind="guess", values="20"), "What you measured must be one of"),
        (ReadingForm(values=" ".join("20" for _ in range(13))), "no more than 12 numbers"),
    ],
)
def test_a_reading_that_cannot_be_is_refused_in_words(form, says):
    with pytest.raises(IllegalPiece, match=says):
        swatch_reading(form)


def test_the_book_keeps_changes_that_can_be_undone_and_nothing_half_applied(database):
    book = SwatchBook(database)
    swatch_id = book.create(swatch_file(PLAIN, find_pattern))
    assert book.add_reading(swatch_id, TEN).readings[0].to_ten == pytest.approx(18.25)
    with pytest.raises(IllegalPiece, match="pattern 4"):
        book.add_reading(swatch_id, TEN.model_copy(update={"part": 3}))
    with pytest.raises(NotFound):
        book.drop_reading(swatch_id, 5)
    assert len(book.open(swatch_id).readings) == 1
    assert not book.move(swatch_id, -1).readings and book.move(swatch_id, +1).readings
    assert not book.drop_reading(swatch_id, 0).readings
    panel = replace(PLAIN, patterns=("braid-9",), stitches=("14",))
    with pytest.raises(IllegalPiece, match="needs 13 stitches"):
        book.create(swatch_file(panel, find_pattern))


def test_a_photo_is_turned_upright_and_loses_everything_but_its_picture(database):
    book = SwatchBook(database)
    swatch_id = book.create(swatch_file(PLAIN, find_pattern))
    kept = book.photo(book.add_photo(swatch_id, photo(comment=b"place and time")).file.photo)
    with Image.open(io.BytesIO(kept)) as picture:
        assert picture.size == (20, 40) and not picture.getexif() and "comment" not in picture.info
    assert b"camera" not in kept and b"place" not in kept
    photo_id = book.open(swatch_id).file.photo
    book.remove(swatch_id)
    with pytest.raises(NotFound):
        book.photo(photo_id)


def test_what_is_no_photo_is_refused(monkeypatch):
    with pytest.raises(InvalidText, match="cannot be read"):
        cleaned_photo(b"<svg onload='alert(1)'/>")
    with pytest.raises(InvalidText, match="cannot be read"):
        cleaned_photo(photo()[:200])
    monkeypatch.setattr("cablux.service.swatches.photos.MAX_PIXELS", 500)
    with pytest.raises(InvalidText, match="40 × 20 pixels"):
        cleaned_photo(photo())
    monkeypatch.setattr("cablux.service.swatches.photos.MAX_BYTES", 100)
    with pytest.raises(InvalidText, match="15 megabytes"):
        cleaned_photo(photo())


WORDS = st.text("abc äö,;\"'-\n", max_size=20)
PARTS = st.lists(
    st.tuples(st.sampled_from(["stockinette", "seed", "garter"]), st.integers(1, 60)), min_size=1, max_size=3
)
VALUES = st.lists(st.integers(2, 400).map(lambda n: n / 4), min_size=1, max_size=4)


@given(
    WORDS,
    PARTS,
    st.lists(st.tuples(st.sampled_from(["stitches", "rows", "across", "width", "height"]), VALUES), max_size=3),
)
def test_swatches_come_back_from_csv_as_they_went(note, parts, read):
    names = tuple(p for p, _ in parts)
    form = replace(PLAIN, yarn="“Grey”, thick", note=note, patterns=names, stitches=tuple(str(n) for _, n in parts))
    readings = tuple(
        SwatchReading(kind=k, values=tuple(v), over=10.0 if k in ("stitches", "rows") else 0.0) for k, v in read
    )
    file = swatch_file(form, find_pattern).model_copy(update={"readings": readings})
    assert read_csv(write_csv([file]), find_pattern) == (file,)


def test_a_table_with_mistakes_is_refused_with_its_lines_and_nothing_is_taken_in(database):
    book = SwatchBook(database)
    good = write_csv([swatch_file(PLAIN, find_pattern).model_copy(update={"readings": (TEN,)})])
    bad = good + good.splitlines()[1].replace("18 18.5", "lots") + "\r\n"
    with pytest.raises(InvalidText, match="line 3"):
        book.create_all(read_csv(bad, find_pattern))
    with pytest.raises(InvalidText, match="must name these columns: swatch"):
        read_csv("a,b\n1,2\n", find_pattern)
    assert book.all() == [] and good.splitlines()[0] == ",".join(COLUMNS)


@pytest.fixture
def demo(demo_database):
    return Projects(demo_database), SwatchBook(demo_database), THROW + 1


def test_a_project_goes_by_the_swatches_it_took_in_until_it_takes_them_over_anew(demo):
    projects, book, throw = demo
    page = gauge.gauge_answer(projects.open(throw).file, book.all())
    braid = next(u for u in page.swatches if "braid" in u.name)
    measured = next(m for m in page.patterns if m.pattern == "braid-9")
    assert len(measured.readings) == 1 and measured.together.value < measured.model.value
    assert measured.percent < 3 < next(m for m in page.patterns if m.pattern == "honeycomb").percent
    assert "Rope 3/3 right, Rope 3/3 left" in [m.name for m in page.patterns], "mirror images are one line"

    before = projects.open(throw).numbers.cast_on.bottom.body_um
    wider = SwatchReading(kind="across", part=1, values=(6.2, 6.2, 6.2))
    book.change(braid.book, "again", lambda f: f.model_copy(update={"readings": (wider,)}))
    assert projects.open(throw).numbers.cast_on.bottom.body_um == before
    at = [u.name for u in page.swatches].index(braid.name)
    assert gauge.gauge_answer(projects.open(throw).file, book.all()).swatches[at].newer
    renewed = projects.change(throw, "renew", measures.renew_swatch(at, book.open))
    assert renewed.numbers.cast_on.bottom.body_um > before
    hand_only = projects.change(throw, "same", measures.same_yarn(at))
    assert before != hand_only.numbers.cast_on.bottom.body_um < renewed.numbers.cast_on.bottom.body_um
    without = projects.change(throw, "drop", measures.leave_out_swatch(at))
    assert len(without.file.swatches) == 1
    with pytest.raises(NotFound):
        projects.change(throw, "drop", measures.leave_out_swatch(7))


def test_what_is_measured_on_the_piece_changes_what_is_expected_and_never_what_was_cast_on(demo):
    projects, _, throw = demo
    project = projects.change(throw, "back", measures.remove_measure(0))
    begun, wide = project.numbers.cast_on, project.numbers.width_um
    narrow = measures.add_measure(46, "width", (98.0,), state="washed", on_needle=False)
    project = projects.change(throw, "measured", narrow)
    assert project.numbers.cast_on == begun and project.numbers.width_um < 0.97 * wide
    says = gauge.project_outlook(project.piece, project.unit).says
    assert "narrower than wanted" in says[0] and any("rip back" in s for s in says)
    tall = projects.change(
        throw, "measured", measures.add_measure(90, "height", (26.0,), state="washed", on_needle=False)
    )
    rows = gauge.project_outlook(tall.piece, tall.unit).body_rows
    assert 0 < rows > tall.numbers.rows.body, "rows lower than planned: more of them"
    knitted = projects.change(throw, "rows", measures.set_body_rows(rows))
    assert knitted.numbers.rows.body == rows and gauge.project_outlook(knitted.piece, knitted.unit).body_rows == 0
    assert knitted.numbers.cast_on == begun
    for change, says_no in (
        (measures.add_measure(5, "width", (98.0,), state="washed", on_needle=False), "most of the piece is border"),
        (measures.add_measure(46, "width", (9.8,), state="washed", on_needle=False), "Is it the right row"),
        (measures.add_measure(9000, "width", (98.0,), state="washed", on_needle=False), "there is no row 9000"),
    ):
        with pytest.raises(IllegalPiece, match=says_no):
            projects.change(throw, "measured", change)


def test_a_method_sizes_the_project_and_the_estimate_still_says_what_it_would_come_to(demo):
    projects, _, throw = demo
    by_us = projects.open(throw).numbers
    straight = projects.change(throw, "method", measures.choose_method("straight")).numbers
    assert straight.cast_on.bottom.body_um > 1.05 * by_us.cast_on.bottom.body_um, "the straight school sees no draw-in"
    assert straight.width_um == by_us.width_um
    assert {v.method for v in gauge.methods_table(projects.open(throw).piece)} == set(gauge.METHOD_NAMES)


def test_the_swatch_that_is_advised_is_the_one_the_form_is_filled_with(demo):
    projects, book, throw = demo
    project = projects.open(throw)
    for advice in gauge.gauge_answer(project.file, book.all()).advised:
        form = gauge.swatch_to_knit(project, find_pattern(advice.pattern))
        file = swatch_file(replace(form, name="as advised"), find_pattern)
        assert (file.rows, file.needle, file.fibre) == (advice.rows, 5.0, "wool")
        assert advice.stitches - 1 <= file.cast_on <= advice.stitches
        assert advice.pattern in [p.pattern for p in file.parts]
    assert gauge.swatch_to_knit(project).patterns == ("stockinette",)


def test_a_reading_is_worth_something_over_the_piece_that_goes_by_it(demo):
    projects, book, throw = demo
    plain = next(s for s in book.all() if s.name.endswith("plain"))
    planned = gauge.planned_for(plain, projects)
    assert (planned.name, planned.width_mm, planned.height_mm) == ("Skerry throw", 1100.0, 1500.0)
    half, whole = (readings_of(plain.file, mm)[0].worth.wider_mm for mm in (550.0, planned.width_mm))
    assert whole == pytest.approx(2 * half)
    over = {r.file.kind: r.worth.planned_mm for r in readings_of(plain.file, planned.width_mm, planned.height_mm)}
    assert over == {"stitches": 1100.0, "rows": 1500.0}, (
        "stitches are worth something over the width, rows over the height"
    )
    other = next(s for s in book.all() if "horseshoe" in s.name)
    projects.remove(throw)
    for project in projects.all():
        projects.change(project.id, "yarn", lambda f: f.model_copy(update={"yarn": "the last touched"}))
        assert gauge.planned_for(other, projects).name == project.name, "no piece goes by it: the one changed last"


def test_a_swatchs_picture_has_an_address_of_its_own_for_what_it_shows(database):
    book = SwatchBook(database)
    made = book.create(swatch_file(PLAIN, find_pattern))
    looks = [book.open(made).look]
    for rows in (50, 60):
        book.change(made, "rows", lambda f, rows=rows: f.model_copy(update={"rows": rows}))
        looks.append(book.open(made).look)
        book.move(made, -1)
    assert len(set(looks)) == 3, "the same step can show another swatch"
    assert book.add_reading(made, TEN).look == looks[0]


def test_every_library_pattern_can_be_swatched(database):
    book = SwatchBook(database)
    for pattern in LIBRARY.values():
        stitches = str(pattern.chart.width(1))
        made = book.create(swatch_file(replace(PLAIN, patterns=(pattern.id,), stitches=(stitches,)), find_pattern))
        book.add_reading(made, SwatchReading(kind="across", values=(10.0,)))


def test_a_swatch_read_before_and_after_washing_says_what_washing_did(database):
    book = SwatchBook(database)
    made = book.create(swatch_file(PLAIN, find_pattern))
    book.add_reading(made, TEN.model_copy(update={"state": "as knitted", "values": (20.0,)}))
    ((pattern, way, by),) = book.add_reading(made, TEN.model_copy(update={"values": (19.0,)})).washing
    assert (pattern.id, way) == ("stockinette", "wider") and by == pytest.approx(1 / 19)
    rope = replace(PLAIN, patterns=("stockinette", "rope-3-3-left"), stitches=("20", "10"))
    beside = book.create(swatch_file(rope, find_pattern))
    book.add_reading(beside, TEN.model_copy(update={"values": (20.0,)}))
    ratios = book.add_reading(beside, SwatchReading(kind="across", part=1, values=(4.0,))).ratios
    assert [(p.id, round(r, 3)) for p, r, _ in ratios] == [("rope-3-3-left", 0.8)]
    assert ratios[0][2] == pytest.approx(0.82, abs=0.02), "by the model alone"


def test_a_project_taken_in_from_a_file_keeps_its_swatches_but_not_another_books_numbers(demo):
    projects, book, throw = demo
    again = projects.open(projects.import_text(projects.open(throw).file.text()))
    assert again.numbers == projects.open(throw).numbers
    page = gauge.gauge_answer(again.file, book.all())
    assert [u.book for u in page.swatches] == [0, 0] and not any(u.in_book or u.newer for u in page.swatches)
    assert len(page.others) == len(book.all())
