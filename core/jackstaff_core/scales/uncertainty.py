"""One honest plus-or-minus for an answer, in stops.

A 95 % half-width: twice the root of the summed variances of everything that is not known
exactly. A dial shows the nearest rung, so a reading carries a uniform quantisation of one
step, sd = step/sqrt(12); an unmeasured glass is sold to about a third of a stop, sd 0.17.

Source: elementary error propagation. Limits: parts independent, their errors small against a stop. Verdict: estimate.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from .ladders import Step

UNMEASURED_GLASS_SD = 0.17
"""Sd of a glass known by its label alone [stops]."""


def reading_sd(step: Step) -> float:
    """Return the sd of a reading shown in steps [stops]: 0.096 third, 0.144 half, 0.289 full."""
    return 1 / step.per_stop / math.sqrt(12)


def sure_within(sds: Iterable[float]) -> float:
    """Twice the root of the summed squares [stops]."""
    return 2 * math.sqrt(sum(sd * sd for sd in sds))
