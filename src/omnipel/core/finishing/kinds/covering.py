"""Flaps: over a slit, over an opening, over a pocket; how they are held down."""

from typing import Final

from omnipel.core.drafting.shapes import even, rectangle
from omnipel.core.finishing.kind import Put
from omnipel.core.job.finish import double_hem
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, worked

WEIGHT: Final = "its weight"
TOUCH: Final = "hook-and-loop"
SNAP: Final = "a snap"
HELD: Final = (WEIGHT, TOUCH, SNAP)


def lay_flap(put: Put, slit: Worked, way: str) -> None:
    """A flap that lies over a slit, wider than it on both sides, with hook-and-loop under it."""
    long, wide = slit + worked(tr("lap"), put.habit("flap lap")), worked(tr("flap"), put.habit("flap"))
    upright = way in ("down", "up")
    sizes = (wide, long) if upright else (long, wide)
    middle = reach_to_middle(put, slit.value)
    right, up = {"down": (0.0, -middle), "up": (0.0, middle), "right": (middle, 0.0), "left": (-middle, 0.0)}[way]
    put.lay(even(f"flap of {put.feature.name}", *sizes, put.allowance, refs.SEAM_ALLOWANCE), right, up)
    put.buy(tr("hook-and-loop"), long, note=tr("under the flap of {feature}", feature=put.name), size=put.habit("hook-and-loop"))


def reach_to_middle(put: Put, slit: float) -> float:
    """From the middle of an opening to the middle of the slit that runs out of it, mm."""
    low, high = put.local.min(axis=0), put.local.max(axis=0)
    return float(max(*high, *-low)) + slit / 2.0


def held_down(put: Put, name: str, wide: Worked, high: Worked, held: str, up: float = 0.0) -> None:
    """A flap sewn on along its top, its other sides hemmed, that hangs over something."""
    hem = double_hem(put.habit("hood hem"), put.habit("hood turn-under"))
    others = dict.fromkeys(("bottom", "right", "left"))
    put.lay(rectangle(name, wide, high, bottom=hem, right=hem, top=put.allowance, left=hem, sources=others), 0.0, up)
    note = tr("under the flap of {feature}", feature=put.name)
    if held == TOUCH:
        put.buy(tr("hook-and-loop"), wide, note=note, size=put.habit("hook-and-loop"))
    elif held == SNAP:
        put.buy(tr("snaps"), count=1, note=note)
