"""What something on a panel asks: only what changes it."""

from collections.abc import Mapping

from omnipel.core.covers.fields import FEATURE_FIELDS
from omnipel.core.finishing.placing import ROWS
from omnipel.core.job.document import Feature, FeatureKind, Shape
from omnipel.core.words.phrases import Phrase, tr


def asked_of(feature: Feature) -> Mapping[str, Phrase]:
    """What there is to decide about something on a panel, as it stands, and what that is called; its name and its panel go without saying."""
    kind = feature.kind
    row = kind in ROWS and kind is not FeatureKind.CORD_EXIT  # as many as one likes
    is_round = kind is FeatureKind.PORT and feature.shape is Shape.ROUND
    asked = {
        "from_centre": True,
        "from_top": kind is not FeatureKind.HANDLE,  # caught in an edge
        "width": not row or feature.parts > 1,
        "height": kind not in ROWS and kind is not FeatureKind.HANDLE and not is_round,
        "depth": kind is FeatureKind.POCKET,
        "shape": kind is FeatureKind.PORT,
        "slit_to": kind is FeatureKind.PORT,
        "flap": kind is FeatureKind.PORT and bool(feature.slit_to),
        "edge": kind is FeatureKind.HANDLE,
        "parts": row or kind is FeatureKind.POCKET,
    }
    wide = tr("across") if is_round else tr("from first to last") if row else FEATURE_FIELDS["width"]
    called = {**FEATURE_FIELDS, "width": wide, "depth": tr("depth, 0 for flat")}
    return {name: called[name] for name, there in asked.items() if there}
