"""Test core/outing/coordinates.py."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.outing.coordinates import coordinates, written_coordinates
from jackstaff_core.words.refusal import Refusal


@pytest.mark.parametrize(
    ("text", "latitude", "longitude"),
    [
        ("58.052 N 6.798 E", 58.052, 6.798),
        ("58°03′07″N 6°47′53″E", 58.051944, 6.798056),
        ("58°3'7.2\"n, 6°47'52.8\"e", 58.052, 6.798),
        ("N 58 03.12, E 6 47.88", 58.052, 6.798),
        ("6.798 E 58.052 N", 58.052, 6.798),
        ("58,052; 6,798", 58.052, 6.798),
        ("58,052 6,798", 58.052, 6.798),
        ("58.052, -6.798", 58.052, -6.798),
        ("+58.052+006.798/", 58.052, 6.798),
        ("geo:58.052,6.798", 58.052, 6.798),
        ("lat 58.052 lon 6.798", 58.052, 6.798),
        ("58.052 north, 6.798 west", 58.052, -6.798),
        ("33°30'S 151°12'E", -33.5, 151.2),
        ("58 3 7.2 6 47 52.8", 58.052, 6.798),
        ("−33.5 151.2", -33.5, 151.2),
    ],
)
def test_a_place_is_read_in_any_usual_writing(text: str, latitude: float, longitude: float) -> None:
    found = coordinates(text)
    assert (found.latitude, found.longitude) == pytest.approx((latitude, longitude), abs=1e-6)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("the mole", "no part of a place"),
        ("58.052", "where the first number ends"),
        ("58,052", "one number with a comma, or two"),
        ("58.052 N 6.798", "Only one of the two"),
        ("58 N 7 O", "O means east to some"),
        ("58 N 6 S", "do not make a place"),
        ("-58 N 6 E", "both say which way"),
        ("151.2, -33.5", "Latitude ends at 90"),
        ("58 N 181 E", "Longitude ends at 180"),
        ("58 61 N 6 E", "below 60"),
        ("58.5 30 N 6 30 E", "Only the last"),
        ("32V 370000 6436000", "no part of a place"),
        ("N E", "no numbers"),
        ("1" * 201, "too long"),
    ],
)
def test_what_is_no_place_is_refused_in_words(text: str, says: str) -> None:
    with pytest.raises(Refusal, match=says):
        coordinates(text)


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_a_place_as_written_is_read_back_to_a_metre(latitude: float, longitude: float) -> None:
    found = coordinates(written_coordinates(latitude, longitude))
    assert (found.latitude, found.longitude) == pytest.approx((latitude, longitude), abs=6e-6)


@given(st.text(alphabet="0123456789.,;:°'\"NSEWOnsew+-/ ()", max_size=60))
def test_any_text_is_a_place_on_the_globe_or_refused(text: str) -> None:
    try:
        found = coordinates(text)
    except Refusal:
        return
    assert abs(found.latitude) <= 90
    assert abs(found.longitude) <= 180
