"""The measured object: one module per form. `FORMS` is the registry; a new form is a module and a line here."""

from typing import Final

from omnipel.core.forms import drum
from omnipel.core.forms.body import Form

FORMS: Final[dict[str, Form]] = {form.key: form for form in (drum.FORM,)}
