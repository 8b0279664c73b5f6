"""Who works in US units reads no metric number in any sentence of the demo jobs."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import pytest

from rugged_shield.web.api import ROUTES
from tests.conftest import Client

JOBS = ("choosing", "kit-open", "half-fitted", "in-service")
METRIC = re.compile(
    r"\d[\d.,]* ?(?:mm|cm|m|mm²|cm²|N·m|kN|N|N/mm|MPa|GPa|kg|g|km|km/h|m/s|°C|K|J|kJ|W|l|ml)"
    r"(?![\w·/²³])"
)
BY_SIZE = re.compile(
    r"\d[\d.]* mm (?:hex key|spanner|six-lobe|socket)|[Mm]\d+(?: × [\d.]+)+(?: mm)?|± ?0\.\d+ mm"
)
"""Tools are called by their size in mm everywhere."""
NOT_A_SENTENCE = {"metric", "unit", "version", "sources", "path", "value", "source", "form"}
"""Where both systems stand side by side, what is no text, and the titles of what was published."""


def texts(answer: Any, at: str = "") -> Iterator[tuple[str, str]]:
    if isinstance(answer, str):
        yield at, answer
    elif isinstance(answer, list):
        for i, item in enumerate(answer):
            yield from texts(item, f"{at}.{i}")
    elif isinstance(answer, dict):
        if answer.get("label") == "screw length":
            return  # metric screws are sold by mm, in whatever units one thinks
        for name, item in answer.items():
            if name not in NOT_A_SENTENCE and not name.endswith("_metric"):
                yield from texts(item, f"{at}.{name}")


def looked_at(client: Client, job: str) -> Iterator[tuple[str, Any]]:
    """Every address of a job that is read, once for each plate or joint that it asks for."""
    frame = client.get(f"/{job}")
    for method, path in ROUTES:
        if method != "GET" or "<job_id>" not in path:
            continue
        at = path.replace("/api/jobs/<job_id>", f"/{job}")
        names = re.findall(r"<(\w+)>", at)
        if not names:
            yield at, client.get(at)
        elif names == ["plate"] or names == ["key"]:
            at = at.replace(f"<{names[0]}>", frame["plate_key"])
            answer = client.flask.get(f"/api/jobs{at}")
            if answer.status_code == 200:
                yield at, answer.get_json()


@pytest.mark.parametrize("job", JOBS)
def test_no_sentence_says_a_metric_number(client: Client, job: str) -> None:
    client.flask.environ_base["HTTP_UNITS"] = "us"
    metric, seen = [], 0
    for at, answer in looked_at(client, job):
        for where, text in texts(answer):
            seen += any(c.isdigit() for c in text)
            found = METRIC.search(BY_SIZE.sub("", text))
            if found:
                metric.append(f"{at} {where}: {text}")
    assert seen > 100
    assert sorted(set(metric)) == []
