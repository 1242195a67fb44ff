"""The picture of the open job, made once for each of its drafts and shown by several stations."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final, Protocol

if TYPE_CHECKING:
    from omnipel.core.draft import Draft, Drafted
    from omnipel.core.forms.body import Body
    from omnipel.core.pictures.scene import Scene
    from omnipel.core.pictures.seen import Seen
    from omnipel.core.pictures.view import View


MOST: Final = 8
"""So many pictures are kept: of each draft a plain one and the whole, on the object or alone."""


class Drafting(Protocol):
    """What a picture is made from."""

    @property
    def draft(self) -> Draft | None: ...
    @property
    def body(self) -> Body | None: ...


@dataclass(frozen=True, slots=True, eq=False)
class Asked:
    """A picture with all that is seen on it, to be made from a side: of a cover on its object, or `alone`."""

    draft: Drafted
    alone: bool
    view: View


@dataclass(frozen=True, slots=True, eq=False)
class Made:
    """What was asked for, made."""

    asked: Asked
    seen: Seen


def made(asked: Asked) -> Made:
    """Make a picture: all that takes long, so that it need only be painted."""
    from omnipel.core.pictures.seen import Seen
    from omnipel.core.pictures.worn import worn

    draft = asked.draft
    seen = Seen(worn(draft.cover, None if asked.alone else draft.body, draft.job.thing.sticks_out), asked.view)
    seen.drawing()
    return Made(asked, seen)


class Pictures:
    """Pictures of what is drafted, of the last few drafts."""

    def __init__(self, of: Drafting) -> None:
        self.of = of
        self.made: deque[tuple[object, bool, bool, Scene]] = deque(maxlen=MOST)

    @property
    def shown(self) -> object:
        """What a picture shows: the cover, however its draft is advised on; without one what is known of the object."""
        from omnipel.core.draft import Drafted  # numbers and geometry are loaded when a job is opened

        return self.of.draft.cover if isinstance(self.of.draft, Drafted) else self.of.draft

    def known(self, *, alone: bool, plain: bool) -> Scene | None:
        """The picture, if it has been made."""
        what = self.shown
        return next((scene for shown, *how, scene in self.made if shown is what and how == [alone, plain]), None)

    def ready(self, *, alone: bool = False) -> bool:
        """Whether the picture has been made with all that is seen on it."""
        return self.known(alone=alone, plain=False) is not None

    def keep(self, whole: Made) -> bool:
        """A picture has been made behind the window; whether it is of the draft as it stands."""
        self.made.append((whole.asked.draft.cover, whole.asked.alone, False, whole.seen.scene))
        return whole.asked.draft.cover is self.shown

    def cover(self, *, alone: bool = False, quick: bool = False) -> Scene:
        """The sewn cover on its object, or `alone`; `quick`, to be shown in a blink while the other is not ready; without a cover the object."""
        if not quick or self.ready(alone=alone):
            return self._made(alone=alone, plain=False)
        return replace(self._made(alone=alone, plain=True), patient=False)

    def small(self) -> Scene:
        """The same for a small picture: plain whatever is ready."""
        return self._made(alone=False, plain=True)

    def _made(self, *, alone: bool, plain: bool) -> Scene:
        from omnipel.core.draft import Drafted  # as above
        from omnipel.core.pictures.scene import Scene
        from omnipel.core.pictures.worn import uncovered, worn

        draft, scene = self.of.draft, self.known(alone=alone, plain=plain)
        if scene is None:
            if isinstance(draft, Drafted):
                scene = worn(draft.cover, None if alone else draft.body, draft.job.thing.sticks_out, plain=plain)
            else:
                body = self.of.body
                scene = uncovered(body) if body is not None else Scene(())
            self.made.append((self.shown, alone, plain, scene))
        return scene
