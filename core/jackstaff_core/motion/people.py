"""What is left of people after a time.

    walker    contrast = c w / (v T)                      w width [m], v speed across the view [m/s], c = -0.9 (dark)
    feet      contrast = c 0.62 * 1.05 / T                planted 62 % of a 1.05 s step
    crowd     veil = c q w / v, whatever T;  its unevenness = |c| (w/v) sqrt(q/T)          q people a second
    standing  E = n exp(-s T/mu) (1 + (1-s) T/mu)         n on average, mean stay mu; a ghost from a share s of T on
              most ghosts at T = mu (1-2s) / (s (1-s)); gone once E stays below half a person

Who passes is judged by contrast, gone below 2 %; who stands by a share of the time, a ghost from 20 % on. One limit
for both does not serve: at 2 % of the time four people who stay 45 s would show for 4.5 h, though a share as small as
that is lost in the ground's texture; at 20 % a walker would be gone after 1.6 s, though a row of them still streaks.

Source: time shares; gait after Perry; M/G/infinity queue for stays. Limits: contrast against an even ground.
Verdict: class.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

DARK = -0.9
"""Contrast of a dark figure against a bright ground; - is darker."""
STEP_SECONDS, PLANTED = 1.05, 0.62
GHOST_SHARE = 0.2
"""Whoever stays this share of the exposure is seen."""
HALF_A_PERSON = 0.5
"""Fewer than this expected to stand long enough is an empty place."""
CLASSES = (("blurred", 0.1), ("ghosts", 0.02), ("gone", 0.0))
"""Looks with the size of contrast that each goes down to."""
CERTAIN = 0.05
"""Share of stays that may outlast half of a median's span."""


@dataclass(frozen=True, slots=True)
class Walkers:
    """People about: body width [m], speed [m/s], share of it across the view, standing on average, mean stay [s]."""

    width_m: float = 0.45
    speed_m_s: float = 1.4
    across: float = 1.0
    standing: float = 0.0
    stay_s: float = 60.0

    @property
    def across_m_s(self) -> float:
        """Speed across the view [m/s]."""
        return self.speed_m_s * self.across


@dataclass(frozen=True, slots=True)
class Median:
    """Shorter frames whose median is empty: how many, and how far apart [s]."""

    frames: int
    apart_seconds: float


def body_contrast(walkers: Walkers, seconds: float) -> float:
    """Return the contrast of a walker's body, - is darker than the ground.

    Parameters
    ----------
    walkers : Walkers
        How wide, how fast, how many stand and how long.
    seconds : float
        Exposure [s].
    """
    return DARK * min(1.0, walkers.width_m / (walkers.across_m_s * seconds))


def seconds_for(walkers: Walkers, contrast: float) -> float:
    """Return the time [s] at which a walker has faded to this size of contrast.

    Parameters
    ----------
    walkers : Walkers
        How wide, how fast, how many stand and how long.
    contrast : float
        Size that is put up with, above 0 to 1.
    """
    return -DARK * walkers.width_m / (walkers.across_m_s * contrast)


def feet_contrast(seconds: float) -> float:
    """Return the contrast of a planted foot.

    Parameters
    ----------
    seconds : float
        Exposure [s].
    """
    return DARK * min(1.0, PLANTED * STEP_SECONDS / seconds)


def standing_ghosts(walkers: Walkers, seconds: float, share: float = GHOST_SHARE) -> float:
    """Return the expected number of people who stood long enough to be seen.

    Parameters
    ----------
    walkers : Walkers
        How wide, how fast, how many stand and how long.
    seconds : float
        Exposure [s].
    share : float
        Of the exposure from which somebody who stays is seen, above 0 and below 1/2.
    """
    stays = seconds / walkers.stay_s
    return walkers.standing * math.exp(-share * stays) * (1 + (1 - share) * stays)


def worst_seconds(walkers: Walkers, share: float = GHOST_SHARE) -> float:
    """Return the time [s] at which most ghosts are expected; 0 when they only ever grow fewer.

    Parameters
    ----------
    walkers : Walkers
        How wide, how fast, how many stand and how long.
    share : float
        Of the exposure from which somebody who stays is seen, above 0 and below 1/2.
    """
    return max(0.0, walkers.stay_s * (1 - 2 * share) / (share * (1 - share)))


def standing_gone(walkers: Walkers, share: float = GHOST_SHARE) -> float:
    """Return the time [s] from which half a person at most is still seen standing; 0 when there never are more.

    Parameters
    ----------
    walkers : Walkers
        How wide, how fast, how many stand and how long.
    share : float
        Of the exposure from which somebody who stays is seen, above 0 and below 1/2.
    """
    worst = worst_seconds(walkers, share)
    if standing_ghosts(walkers, worst, share) <= HALF_A_PERSON:
        return 0.0
    # Past its highest point the expectation only falls: bracket, then bisect.
    low = high = max(worst, walkers.stay_s)
    while standing_ghosts(walkers, high, share) > HALF_A_PERSON:
        low, high = high, 2 * high
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if standing_ghosts(walkers, middle, share) > HALF_A_PERSON else (low, middle)
    return high


def median(walkers: Walkers) -> Median:
    """Return the frames enough that hardly anybody covers a spot in half of them: span = 2 mu ln(1/0.05)."""
    span = 2 * walkers.stay_s * math.log(1 / CERTAIN)
    frames = 9
    return Median(frames, span / (frames - 1))


def veil(rate_per_s: float, width_m: float, speed_m_s: float) -> float:
    """Return the mean contrast of a steady crowd; it does not depend on the time.

    Parameters
    ----------
    rate_per_s : float
        People who pass [1/s].
    width_m, speed_m_s : float
        Of a walker [m, m/s].
    """
    return DARK * min(1.0, rate_per_s * width_m / speed_m_s)


def veil_texture(rate_per_s: float, width_m: float, speed_m_s: float, seconds: float) -> float:
    """Return how uneven that veil still is.

    Parameters
    ----------
    rate_per_s : float
        People who pass [1/s].
    width_m, speed_m_s : float
        Of a walker [m, m/s].
    seconds : float
        Exposure [s].
    """
    return -DARK * width_m / speed_m_s * math.sqrt(rate_per_s / seconds)
