"""The picture of the open job, made once for each of its drafts and shown by several stations."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from omnipel.core.draft import Draft
    from omnipel.core.forms.body import Body
    from omnipel.core.pictures.scene import Scene


class Drafting(Protocol):
    """What a picture is made from."""

    @property
    def draft(self) -> Draft | None: ...
    @property
    def body(self) -> Body | None: ...


class Pictures:
    """Pictures of what is drafted."""

    def __init__(self, of: Drafting) -> None:
        self.of = of
        self.made: dict[tuple[bool, bool], tuple[Draft | None, Scene]] = {}

    def ready(self, *, alone: bool = False) -> bool:
        """Whether the picture has been made with all that is seen on it."""
        kept = self.made.get((alone, False))
        return kept is not None and kept[0] is self.of.draft

    def cover(self, *, alone: bool = False, plain: bool = False) -> Scene:
        """The sewn cover on its object, or `alone`; `plain`, made in a blink, while the other is not ready; without a cover the object."""
        return self._made(alone=alone, plain=plain and not self.ready(alone=alone))

    def small(self) -> Scene:
        """The same for a small picture: plain whatever is ready."""
        return self._made(alone=False, plain=True)

    def _made(self, *, alone: bool, plain: bool) -> Scene:
        from omnipel.core.draft import Drafted  # numbers and geometry are loaded when a job is opened
        from omnipel.core.pictures.scene import Scene
        from omnipel.core.pictures.worn import uncovered, worn

        draft, key = self.of.draft, (alone, plain)
        kept = self.made.get(key)
        if kept is None or kept[0] is not draft:
            if isinstance(draft, Drafted):
                scene = worn(draft.cover, None if alone else draft.body, draft.job.thing.sticks_out, plain=plain)
            else:
                body = self.of.body
                scene = uncovered(body) if body is not None else Scene(())
            kept = self.made[key] = draft, scene
        return kept[1]
