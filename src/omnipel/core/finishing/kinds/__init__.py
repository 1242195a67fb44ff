"""The kinds of things that are put on a cover: one module for each family. `KINDS` is the registry; a new one is a module and a line here."""

from omnipel.core.finishing.kind import Kind
from omnipel.core.finishing.kinds import carrying, flap, label, letters, pocket, port, rows, slit, strips, ties, vent, window

KINDS: dict[str, Kind] = {
    kind.key: kind
    for kind in (
        port.PORT,
        vent.VENT,
        window.WINDOW,
        slit.SLIT,
        pocket.POCKET,
        flap.FLAP,
        carrying.PATCH,
        carrying.HANDLE,
        carrying.STRAP,
        carrying.LOOP,
        carrying.D_RING,
        ties.TIES,
        rows.SNAPS,
        rows.GROMMETS,
        rows.CORD_EXIT,
        rows.DRAIN,
        strips.HOOK_AND_LOOP,
        strips.ZIP,
        label.LABEL,
        letters.LETTERS,
    )
}
"""By their names in job files."""
