"""From where a picture in space is seen."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray


@dataclass(frozen=True, slots=True)
class View:
    """Where a picture is seen from, radians: the viewer stands in front (−y), turned by `yaw` about the vertical and looking down by `pitch`."""

    yaw: float = 0.5
    pitch: float = 0.42

    def matrix(self) -> NDArray[np.float64]:
        """Rows: screen x, screen y, towards the viewer; `(3, 3)`."""
        cy, sy, cp, sp = math.cos(self.yaw), math.sin(self.yaw), math.cos(self.pitch), math.sin(self.pitch)
        return np.array([[cy, sy, 0.0], [-sy * sp, cy * sp, cp], [sy * cp, -cy * cp, sp]])


STEEP = 1.5
"""Nothing is looked at from further above or below, radians."""


def facing(normal: NDArray[np.float64]) -> View:
    """Where one looks straight at a face from, by its normal."""
    return View(
        math.atan2(float(normal[0]), -float(normal[1])), min(STEEP, max(-STEEP, math.asin(min(1.0, max(-1.0, float(normal[2]))))))
    )
