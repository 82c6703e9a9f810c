"""Test core/practice/dryrun/scenario.py."""

from __future__ import annotations

import json
from typing import Any, cast

import pytest

from jackstaff_core.practice.dryrun.scenario import Scenario, schema
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.words.refusal import Refusal, Refusals
from tests.core.practice.dryrun.given_shots import MOLE
from tests.core.tables import DOCS

IRON = plain(MOLE.framings[0])


def test_the_published_schema_is_the_one_that_is_read() -> None:
    published = DOCS / "formats" / "dry-run.schema.json"
    assert json.loads(published.read_text(encoding="utf-8")) == schema()


@pytest.mark.parametrize(
    ("change", "field", "said"),
    [
        ({"format": "some-run"}, "format", "no dry run"),
        ({"version": 2}, "version", "version is 2"),
        ({"minutes": 600}, "minutes", "60"),
        ({"zone": "No/Where"}, "zone", "no time zone"),
        ({"kit": [plain(item) for item in MOLE.kit if item.sort != "lens"]}, "kit", "no lens"),
        ({"framings": []}, "framings", ""),
        ({"framings": [{**IRON, "wants": [{"kind": "sea", "look": "pink"}]}]}, "framings.0", ""),
        ({"framings": [{**IRON, "tones": IRON["tones"][:2]}]}, "framings.0.tones", "0.44"),
        ({"floods_at_m": 1.0, "waters": [{"time": "03:10", "height_m": 1.0}]}, "waters", "high and a low"),
        ({"starts_at": "2027-04-17T06:00:00"}, "starts_at", ""),
        ({"story": "\x07"}, "story", ""),
        ({"cheat": 1}, "cheat", ""),
    ],
)  # fmt: skip
def test_a_file_that_cannot_be_played_is_refused_at_its_place(change: dict[str, Any], field: str, said: str) -> None:
    with pytest.raises((Refusal, Refusals)) as refused:
        read(Scenario, {**plain(MOLE), **change})
    faults = refused.value.all if isinstance(refused.value, Refusals) else [cast(Refusal, refused.value)]
    assert any(fault.field.startswith(field) and said in fault.problem + fault.instead for fault in faults), faults
