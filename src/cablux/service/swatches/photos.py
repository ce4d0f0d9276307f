"""Photos of swatches: checked to be pictures, turned upright, made small, and stripped of what else they carry."""

from __future__ import annotations

import hashlib
import io

from ...core.errors import InvalidText, Problem

MAX_BYTES = 15_000_000  # our choice: what a telephone makes, with room to spare
MAX_PIXELS = 60_000_000  # our choice: it also keeps a small file from unfolding without end
SIDE = 1600  # our choice: enough to count stitches in
QUALITY = 82
KINDS = ("JPEG", "PNG", "WEBP", "GIF")


def cleaned_photo(data: bytes) -> tuple[str, bytes]:
    """The photo as a JPEG of its own, without metadata, and the id that its content gives.

    Raises InvalidText where it is too large or no picture.
    """
    from PIL import Image, ImageOps, UnidentifiedImageError

    if len(data) > MAX_BYTES:
        raise _refused("The photo is larger than 15 megabytes; make it smaller, or take it with fewer pixels.")
    try:
        with Image.open(io.BytesIO(data), formats=KINDS) as picture:
            if picture.width * picture.height > MAX_PIXELS:
                raise _refused(f"The photo has {picture.width} × {picture.height} pixels; the most is 60 million.")
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        if isinstance(error, InvalidText):
            raise
        raise _refused("This picture cannot be read; choose a JPEG, PNG or WebP photo.") from None
    upright.thumbnail((SIDE, SIDE))
    out = io.BytesIO()
    bare = Image.new("RGB", upright.size)
    bare.paste(upright)  # pixels alone: nothing of the file's own notes comes along
    bare.save(out, "JPEG", quality=QUALITY, optimize=True)
    content = out.getvalue()
    return hashlib.sha256(content).hexdigest(), content


def _refused(sentence: str) -> InvalidText:
    return InvalidText((Problem(message=sentence),))
