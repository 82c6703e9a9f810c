"""Test core/wire/line_numbers.py."""

from __future__ import annotations

from jackstaff_core.wire.line_numbers import line_of


def test_the_line_of_a_value() -> None:
    text = '{\n "a": [1,\n  {"b": "}", "c":\n   2}],\n "d": null}'
    places = [((), 1), (("a",), 2), (("a", 1), 3), (("a", 1, "c"), 4), (("d",), 5), (("a", 9), 2), (("a", 1, "no"), 3)]
    assert [line_of(text, path) for path, _ in places] == [line for _, line in places]
