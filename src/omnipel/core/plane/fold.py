"""A line by which something is folded in two."""

import math
from dataclasses import dataclass

import numpy as np
import shapely

from omnipel.core.plane.curves import Points


@dataclass(frozen=True, slots=True)
class Fold:
    """The line that lies on the fold: a point on it and its direction, radians. The half that is marked out lies to the left of it."""

    at: tuple[float, float]
    heading: float

    @property
    def _across(self) -> Points:
        """Towards the half that is marked out, a unit vector."""
        return np.array((-math.sin(self.heading), math.cos(self.heading)))

    def side(self, points: Points) -> Points:
        """How far points `(n, 2)` lie inside of the half that is marked out, mm; less than 0 in the other one."""
        inside: Points = (points - self.at) @ self._across
        return inside

    def mirrored(self, points: Points) -> Points:
        """Points as they lie in the other half, `(n, 2)`."""
        turned: Points = points - 2.0 * self.side(points)[:, None] * self._across
        return turned

    def half(self, reach: float) -> shapely.Polygon:
        """The half plane that is marked out, as far as `reach` from the line's point."""
        along = np.array((math.cos(self.heading), math.sin(self.heading))) * reach
        low, up = np.array(self.at), self._across * reach
        return shapely.Polygon([low - along, low + along, low + along + up, low - along + up])
