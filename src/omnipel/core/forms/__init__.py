"""The measured object: one module per form. `FORMS` is the registry; a new form is a module and a line here."""

from typing import Final

from omnipel.core.forms import bottle, box, cap_body, case, drum, flat, slab, traced, tub, turned, wheel
from omnipel.core.forms.form import Form

FORMS: Final[dict[str, Form]] = {
    form.key: form
    for form in (
        drum.FORM,
        cap_body.FORM,
        wheel.FORM,
        tub.FORM,
        turned.FORM,
        box.FORM,
        traced.FORM,
        flat.FORM,
        slab.FORM,
        bottle.FORM,
        case.FORM,
    )
}
