"""Flash in sunlight at a wide aperture: the glass that brings the shutter down to the sync time.

    stops = max(0, log2(t_sync / t_wide))

Against the same aperture without glass the flash needs that many stops more; against stopping down by as many,
the same.
Source: definition of the stop. Verdict: computed.
"""

from __future__ import annotations

import math


def stops_to_sync(wide_seconds: float, sync_seconds: float) -> float:
    """Stops of glass that make the sync time the right one at this aperture."""
    return max(0.0, math.log2(sync_seconds / wide_seconds))
