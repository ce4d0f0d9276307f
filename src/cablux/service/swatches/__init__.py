"""The swatch book: its swatches, their forms, their photos, and the book as CSV."""

from .book import PLANNED_MM, Read, Swatch, SwatchBook, readings_of
from .csv_file import read_csv, write_csv
from .form import WEIGHTS, ReadingForm, SwatchForm, swatch_file, swatch_form, swatch_reading
from .photos import MAX_BYTES, cleaned_photo

__all__ = [
    "MAX_BYTES",
    "PLANNED_MM",
    "WEIGHTS",
    "Read",
    "ReadingForm",
    "Swatch",
    "SwatchBook",
    "SwatchForm",
    "cleaned_photo",
    "read_csv",
    "readings_of",
    "swatch_file",
    "swatch_form",
    "swatch_reading",
    "write_csv",
]
