"""The schemes: one module each. `SCHEMES` is the registry; a new scheme is a module and a line here."""

from typing import Any, Final

from omnipel.core.covers.scheme import Scheme
from omnipel.core.covers.schemes import (
    bands,
    cap,
    drape,
    envelope,
    five_panels,
    gathered_halves,
    gores,
    one_piece,
    padded_case,
    plain_bag,
    saddle_and_ends,
    sheet,
    sleeve_tied,
    slip_sleeve,
    tapered_tub,
    traced_ends,
    wall_and_lid,
    wall_and_top,
    wheel_both_faces,
    wheel_cap,
    wrap,
)
from omnipel.core.forms import FORMS
from omnipel.core.forms.form import Form

SCHEMES: Final[dict[str, Scheme]] = {
    scheme.key: scheme
    for scheme in (
        wall_and_lid.SCHEME,
        gathered_halves.SCHEME,
        cap.SCHEME,
        wheel_both_faces.SCHEME,
        wheel_cap.SCHEME,
        tapered_tub.SCHEME,
        gores.SCHEME,
        bands.SCHEME,
        sleeve_tied.SCHEME,
        saddle_and_ends.SCHEME,
        wall_and_top.SCHEME,
        one_piece.SCHEME,
        five_panels.SCHEME,
        traced_ends.SCHEME,
        drape.SCHEME,
        padded_case.SCHEME,
        sheet.SCHEME,
        slip_sleeve.SCHEME,
        envelope.SCHEME,
        wrap.SCHEME,
        plain_bag.SCHEME,
    )
}


def schemes_for(form: Form) -> list[Scheme]:
    """The schemes that serve a form."""
    return [scheme for scheme in SCHEMES.values() if scheme.serves_form(form)]


def following(form: Form, body: Any) -> list[Scheme]:
    """The schemes that serve a form and can follow a measured body of it."""
    return [scheme for scheme in schemes_for(form) if body is None or scheme.follows(body)]


def lawful_pairs() -> list[tuple[str, str]]:
    """Every form with every scheme that serves it, as keys."""
    return [(form.key, scheme.key) for form in FORMS.values() for scheme in schemes_for(form)]
