"""How the code is written: what no linter asks of it."""

import dataclasses
import importlib
import inspect
import pkgutil

import cablux


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
