"""Test core/wire/facts.py."""

from __future__ import annotations

import pytest

from jackstaff_core.gear.things import Glass
from jackstaff_core.wire.facts import read_thing
from jackstaff_core.words.refusal import Refusals

KEY = "0f8fad5b-d9cb-469f-a165-70867728950e"


@pytest.mark.parametrize(
    ("facts", "where"),
    [
        ({"colour": "grey"}, "colour"),
        ({"stops": "ten"}, "stops"),
        ({"stops": True}, "stops"),
        ({"stops": 31}, "stops"),
        ({"stops": float("nan")}, "stops"),
        ({"stops": 0}, "stops"),
        ({"kind": "dark"}, "kind"),
        ({"kind": "variable"}, "stops_max"),
        ({"kind": "variable", "stops": 5, "stops_max": 2}, "stops_max"),
        ({"stops": 1, "offset": -2}, "offset"),
        ({"stops": 1, "label": "x" * 61}, "label"),
        ({"stops": 1, "label": "a\nb"}, "label"),
        ({"stops": 1, "usable_end": [[24]]}, "usable_end.0"),
        ({"stops": 1, "usable_end": [[24, "x"]]}, "usable_end.0"),
        ({"stops": 1, "gasket": "yes"}, "gasket"),
        ({"stops": 1, "members": ["Slot ND 4", KEY]}, "members.0"),
        ({"stops": 1, "members": [KEY]}, "members"),
        ({"stops": 1, "members": [KEY, KEY]}, "members"),
    ],
)
def test_facts_that_cannot_be(facts: dict[str, object], where: str) -> None:
    with pytest.raises(Refusals) as refused:
        read_thing(Glass, facts)
    assert refused.value.all[0].field == where
    assert all(refusal.problem.endswith(".") and refusal.instead.endswith(".") for refusal in refused.value.all)
