"""The public face of the core: short, listed, typed, and shown by worked examples that are run."""

from __future__ import annotations

import ast
import doctest
import inspect
import re
from importlib import import_module
from pathlib import Path
from typing import get_type_hints

import pytest

import cablux.core as core

STUB = Path(core.__file__).with_suffix(".pyi").read_text("utf-8")
CORE = Path(core.__file__).parent
SHOWN = sorted(path for path in CORE.rglob("*.py") if ">>>" in path.read_text("utf-8"))
LISTED = re.findall(r'^    "(\w+)",$', STUB, re.M)


def test_every_public_name_is_listed_once_and_found():
    assert sorted(LISTED, key=lambda n: (not n.isupper(), n[0].islower(), n)) == LISTED
    assert sorted(LISTED) == sorted(core.__all__) and len(set(LISTED)) == len(LISTED) and 20 <= len(LISTED) <= 40
    with pytest.raises(AttributeError):
        core.__getattr__("nothing")


@pytest.mark.parametrize("name", core.__all__)
def test_every_public_name_says_what_it_is_and_of_what_types(name):
    found = getattr(core, name)
    if inspect.isfunction(found):
        assert found.__doc__ and {*inspect.signature(found).parameters, "return"} == set(get_type_hints(found))
    elif inspect.isclass(found):
        assert found.__doc__ and found.__name__ == name


def named(path: Path) -> str:
    return ".".join(path.relative_to(CORE).with_suffix("").parts).removesuffix("__init__").rstrip(".")


@pytest.mark.parametrize("home", [named(path) for path in SHOWN])
def test_the_worked_examples_come_out_as_they_say(home):
    module = import_module(f"cablux.core.{home}" if home else "cablux.core")
    failed, tried = doctest.testmod(module, optionflags=doctest.NORMALIZE_WHITESPACE)
    assert failed == 0 and tried


def test_a_dozen_public_functions_and_thirty_of_the_core_show_an_example():
    shown = [name for name in core.__all__ if ">>>" in (getattr(core, name).__doc__ or "")]
    assert len(shown) >= 12, shown
    functions = [
        each.name
        for path in SHOWN
        for each in ast.parse(path.read_text("utf-8")).body
        if isinstance(each, ast.FunctionDef) and ">>>" in (ast.get_docstring(each) or "")
    ]
    assert len(functions) >= 30 and not any(name.startswith("_") for name in functions), functions
