"""Run the examples that stand in docstrings."""

from __future__ import annotations

import doctest
from types import ModuleType

import pytest

from jackstaff_core.exposure import calculation
from jackstaff_core.filters import labels
from jackstaff_core.scales import ladders, spoken


@pytest.mark.parametrize("module", [ladders, spoken, labels, calculation])
def test_an_example_is_answered_as_it_says(module: ModuleType) -> None:
    failed, tried = doctest.testmod(module)
    assert (failed, tried > 0) == (0, True)
