"""What the window knows of how the open job's cover came out: its try-ons, the sizes to measure, why; and what the shop has learnt of all jobs."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

from omnipel import __version__
from omnipel.core.draft import Drafted
from omnipel.core.job.findings import Act, Change, Finding
from omnipel.core.job.trying import Stage, TryOn
from omnipel.core.learning.applying import applied, finding_of, made_already
from omnipel.core.learning.estimates import Experience, experience
from omnipel.core.learning.evidence import Lesson
from omnipel.core.learning.righting import Righting, righting
from omnipel.core.learning.sizes import Size, by_key, sizes, used_cloth
from omnipel.core.learning.why import Why, altered_by, as_altered, why
from omnipel.core.sewing.making import Making
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, term, tr
from omnipel.shop.kin import of_thing
from omnipel.shop.lessons import LEARNT, Ruled, Told, keep, known, lesson_of, ruled, ruled_text, tried

if TYPE_CHECKING:
    from omnipel.bench.session import Session
    from omnipel.core.job.document import Job


@dataclass(frozen=True)
class _Known:
    """What was worked out of a cover, for a shop that knows so much."""

    cover: object
    learnt: Experience
    tries: tuple[TryOn, ...]
    making: Making
    why: Why
    sizes: dict[str, Size]


class Fitting(QObject):
    """The open job's try-ons, and what all jobs tell."""

    learnt = Signal()
    """What the shop has learnt is another."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.session = session
        self.experience = Experience()
        self.ruled: Ruled | None = None
        self.chosen = ""
        self.seen: object = None
        self.made: _Known | None = None
        self.asked: dict[Stage, list[Size]] = {}
        self.put: tuple[_Known, object, Righting] | None = None
        self.waiting: list[Told] = []
        self.lessons: dict[int, tuple[int, Lesson]] = {}
        session.drafted.connect(self.refresh)
        session.opened.connect(self._opened)

    # The open job

    @property
    def making(self) -> Making | None:
        """The cover as it was drafted; None while nothing is."""
        return self._known.making if self._known is not None else None

    @property
    def why(self) -> Why | None:
        """What came of it."""
        return self._known.why if self._known is not None else None

    @property
    def sizes(self) -> dict[str, Size]:
        """Every size that may have been measured, by its key."""
        return self._known.sizes if self._known is not None else {}

    @property
    def _known(self) -> _Known | None:
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return None
        told, made = (draft.cover, self.experience, draft.job.tries), self.made
        if made is None or made.cover is not told[0] or made.learnt is not told[1] or made.tries != told[2]:
            making = made.making if made is not None and made.cover is draft.cover else Making(draft)
            of_shop = self.experience.known(draft.job)
            same = made is not None and made.cover is draft.cover and made.learnt is self.experience
            found = made.sizes if made is not None and same else by_key(making, of_shop)
            if not same:
                self.asked = {}
            self.made = _Known(*told, making, why(making, draft.job.tries, of_shop), found)
        return self.made

    @property
    def righting(self) -> Righting | None:
        """What can be done about it."""
        known = self._known
        if known is None:
            return None
        if self.put is None or self.put[0] is not known or self.put[1] != known.making.drafted.cover.altered:
            self.put = known, known.making.drafted.cover.altered, righting(known.making, known.why)
        return self.put[2]

    def to_measure(self, stage: Stage) -> list[Size]:
        """What is asked for at a stage, the most telling first; what was measured besides comes after."""
        making = self.making
        if making is None:
            return []
        if stage not in self.asked:
            self.asked[stage] = sizes(making, stage, self.experience.known(making.drafted.job))
        used = self.session.cloth.lay("outer") if stage is Stage.FINISHED else None
        return [*self.asked[stage], *([used_cloth(used.used.value)] if used is not None and used.placed else [])]

    def sizes_at(self, one: TryOn) -> dict[str, Size]:
        """The sizes of a try-on, the most telling first, as they should have been after what was altered before it; then what was measured besides."""
        making = self.making
        if making is None:
            return {}
        done = altered_by(making, self.tries, one)
        asked = {size.key: size for size in self.to_measure(one.stage)}
        asked |= {key: self.sizes[key] for key in one.made if key not in asked and key in self.sizes}
        after = {key: as_altered(old, done) for key, old in asked.items()}
        return {key: size or asked[key] for key, size in after.items() if size is not None or key in one.made}

    @property
    def tries(self) -> Sequence[TryOn]:
        """The open job's try-ons, in order."""
        return self.session.job.tries if self.session.job is not None else ()

    @property
    def current(self) -> TryOn | None:
        """The one that is looked at: that which was chosen, else the last."""
        return next((one for one in self.tries if one.id == self.chosen), self.tries[-1] if self.tries else None)

    def choose(self, id_: str) -> None:
        """Look at a try-on."""
        self.chosen = id_

    def begin(self) -> bool:
        """A try-on is begun: the next stage that has none, else one after use."""
        had = {one.stage for one in self.tries}
        stage = next((s for s in (Stage.FIRST, Stage.FINISHED) if s not in had), Stage.USED)
        one = TryOn(stage=stage, day=date.today().isoformat())
        if not self.session.change(tr("try-on: {stage}", stage=term(stage)), Change(refs.try_on(), one, act=Act.ADD)):
            return False
        self.chosen = self.tries[-1].id
        return True

    def set(self, part: str, value: Any, reason: Phrase) -> bool:
        """Change something of the try-on that is looked at."""
        one = self.current
        return one is not None and self.session.set(refs.try_on(one.id, part), value, reason)

    def take_away(self) -> bool:
        """Take the try-on away that is looked at."""
        one = self.current
        reason = tr("try-on taken away")
        return one is not None and self.session.change(reason, Change(refs.try_on(one.id), act=Act.REMOVE))

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What was learnt that a job which is not made yet can allow for."""
        draft, job = self.session.draft, self.session.job
        if job is None or not isinstance(draft, Drafted) or made_already(job):
            return ()
        found = applied(job, self.experience)
        return (finding_of(found),) if found else ()

    # The shop

    def refresh(self) -> None:
        """The job changed: what it tells may be another."""
        tries = (self.session.key, self.session.job.tries if self.session.job is not None else ())
        if tries != self.seen:
            self.seen = tries
            self.learn()

    def learn(self) -> None:
        """Have lessons worked out that are not there yet, one at a time behind the window."""
        asked = tried(self.session.store)
        self.ruled = ruled(self.session.store)
        there = known(self.session.store, __version__, asked)
        self.lessons = {told.job: (told.mark, there[told.job]) for told in asked if told.job in there}
        self.waiting = [told for told in asked if told.job not in there]
        self._more() if self.waiting else self._count()

    def _more(self) -> None:
        self.session.works.ask("lessons", lesson_of, self.waiting[-1], self._came, self.session.fault)

    def _came(self, made: tuple[Told, Lesson]) -> None:
        told, lesson = made
        keep(self.session.store, __version__, [made])
        self.lessons[told.job] = told.mark, lesson
        self.waiting = [other for other in self.waiting if other.job != told.job]
        self._more() if self.waiting else self._count()

    def _count(self) -> None:
        """All lessons are there: what they come to."""
        said = self.ruled or Ruled()
        now = experience([(job, lesson) for job, (_, lesson) in sorted(self.lessons.items())], said.off, said.forgotten)
        if now != self.experience:
            self.experience = now
            self.learnt.emit()

    def switch(self, key: str, on: bool) -> None:
        """Use a line from now on, or no longer."""
        self._rule((self.ruled or ruled(self.session.store)).switched(key, on))

    def reset(self, key: str, jobs: Collection[int] | None = None) -> None:
        """Forget what was seen of a line so far (in some jobs: else in all that were tried on); where that was done before, count it again."""
        said = self.ruled or ruled(self.session.store)
        gone = key in said.forgotten
        self._rule(said.without(key, () if gone else list(self.lessons) if jobs is None else jobs))

    def _rule(self, said: Ruled) -> None:
        self.ruled = said
        self.session.keep_setting(LEARNT, ruled_text(said))
        self._count()

    def _opened(self) -> None:
        self.chosen, self.made, self.asked, self.seen = "", None, {}, None
        self.refresh()


def covers_of(session: Session) -> tuple[Job, ...]:
    """Other covers of the open job's thing, of the whole shop."""
    thing = session.job.kin.thing if session.job is not None else ""
    return of_thing(session.store, thing, session.key or -1) if thing else ()


def fitting_of(session: Session) -> Fitting:
    """The fitting of a session's open job; there is one of them."""
    found = session.findChild(Fitting)
    if found is None:
        found = Fitting(session)
        found.refresh()
    return found
