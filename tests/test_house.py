"""How the code is written: what no linter asks of it."""

from __future__ import annotations

import ast
import dataclasses
import importlib
import inspect
import io
import pkgutil
import re
import tokenize
from collections import defaultdict
from pathlib import Path

import cablux
import cablux.core

CORE = Path(cablux.core.__file__).parent


def records():
    for module in pkgutil.walk_packages(cablux.__path__, "cablux."):
        if module.name.endswith(".__main__") or ".migrations" in module.name:
            continue
        for name, kind in vars(importlib.import_module(module.name)).items():
            if inspect.isclass(kind) and dataclasses.is_dataclass(kind) and kind.__module__ == module.name:
                yield f"{module.name}.{name}", kind


def test_a_record_of_more_than_three_fields_is_made_by_their_names():
    placed = {
        name: [f.name for f in dataclasses.fields(kind) if f.init and not f.kw_only]
        for name, kind in records()
        if sum(f.init for f in dataclasses.fields(kind)) > 3
    }
    assert len(placed) > 150
    assert not {name: fields for name, fields in placed.items() if len(fields) > 3}


def public_names(file):
    """What a module declares at its top and does not keep to itself."""
    for node in ast.parse(file.read_text("utf-8")).body:
        match node:
            case ast.ClassDef() | ast.FunctionDef():
                names = [node.name]
            case ast.Assign():
                names = [target.id for target in node.targets if isinstance(target, ast.Name)]
            case ast.AnnAssign(target=ast.Name()):
                names = [node.target.id]
            case _:
                names = []
        yield from (name for name in names if not name.startswith("_"))


def test_a_public_name_of_the_core_has_one_meaning():
    homes = defaultdict(list)
    for file in sorted(CORE.rglob("*.py")):
        for name in public_names(file):
            homes[name].append(file.relative_to(CORE).as_posix())
    assert len(homes) > 700
    assert not {name: where for name, where in homes.items() if len(where) > 1}


OLD_WORDS = "school|schools|ground|grounds|gutter|gutters|lives|living|whereabouts|mending"
"""What docs/words.md has another term for; a tone of a picture is its ground, and a family of patterns is so called."""


def test_the_code_says_method_background_purl_margin_active_columns_and_mistake():
    for file in sorted((CORE.parent / "service").rglob("*.py")) + sorted(CORE.rglob("*.py")):
        tokens = tokenize.generate_tokens(io.StringIO(file.read_text("utf-8")).readline)
        names = {token.string for token in tokens if token.type == tokenize.NAME}
        told = [name for name in names if re.search(rf"(^|_)({OLD_WORDS})(_|$)", name)]
        assert not told, file


UNITS = re.compile(r"(^|_)(mm|um|in|stitches|rows|percent|minutes|seconds|buttons|pairs)$")
PURE = """
draw_in draw_up residual flare scallop edge_pull share tall across factor over weight width_off height_off
value sd precision count gap least most turn
"""
"""Numbers without a unit, or in a unit that what stands beside them says: parts of a whole; values of anything that is
observed; gaps of any goal; limits and answers in the unit of their question (a turn in degrees)."""


def test_a_number_in_a_record_of_the_core_says_its_unit():
    loose = {
        f"{name}.{field.name}"
        for name, kind in records()
        if name.startswith("cablux.core.") and not name.endswith(".fabric.constants.Constants")
        for field in dataclasses.fields(kind)
        if "float" in str(field.type) and not UNITS.search(field.name) and field.name not in PURE.split()
    }
    assert not loose, "say the unit in the name (or, of a pure number, list it here with its reason)"
