"""Motion: every vector, the windows of looks, the aim where wishes meet, and where they cannot."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.motion import cloud, foliage, people, stillness, trails, water
from jackstaff_core.motion.by_eye import DESCRIBED
from jackstaff_core.motion.looks import LooksQuestion, OwnLook, Want, looks, looks_at
from jackstaff_core.motion.subjects import KINDS, Camera, Subject
from jackstaff_core.words.refusal import Refusal

from .tables import facts, near

CAMERA = Camera(24.0, 36.0, 4.35, 20.0, 90.0)


@facts("cloud")
def test_cloud(row: dict[str, str]) -> None:
    sky = cloud.Sky(
        float(row["height"]), float(row["wind"]), float(row["psi"]) + 180, float(row["elevation"]), 0.0,
        float(row["focal"]), 36.0,
    )  # fmt: skip
    assert cloud.streak_share(sky, float(row["seconds"])) == near(row["share"], 5)
    assert cloud.seconds_for(sky, cloud.streak_share(sky, float(row["seconds"]))) == near(row["seconds"], 5)


@facts("water")
def test_water(row: dict[str, str]) -> None:
    assert water.residual_texture(float(row["seconds"]), float(row["tau"])) == near(row["residual"])


@facts("leaves")
def test_leaves(row: dict[str, str]) -> None:
    sway = float(row["amplitude"]), float(row["period"]), float(row["distance"]), float(row["focal"])
    pitch = float(row["pitch"]) / 1000
    assert foliage.blur_mm(float(row["seconds"]), *sway) / pitch == near(row["blur"])
    assert foliage.seconds_for(pitch, *sway) == near(row["one_px"])
    assert foliage.seconds_for(3 * pitch, *sway) == near(row["three_px"])


@facts("standing")
def test_standing_people(row: dict[str, str]) -> None:
    walkers = people.Walkers(standing=float(row["standing"]), stay_s=float(row["stay"]))
    share = float(row["share"])
    assert people.standing_ghosts(walkers, float(row["seconds"]), share) == near(row["ghosts"])
    if share < 1:
        assert people.worst_seconds(walkers, share) == near(row["worst"])


@pytest.mark.parametrize("stay", [10.0, 45.0, 300.0])
def test_frames_for_a_median_are_so_far_apart_that_nobody_stays_for_half_of_them(stay: float) -> None:
    frames = people.median(people.Walkers(standing=3, stay_s=stay))
    half = (frames.frames - 1) * frames.apart_seconds / 2
    assert math.exp(-half / stay) == pytest.approx(people.CERTAIN)


@pytest.mark.parametrize(
    ("found", "value"),
    [
        (people.body_contrast(people.Walkers(), 1), -0.289286),
        (people.body_contrast(people.Walkers(), 4), -0.0723214),
        (people.body_contrast(people.Walkers(), 15), -0.0192857),
        (people.body_contrast(people.Walkers(), 60), -0.00482143),
        (people.feet_contrast(4), -0.146475),
        (people.feet_contrast(15), -0.03906),
        (people.feet_contrast(60), -0.009765),
        (people.veil(0.5, 0.45, 1.4), -0.144643),
        (people.veil_texture(0.5, 0.45, 1.4, 60), 0.0264081),
        (trails.trail_stops(0.2, 14, 30), -11.0362),
        (trails.star_pixels(0, 25, 20, 4.35), 8.38174),
        (trails.star_pixels(60, 240, 24, 4.35), 48.2788),
        (2 / trails.star_pixels(0, 1, 24, 4.35), 4.97112),
        # On the equator the corner of a 14 mm frame moves 1 + (21.633 / 14)^2 times as fast; the pole turns its own.
        (trails.longest_star_pixels(0, 1, 14, 4.35, 21.633) / trails.star_pixels(0, 1, 14, 4.35), 3.387687),
        (trails.longest_star_pixels(90, 1, 14, 4.35, 21.633) / trails.star_pixels(0, 1, 14, 4.35), 1.545214),
        (trails.height_above_low(1, 4), 0.250492),
        (trails.height_above_low(3.10515, 4), 2),
        (trails.height_above_low(5, 4), 3.63671),
        (trails.rise(3.10515, 480, 4), 0.134796),
        (trails.rise(0.25, 480, 4), 0.0215132),
        # Between a low and a high of one's own: 0.4 m at 0 h, 3.1 m at 6.5 h.
        (0.4 + trails.height_above_low(1, 2.7, 6.5), 0.554634),
        (0.4 + trails.height_above_low(3.25, 2.7, 6.5), 1.75),
        (0.4 + trails.height_above_low(5, 2.7, 6.5), 2.76049),
        (water.sea_period(0.64, None), 4.0),
        (water.sea_period(0.64, 8.0), 8.0),
        (water.river_period(0.3, 1.0), 0.3),
    ],
)
def test_other_vectors(found: float, value: float) -> None:
    assert found == near(value)


BREEZE: dict[str, Any] = {"class": "breeze", "distance_m": 5}
CALM: dict[str, Any] = {"class": "calm", "distance_m": 30}


def windows(kind: str, camera: Camera = CAMERA, **given: Any) -> dict[str, list[float | None]]:
    found = looks(LooksQuestion(camera, (Subject(kind, given),)))
    return {window.look: [window.from_seconds, window.to_seconds] for window in found.windows}


def at(kind: str, seconds: float, **given: Any) -> Any:
    return looks_at(LooksQuestion(CAMERA, (Subject(kind, given),)), seconds)[0]


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


def test_leaves_are_sharp_and_soft_up_to_their_share_of_the_width() -> None:
    # 36 mm / 1500 and / 300 on the sensor, of 2 A f / d = 0.6 mm of sway.
    found = windows("leaves", amplitude_m=0.05, period_s=1.5, distance_m=4)
    assert found["sharp"] == pytest.approx([0, 1.5 / math.pi * math.asin(0.024 / 0.6)])
    assert found["soft"] == pytest.approx([found["sharp"][1], 1.5 / math.pi * math.asin(0.12 / 0.6)])


def test_a_place_is_empty_once_those_who_stood_about_have_gone() -> None:
    walking = windows("people")
    standing = windows("people", standing=4, stay_s=45)
    # Four who stay 45 s on average: half a person is left after nineteen minutes, by the queue's own sum.
    gone = standing["gone"][0] or 0
    assert gone == pytest.approx(1155, rel=0.01)
    assert people.standing_ghosts(people.Walkers(standing=4, stay_s=45), gone) == pytest.approx(0.5, abs=1e-6)
    assert standing["blurred"] == walking["blurred"]
    # Those who pass have their own windows, as if nobody stood about.
    assert standing["ghosts"] == walking["ghosts"]
    assert standing["walkers gone"] == [pytest.approx(walking["gone"][0], rel=1e-5), gone]
    assert at("people", 10, standing=4, stay_s=45).look == "ghosts"
    assert at("people", 60, standing=4, stay_s=45).look == "walkers gone"
    assert at("people", gone + 1, standing=4, stay_s=45).look == "gone"
    # So few that nobody is expected to be seen change nothing.
    assert windows("people", standing=0.2, stay_s=45) == walking


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


def test_every_word_that_describes_a_subject_is_one_the_models_take() -> None:
    assert {each.kind for each in DESCRIBED} == set(KINDS)
    for each in DESCRIBED:
        for aspect in each.aspects:
            looked = [windows(each.kind, CAMERA, **{**SUBJECTS[each.kind], **way.facts}) for way in aspect.ways]
            assert len(looked) >= 3
            # Each number that a word replaces would have had the last word itself: with it, all ways look alike.
            for name in aspect.instead:
                stood = {name: 800.0 if name == "height_m" else 2.0}
                alike = [
                    windows(each.kind, CAMERA, **{**SUBJECTS[each.kind], **way.facts, **stood}) for way in aspect.ways
                ]
                assert any(entry != other for entry, other in zip(alike, looked, strict=True)), name
    # Deeper water, more wind and nearer leaves: each word moves the windows its own way.
    (waves,) = next(each.aspects for each in DESCRIBED if each.kind == "sea")
    periods = [windows("sea", CAMERA, **way.facts)["fog"][0] or 0 for way in waves.ways]
    assert periods == sorted(periods)


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


SUBJECTS: dict[str, dict[str, Any]] = {
    "sea": {"height_m": 0.7},
    "river": {"texture_m": 0.3, "flow_m_s": 1.5},
    "cloud": {"class": "low", "wind_m_s": 8, "wind_from_deg": 200},
    "leaves": {"class": "breeze", "distance_m": 4},
    "people": {"standing": 3, "stay_s": 60},
    "vehicles": {"state": "queueing"},
    "still_person": {"pose": "sitting", "distance_m": 6},
    "crowd": {"rate_per_s": 0.4},
    "lamps": {"size_m": 0.2, "speed_m_s": 14},
    "stars": {"declination_deg": 40},
    "tide": {"range_m": 3, "hours_from_low": 2},
    "spin": {"period_s": 12},
}


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


@given(st.floats(0, 360), st.floats(3, 60))
def test_the_best_bearing_sees_the_cloud_go_furthest_and_is_the_lower_of_two(wind: float, elevation: float) -> None:
    def share(bearing: float) -> float:
        return cloud.streak_share(cloud.Sky(1000, 8, wind, elevation, bearing, 24, 36), 30)

    bearing, best = cloud.best_bearing(cloud.Sky(1000, 8, wind, elevation, 0, 24, 36), 30)
    shares = {turn: share(turn) for turn in range(0, 360, 10)}
    assert best == max(shares.values())
    assert bearing == min(turn for turn, found in shares.items() if found == best)


@pytest.mark.parametrize(
    ("stay", "words"),
    [
        (0.74, "hardly anybody standing stays"),
        (0.76, "about 1 standing stays"),
        (1.4, "about 1 standing stays"),
        (1.6, "about 2 standing stay"),
    ],
)
def test_how_many_who_stand_about_are_seen_is_said_in_whole_people(stay: float, words: str) -> None:
    of_each = people.standing_ghosts(people.Walkers(standing=1, stay_s=60), 225)
    assert at("people", 225, standing=stay / of_each, stay_s=60).text == f"walkers are gone, {words}"


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
    assert cloud.looked_at(0, 24, 36) == pytest.approx(math.degrees(math.atan(6 / 24)))


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


ENDS: dict[str, tuple[float, float]] = {
    "sea.height_m": (0.01, 20), "sea.period_s": (0.3, 30),
    "river.texture_m": (0.01, 10), "river.flow_m_s": (0.02, 15),
    "cloud.height_m": (50, 20_000), "cloud.wind_m_s": (0, 100), "cloud.wind_from_deg": (-360, 720),
    "leaves.amplitude_m": (0.0001, 5), "leaves.period_s": (0.05, 30), "leaves.distance_m": (0.1, 10_000),
    "people.width_m": (0.05, 20), "people.speed_m_s": (0.05, 60), "people.across": (0.02, 1),
    "people.standing": (0, 10_000), "people.stay_s": (1, 86_400),
    "vehicles.length_m": (0.5, 100), "vehicles.speed_m_s": (0.05, 100), "vehicles.standing": (0, 10_000),
    "vehicles.stay_s": (1, 86_400),
    "still_person.distance_m": (0.3, 10_000),
    "crowd.rate_per_s": (0.001, 100), "crowd.width_m": (0.05, 20), "crowd.speed_m_s": (0.05, 60),
    "lamps.size_m": (0.001, 10), "lamps.speed_m_s": (0.01, 100),
    "stars.declination_deg": (-90, 90),
    "tide.range_m": (0.01, 20), "tide.hours_from_low": (-14, 14), "tide.hours_low_to_high": (2, 14),
    "spin.period_s": (0.01, 86_400),
}  # fmt: skip
"""How little and how much of each fact is answered."""


@pytest.mark.parametrize("fact", ENDS)
def test_a_fact_is_answered_from_one_end_to_the_other_and_refused_beyond(fact: str) -> None:
    kind, name = fact.split(".")
    low, high = ENDS[fact]
    for end in (low, high):
        found = windows(kind, CAMERA, **{**SUBJECTS[kind], name: end})
        assert [side for sides in found.values() for side in sides if side is not None and side < 0] == []
    for beyond in (low - 0.001 * abs(low) - 1e-6, high * 1.001):
        with pytest.raises(Refusal, match=name) as refused:
            windows(kind, CAMERA, **{**SUBJECTS[kind], name: beyond})
        assert refused.value.field == f"subjects.0.{name}"
        assert f"from {low:g} to {high:g}" in refused.value.instead


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
