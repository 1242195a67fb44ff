"""What cloths are called that nobody has called anything yet: these names are said in one's language, a person's own stay as they are."""

from typing import Final

from omnipel.core.words.phrases import Phrase, tr

ACRYLIC: Final = tr("solution-dyed acrylic")
COATED: Final = tr("coated canvas")
WASHABLE: Final = tr("washable cotton")
LINING: Final = tr("lining cotton")
BEGUN_WITH: Final[tuple[Phrase, ...]] = (ACRYLIC, COATED, WASHABLE, LINING)
