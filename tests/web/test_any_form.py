"""Whatever is sent to whatever address is answered with a page or with a sentence, never with a fault of ours."""

from __future__ import annotations

import random
import re

import pytest
from fastapi.openapi.utils import get_openapi
from starlette.testclient import TestClient

from cablux.core.library import LIBRARY

ODD = [
    "",
    "0",
    "-1",
    "1e9",
    "nan",
    "x",
    "é\x00",
    "<b>",
    "7,5",
    "1/2",
    "k2, p2",
    "row 1: k4",
    "٣",
    "0x10",
    " 5 ",
    "a" * 300,
]
PLACES = [
    1,
    2,
    3,
    4,
    5,
    6,
    9,
    99,
    "7-2",
    "8",
    "9",
    "10",
    "11-3",
    "12-2",
    "13",
    "14-3",
    "15",
    "16-2",
    "17-7",
    "18-9",
    "19",
    "14-99",
]
"""Projects, and pieces of projects, of every kind in the demo; and such as are not there."""
FEW = [0, 1, 2, 3, 5, 8, 20, 100]
FILES = [b"", b"{}", b"\xff\xfe", b"[1]", b'{"cablux": 2}', b"name,unit\n1"]


class Hand:
    """A hand that fills in any form: often with what it asks for, sometimes with what nobody expects."""

    def __init__(self, client: TestClient, seed: int) -> None:
        self.random = random.Random(seed)
        spec = get_openapi(title="all", version="1", routes=client.app.routes)  # type: ignore[attr-defined]
        self.schemas = spec["components"]["schemas"]
        self.operations = [
            (path, method, operation)
            for path, methods in spec["paths"].items()
            for method, operation in methods.items()
        ]

    def resolved(self, schema: dict) -> dict:
        return self.schemas[schema["$ref"].rpartition("/")[2]] if "$ref" in schema else schema

    def value(self, name: str, schema: dict) -> object:
        schema, choice = self.resolved(schema), self.random.choice
        if "anyOf" in schema:
            return self.value(name, choice(schema["anyOf"]))
        if self.random.random() < 0.25:
            return choice(ODD)
        if "enum" in schema or "const" in schema:
            return choice(schema.get("enum") or [schema["const"]])
        if schema.get("type") in ("integer", "number"):
            return choice(FEW)
        if schema.get("type") == "array":
            return [self.value(name, schema["items"]) for _ in range(choice(FEW[:4]))]
        return (
            choice(sorted(LIBRARY)) if "pattern" in name or "panel" in name else choice([*ODD, "5", "wool", "washed"])
        )

    def address(self, path: str) -> str:
        def named(match: re.Match[str]) -> str:
            if match[1] == "pattern_id":
                return self.random.choice(sorted(LIBRARY))
            return str(self.random.choice(PLACES if match[1].endswith("_id") else ["top", "stepped", "body", "x"]))

        return re.sub(r"\{(\w+)\}", named, path)

    def send(self, client: TestClient) -> tuple[str, int, str]:
        path, method, operation = self.random.choice(self.operations)
        asked = [p for p in operation.get("parameters", []) if p["in"] == "query" and self.random.random() < 0.6]
        data: dict[str, object] = {}
        files = {}
        for body in operation.get("requestBody", {}).get("content", {}).values():
            for name, schema in self.resolved(body["schema"]).get("properties", {}).items():
                if schema.get("format") == "binary" or "contentMediaType" in schema:
                    files[name] = ("any.json", self.random.choice(FILES))
                elif self.random.random() < 0.85:
                    data[name] = self.value(name, schema)
        address = self.address(path)
        answer = client.request(
            method,
            address,
            params={p["name"]: self.value(p["name"], p["schema"]) for p in asked},
            data=data,
            files=files or None,
            headers=self.random.choice([{}, {"hx-request": "true"}]),
            follow_redirects=False,
        )
        return f"{method} {address} {data}", answer.status_code, answer.text


@pytest.mark.parametrize("seed", range(4))
def test_any_form_is_answered(client: TestClient, seed: int):
    hand = Hand(client, seed)
    codes = set()
    for _ in range(120):
        what, code, text = hand.send(client)  # what is not a refusal of ours is raised here
        codes.add(code)
        assert code < 500, what
        if code in (404, 422):
            said = re.search(r'class="(?:notice|field-problem)[^>]*>([^<]+)<', text)
            assert said and said[1].strip().endswith("."), what
    assert {200, 404, 422} <= codes
