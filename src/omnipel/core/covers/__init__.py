"""The schemes: one module each. `SCHEMES` is the registry; a new scheme is a module and a line here."""

from typing import Final

from omnipel.core.covers import wall_and_lid
from omnipel.core.covers.scheme import Scheme

SCHEMES: Final[dict[str, Scheme]] = {scheme.key: scheme for scheme in (wall_and_lid.SCHEME,)}


def lawful_pairs() -> list[tuple[str, str]]:
    """Every form with every scheme that serves it, as keys."""
    return [(form, scheme.key) for scheme in SCHEMES.values() for form in scheme.forms]
