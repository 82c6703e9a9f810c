"""Test core/gear/starter.py."""

from __future__ import annotations

import pytest

from jackstaff_core.filters.labels import density
from jackstaff_core.gear.starter import STARTER_KIT
from jackstaff_core.gear.things import Glass
from jackstaff_core.practice.dryrun.shipped import SHIPPED

LABELLED = [
    item.thing
    for kit in (STARTER_KIT, *(scenario.kit for scenario in SHIPPED))
    for item in kit
    if isinstance(item.thing, Glass) and item.thing.label
]


@pytest.mark.parametrize("filter_", LABELLED, ids=[each.label for each in LABELLED])
def test_lent_filters_are_as_strong_as_their_labels_say(filter_: Glass) -> None:
    # A factor of 1000 is called ten stops.
    said = density(filter_.label).readings[0]
    assert said.stops == pytest.approx(filter_.stops, abs=0.04)
    assert said.stops_max == filter_.stops_max
