"""How water looks after a time: counted in the waves that are averaged.

    tau = 5.0 sqrt(height)          wind sea of unknown period, after Pierson and Moskowitz [s, m]
    tau = texture / flow            river [s, m, m/s]
    residual texture = 1 / sqrt(1 + T / tau)        a conservative index, not a measurement

Source: averaging variance after Taylor 1922. Limits: real trains average out two to six times faster, foam slower.
White water, from 2 m/s on, keeps the shape of what it falls over: a veil from 2.5 tau on, however long, never a
mirror. Verdict: class. The boundaries (multiples of tau) are taste, the same for everybody until edited.
"""

from __future__ import annotations

import math

from ..words.refusal import within

CLASSES = (("crisp", 0.05), ("texture", 0.5), ("veil", 5.0), ("mirror", 30.0), ("fog", math.inf))
"""Looks with the multiple of tau each goes up to."""
FALLS_FROM_M_S = 2.0
FALLS = (("crisp", 0.05), ("texture", 2.5), ("veil", math.inf))
"""Water this fast is white: it breaks at the same stones again and again, so it turns to a veil and never smooth."""


def sea_period(height_m: float, period_s: float | None) -> float:
    """Return the wave time [s] of a sea: the one tapped or timed, else the wind sea's own, 5 sqrt(H).

    Parameters
    ----------
    height_m : float
        Crest to trough, 0.01 to 20 m.
    period_s : float | None
        What somebody timed, 0.3 to 30 s.

    Raises
    ------
    Refusal
        One of them out of bounds.
    """
    within("height_m", height_m, 0.01, 20, "m")
    if period_s is not None:
        return within("period_s", period_s, 0.3, 30, "s")
    return 5.0 * math.sqrt(height_m)


def river_period(texture_m: float, flow_m_s: float) -> float:
    """Return the wave time [s] of running water: how long its texture takes to pass.

    Parameters
    ----------
    texture_m : float
        Size of what shows on it, 0.01 to 10 m.
    flow_m_s : float
        Speed, 0.02 to 15 m/s.

    Raises
    ------
    Refusal
        One of them out of bounds.
    """
    return within("texture_m", texture_m, 0.01, 10, "m") / within("flow_m_s", flow_m_s, 0.02, 15, "m/s")


def residual_texture(seconds: float, period: float) -> float:
    """Return the share of the waves' contrast that is left, at most.

    Parameters
    ----------
    seconds : float
        Exposure [s].
    period : float
        Of the waves [s].
    """
    return 1 / math.sqrt(1 + seconds / period)
