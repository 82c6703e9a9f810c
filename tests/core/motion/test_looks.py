"""Test core/motion/looks.py."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.motion import cloud, foliage, people, stillness
from jackstaff_core.motion.looks import LooksQuestion, OwnLook, Want, looks, looks_at
from jackstaff_core.motion.subjects import KINDS, Camera, Subject
from jackstaff_core.words.refusal import Refusal
from tests.core.motion.given_subjects import CAMERA, SUBJECTS, at, windows

BREEZE: dict[str, Any] = {"class": "breeze", "distance_m": 5}
CALM: dict[str, Any] = {"class": "calm", "distance_m": 30}


def test_windows_by_kind() -> None:
    sea = windows("sea", height_m=0.64)
    assert list(sea) == ["crisp", "texture", "veil", "mirror", "fog"]
    assert sea["veil"] == pytest.approx([2.0, 20.0])
    assert sea["fog"] == [120.0, None]
    assert windows("river", texture_m=0.3, flow_m_s=1.0)["mirror"] == pytest.approx([1.5, 9.0])
    # White water keeps the shape of the stones it falls over.
    falls = windows("river", texture_m=0.3, flow_m_s=3.0)
    assert (list(falls), falls["veil"]) == (["crisp", "texture", "veil"], [pytest.approx(0.25), None])
    gone = windows("people")["gone"]
    assert gone == [pytest.approx(0.9 * 0.45 / 1.4 / 0.02), None]
    assert windows("people", across=0.5)["gone"][0] == pytest.approx(2 * (gone[0] or 0))
    leaves = windows("leaves", CAMERA, **BREEZE)
    assert leaves["sharp"][1] == pytest.approx(foliage.seconds_for(36 / 1500, 0.05, 1.5, 5, 24))
    # So little sway so far away is never smeared, and a clear sky never drawn out.
    assert windows("leaves", CAMERA, **CALM)["soft"] == [None, None]
    assert windows("cloud", wind_m_s=0)["soft edges"] == [None, None]
    assert windows("spin", period_s=30)["disc"] == [30.0, None]
    assert windows("stars")["points"][1] == pytest.approx(4.97112 / 1.8125, rel=1e-3)
    assert windows("lamps")["lines"][0] == pytest.approx(0.2 / 14)
    assert windows("tide", range_m=4, hours_from_low=3.0)["still"][1] == pytest.approx(107, abs=1)
    assert windows("crowd", rate_per_s=0.5)["even veil"][0] == pytest.approx(0.9**2 * (0.45 / 1.4) ** 2 * 0.5 / 0.02**2)


def test_vehicles_by_day_and_one_who_holds_still_among_walkers() -> None:
    moving = windows("vehicles")
    assert moving["gone"][0] == pytest.approx(0.9 * 4.5 / 14 / 0.02)
    assert (windows("vehicles", state="queueing")["gone"][0] or 0) > 600
    assert windows("vehicles", state="parked") == {"there": [0, None], "gone": [None, None]}
    assert at("vehicles", 3600, state="parked").look == "there"
    sharp = {pose: windows("still_person", pose=pose, distance_m=6)["sharp"][1] or 0 for pose in stillness.POSES}
    # 6 mm of sway at six metres is 24 um before 24 mm: a 1500th of the frame, reached within some seconds.
    assert 1 < sharp["standing"] < 5 < sharp["leaning"] < sharp["sitting"]
    assert stillness.blur_mm(sharp["sitting"], 1.5, 0.05, 6, 24) == pytest.approx(36 / 1500)
    # Somebody seated stays sharp while the walkers go: one aim for both.
    both = looks(
        LooksQuestion(
            CAMERA,
            (Subject("people", {}), Subject("still_person", {"pose": "sitting"})),
            (Want("people", "gone"), Want("still_person", "sharp")),
        )
    )
    assert both.aim
    assert both.aim.from_seconds == pytest.approx(14.46, abs=0.01)
    assert both.aim.to_seconds == pytest.approx(sharp["sitting"])


def test_cloud_says_beforehand_whether_it_moves_and_what_its_share_of_the_sky_is_worth() -> None:
    def said(**facts: Any) -> dict[str, str]:
        found = looks(LooksQuestion(CAMERA, (Subject("cloud", facts),))).advice
        return {advice.code: advice.text for advice in found}

    quick = said(**{"class": "low", "wind_m_s": 12.0, "cover": "half"})
    assert "visibly moves from about" in quick["cloud_moves"]
    assert "half of the sky" in quick["cloud_cover"]
    still = said(**{"class": "high", "wind_m_s": 0.1})
    assert "cloud_stays_still" in still
    assert not {"cloud_moves", "cloud_cover"} & still.keys()


@given(st.sampled_from(KINDS), st.floats(-8, 14))
def test_a_time_has_the_look_of_the_window_it_falls_into(kind: str, log_seconds: float) -> None:
    seconds = 2.0**log_seconds
    subject = Subject(kind, SUBJECTS[kind])
    found = looks(LooksQuestion(CAMERA, (subject,))).windows
    ends = [window.to_seconds for window in found if window.from_seconds is not None]
    starts = [window.from_seconds for window in found if window.from_seconds is not None]
    assert starts[0] == 0
    assert list(ends[:-1]) == starts[1:]
    look = looks_at(LooksQuestion(CAMERA, (subject,)), seconds)[0].look
    (window,) = [each for each in found if each.look == look]
    assert (window.from_seconds or 0) <= seconds * (1 + 1e-6)
    assert window.to_seconds is None or seconds <= window.to_seconds * (1 + 1e-6)


def test_what_a_time_does() -> None:
    assert at("sea", 0.01, height_m=0.64).look == "crisp"
    seen = at("people", 225, standing=5, stay_s=60)
    assert (seen.look, seen.worst_seconds) == ("walkers gone", pytest.approx(225))
    assert seen.standing_ghosts == pytest.approx(people.standing_ghosts(people.Walkers(standing=5), 225))
    assert seen.text == "walkers are gone, about 9 standing stay"
    assert at("people", 60).standing_ghosts is None
    assert "feet still show" in at("people", 20).text
    assert at("cloud", 120, height_m=1000, wind_m_s=8, wind_from_deg=0).text.endswith("about 22 % of the frame")
    assert at("cloud", 60, wind_m_s=0).text == "will not visibly move"
    assert at("cloud", 86_000, height_m=500, wind_m_s=60, wind_from_deg=270 - 180).streak_share is None
    # Estimates are shown to two digits at most.
    assert at("tide", 480, range_m=4, hours_from_low=3).text == "the waterline rises by about 13 cm"
    assert at("spin", 45, period_s=30).turns == 1.5


@pytest.mark.parametrize(
    ("facts", "codes"),
    [
        ({}, set()),
        ({"across": 0.5}, set()),
        ({"across": 0.49}, {"walkers_along_the_view"}),
        ({"standing": 4.0}, {"standing_people_stay"}),
        ({"standing": 4.0, "across": 0.2}, {"standing_people_stay", "walkers_along_the_view"}),
    ],
)
def test_what_people_do_to_a_picture_is_said(facts: dict[str, float], codes: set[str]) -> None:
    found = looks(LooksQuestion(CAMERA, (Subject("people", facts),)))
    assert {remark.code for remark in found.advice} == codes


def asked(*wants: tuple[str, str], own: tuple[OwnLook, ...] = (), **subjects: dict[str, Any]) -> LooksQuestion:
    return LooksQuestion(
        CAMERA,
        tuple(Subject(kind, given) for kind, given in subjects.items()),
        tuple(Want(*want) for want in wants),
        own,
    )


def test_wishes_meet_in_one_aim() -> None:
    found = looks(asked(("sea", "mirror"), ("people", "gone"), sea={"height_m": 0.64}, people={}))
    assert found.conflict is None
    assert found.aim is not None
    assert [found.aim.from_seconds, found.aim.to_seconds] == pytest.approx([20.0, 120.0])
    assert looks(asked(sea={"height_m": 0.64})).aim is None
    # A wish of one's own: "veil at this swell was right at about 18 s" is 4 to 5 waves.
    own = looks(asked(("sea", "mine"), own=(OwnLook("sea", "mine", 4.0, 5.0),), sea={"height_m": 0.64}))
    assert own.aim is not None
    assert [own.aim.from_seconds, own.aim.to_seconds] == pytest.approx([16, 20])
    # With a preset's name it takes that preset's place.
    edited = looks(asked(("sea", "veil"), own=(OwnLook("sea", "veil", 4.0, 5.0),), sea={"height_m": 0.64}))
    assert [window.look for window in edited.windows].count("veil") == 1
    assert edited.aim == own.aim
    # Fainter than ghosts is not had before those who stand about have gone.
    (standing,) = looks(
        asked(own=(OwnLook("people", "mine", 0.001, 0.01),), people={"standing": 3, "stay_s": 600})
    ).windows[-1:]
    assert (standing.look, (standing.from_seconds or 0) > 600) == ("mine", True)
    faded = looks(asked(("people", "mine"), own=(OwnLook("people", "mine", 0.01, 0.05),), people={}))
    assert faded.aim is not None
    assert faded.aim.from_seconds < (faded.aim.to_seconds or math.inf)


def test_wishes_that_conflict_ask_for_two_frames() -> None:
    found = looks(
        asked(("sea", "mirror"), ("leaves", "sharp"), ("people", "gone"), sea={"height_m": 0.64},
              leaves={"class": "fresh", "distance_m": 3}, people={})
    )  # fmt: skip
    assert found.aim is None
    assert found.conflict is not None
    assert found.conflict.text == "Sharp leaves and gone people do not fit into one frame: shoot two and blend them."
    short, long = found.conflict.frames
    assert (short.kinds, set(long.kinds)) == (("leaves",), {"sea", "people"})
    assert short.to_seconds is not None
    assert short.to_seconds < long.from_seconds / 500
    assert "leaves_need_their_own_frame" in {remark.code for remark in found.advice}


def test_a_conflict_names_the_first_two_that_never_meet() -> None:
    # Sea and leaves are both short, the sea the longer; people never meet either.
    found = looks(
        asked(("sea", "crisp"), ("people", "gone"), ("leaves", "sharp"), sea={"height_m": 0.64},
              leaves={"class": "fresh", "distance_m": 3}, people={})
    )  # fmt: skip
    assert found.conflict is not None
    assert {want.kind for want in found.conflict.wants} & {"people"}
    windows = {(window.kind, window.look): window for window in found.windows}
    for frame in found.conflict.frames:
        for want in found.conflict.wants:
            if want.kind in frame.kinds:
                own = windows[want.kind, want.look]
                assert (own.from_seconds or 0.0) <= frame.from_seconds
                assert (frame.to_seconds or math.inf) <= (own.to_seconds or math.inf)


def test_wishes_no_frame_can_give() -> None:
    still = looks(asked(("cloud", "streaks"), cloud={"class": "high", "wind_m_s": 0}))
    assert (still.aim, still.conflict and still.conflict.text) == (None, "No time gives streaks cloud here.")
    three = looks(
        asked(("leaves", "sharp"), ("sea", "texture"), ("people", "gone"), leaves={"class": "fresh", "distance_m": 3},
              sea={"height_m": 0.1}, people={})
    )  # fmt: skip
    assert three.conflict is not None
    assert (three.conflict.frames, three.conflict.text[-48:]) == (
        (),
        "and two frames are not enough: give up one wish.",
    )


def test_words_of_caution_about_motion() -> None:
    codes = {
        look.code
        for look in looks(
            asked(
                cloud={"height_m": 9000, "wind_m_s": 10, "wind_from_deg": 270},
                people={"standing": 4, "across": 0.3},
                crowd={"rate_per_s": 2},
            )
        ).advice
    }
    assert {"turn_the_camera", "standing_people_stay", "walkers_along_the_view", "crowd_veil_stays"} <= codes
    low = Camera(24.0, 36.0, 4.35, 5.0, 90.0)
    calm = looks(LooksQuestion(low, (Subject("cloud", {"height_m": 9000, "wind_m_s": 10, "wind_from_deg": 270}),)))
    assert {"cloud_stays_still", "turn_the_camera"} <= {remark.code for remark in calm.advice}
    assert cloud.cloud_elevation(0, 24, 36) == pytest.approx(math.degrees(math.atan(6 / 24)))


@pytest.mark.parametrize(
    ("kind", "given", "field"),
    [
        ("kettle", {}, "subjects.0.kind"),
        ("sea", {}, "subjects.0.height_m"),
        ("sea", {"height_m": 400}, "subjects.0.height_m"),
        ("sea", {"height_m": 1, "wind_m_s": 3}, "subjects.0.wind_m_s"),
        ("river", {"texture_m": 0.3, "flow_m_s": 0}, "subjects.0.flow_m_s"),
        ("cloud", {"wind_m_s": -3}, "subjects.0.wind_m_s"),
        ("cloud", {"wind_m_s": 3, "class": "upper"}, "subjects.0.class"),
        ("leaves", {"class": "gale"}, "subjects.0.class"),
        ("leaves", {"distance_m": "far"}, "subjects.0.distance_m"),
        ("people", {"across": 0}, "subjects.0.across"),
        ("people", {"standing": True}, "subjects.0.standing"),
        ("vehicles", {"state": "flying"}, "subjects.0.state"),
        ("still_person", {"pose": "dancing"}, "subjects.0.pose"),
        ("cloud", {"wind_m_s": 3, "cover": "most"}, "subjects.0.cover"),
        ("stars", {"declination_deg": math.nan}, "subjects.0.declination_deg"),
    ],
)
def test_what_cannot_be_is_refused(kind: str, given: dict[str, Any], field: str) -> None:
    with pytest.raises(Refusal) as refused:
        looks(LooksQuestion(CAMERA, (Subject(kind, given),)))
    assert refused.value.field == field
    assert refused.value.instead.endswith(".")


def test_cameras_and_wishes_that_cannot_be() -> None:
    for bad in ({"focal_mm": 0.0}, {"sensor_width_mm": -36.0}, {"pitch_um": 0.0}, {"elevation_deg": 95.0}):
        with pytest.raises(Refusal):
            Camera(**{"focal_mm": 24.0, **bad})
    with pytest.raises(Refusal):
        looks(asked(("sea", "glass"), sea={"height_m": 1}))
    with pytest.raises(Refusal):
        looks(asked(("river", "veil"), sea={"height_m": 1}))
    with pytest.raises(Refusal):
        looks_at(asked(sea={"height_m": 1}), 1e9)


@pytest.mark.parametrize(
    ("wants", "subjects", "middle", "half"),
    [
        # Between two ends; open above: two stops in; open below: two stops down.
        ((("sea", "veil"),), {"sea": {"height_m": 0.64}}, math.sqrt(2 * 20), math.log2(10) / 2),
        ((("people", "gone"),), {"people": {}}, 2 * 0.9 * 0.45 / 1.4 / 0.02, 1),
        ((("sea", "crisp"),), {"sea": {"height_m": 0.64}}, 0.1, 1),
    ],
)
def test_an_aim_has_a_middle_to_steer_for(
    wants: tuple[tuple[str, str], ...], subjects: dict[str, dict[str, Any]], middle: float, half: float
) -> None:
    aim = looks(asked(*wants, own=(), **subjects)).aim
    assert aim is not None
    assert [aim.middle_seconds, aim.half_stops] == pytest.approx([middle, half])


def test_two_layers_of_cloud_meet_in_one_aim_or_are_told_apart() -> None:
    camera = Camera(focal_mm=24, elevation_deg=20, bearing_deg=0)
    low = Subject("cloud", {"height_m": 1000, "wind_m_s": 10, "wind_from_deg": 270}, "low")
    high = Subject("cloud", {"height_m": 4000, "wind_m_s": 20, "wind_from_deg": 290}, "high")

    def answer(*wants: Want) -> object:
        return looks(LooksQuestion(camera, (low, high), wants))

    both = looks(LooksQuestion(camera, (low, high), (Want("cloud", "streaks"),)))
    windows = {
        window.id: (window.from_seconds, window.to_seconds) for window in both.windows if window.look == "streaks"
    }
    assert windows["low"] != windows["high"]
    assert both.aim is not None
    # One time for both: it begins with the slower, and ends with the faster.
    assert both.aim.from_seconds == max(start or 0 for start, _ in windows.values())
    assert both.aim.to_seconds == min(end or math.inf for _, end in windows.values())
    alone = looks(LooksQuestion(camera, (low, high), (Want("cloud", "streaks", "low"),))).aim
    assert alone is not None
    assert (alone.from_seconds, alone.to_seconds) == windows["low"]
    with pytest.raises(Refusal, match="Nothing of the kind"):
        answer(Want("cloud", "streaks", "gone"))
