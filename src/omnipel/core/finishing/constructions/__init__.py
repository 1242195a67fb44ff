"""The constructions of seams: one module each. `CONSTRUCTIONS` is the registry; a new one is a module and a line here."""

from omnipel.core.finishing.constructions import bound, felled, fuller, lapped, piped, plain, zipped
from omnipel.core.finishing.constructions.construction import Construction

CONSTRUCTIONS: dict[str, Construction] = {
    construction.key: construction
    for construction in (
        plain.CONSTRUCTION,
        felled.SEMI_FLAT,
        felled.FLAT,
        lapped.CONSTRUCTION,
        bound.CONSTRUCTION,
        piped.CONSTRUCTION,
        zipped.CONSTRUCTION,
        fuller.GATHERED,
        fuller.EASED_ON,
    )
}
"""By their names in job files."""


def schools() -> tuple[str, ...]:
    """What all seams of a job may be sewn as: what makes neither side fuller."""
    return tuple(key for key, construction in CONSTRUCTIONS.items() if construction.fuller is None)
