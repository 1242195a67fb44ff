"""What is put on the panels: a card for each feature, and a row to add one."""

from functools import partial

from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, emptied, label, line, row, surface
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.covers.fields import FEATURE_LENGTHS
from omnipel.core.draft import Drafted
from omnipel.core.finishing.asked import asked_of
from omnipel.core.job.document import Feature, FeatureKind, Shape
from omnipel.core.job.findings import Act, Change
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Rule, Value, term, tr, trn


class FeatureList(QWidget):
    """All features of the cover."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.cards = QVBoxLayout()
        self.cards.setSpacing(6)
        self.kind = combo(tr("What to add"), of_enum(FeatureKind), lambda _k: None)
        self.setLayout(column(self.cards, row(self.kind, button(tr("Add it"), self._add)), spacing=8))
        self.made_for: tuple[object, ...] = ()

    def refresh(self) -> None:
        """Show the features as they stand."""
        job = self.session.open_job
        draft = self.session.draft
        hosts = draft.cover.hosts if isinstance(draft, Drafted) else ()
        shape = (job.cover.features, job.thing.sticks_out, job.unit, hosts)
        if shape != self.made_for:
            with same_focus(self):
                emptied(self.cards)
                for feature in job.cover.features:
                    self.cards.addWidget(FeatureCard(self.session, feature, hosts))
            self.made_for = shape

    def _add(self) -> None:
        """A feature of the picked kind on the panel that hangs lowest, in its middle."""
        draft, job = self.session.draft, self.session.open_job
        host = draft.cover.wall if isinstance(draft, Drafted) else None
        if host is None:
            self.session.say("look", tr("There are no panels to put it on yet."))
            return
        kind, names = self.kind.value, {f.name for f in job.cover.features}
        name = next(n for n in (kind.value, *(f"{kind.value} {i}" for i in range(2, 300))) if n not in names)
        sewn = next((e.name for e in host.edges if e.finish.kind == "seam"), "")
        habits, room = job.cover.habits, min(host.length.value, host.width.value)
        wide, high = (
            min(habits.take("", usual), max(habits.system.step * 4.0, habits.system.near(room / share)))
            for usual, share in ((Rule(120.0, 4.5), 4.0), (Rule(80.0, 3.0), 5.0))
        )
        made = Feature(
            kind=kind,
            name=name,
            panel=host.name,
            from_top=habits.system.near(host.width.value / 2.0),
            width=wide,
            height=high,
            edge=sewn if kind is FeatureKind.HANDLE else "",
            parts=4 if kind in (FeatureKind.SNAP, FeatureKind.GROMMET) else 1,
        )
        self.session.change(
            tr("{feature} on the {panel}", feature=Name(name), panel=term(host.name)), Change(refs.feature(), made, Act.ADD)
        )


class FeatureCard(QWidget):
    """One feature: name, panel, place, size and what else its kind has."""

    def __init__(self, session: Session, feature: Feature, hosts: tuple[str, ...]) -> None:
        super().__init__()
        self.session, self.ref, self.feature = session, refs.feature(feature.id), feature
        name = line(tr("name of the feature"))
        name.setText(feature.name)
        self.name = name
        name.editingFinished.connect(self._named)
        where = combo(
            tr("on which panel"), [(term(h), h) for h in dict.fromkeys((feature.panel, *hosts))], lambda h: self._set("panel", h)
        )
        where.show_value(feature.panel)
        called = Name(feature.name)
        removed = tr("{feature} removed", feature=called)
        gone = button(tr("Remove"), lambda: session.change(removed, Change(self.ref, act=Act.REMOVE)), "quiet")
        gone.setAccessibleName(say(tr("Remove {feature}", feature=called)))
        grid = QGridLayout()
        grid.setSpacing(6)
        self.asked = asked_of(feature)
        lengths = [attribute for attribute in FEATURE_LENGTHS if attribute in self.asked]
        for k, attribute in enumerate(lengths):
            words, low = self.asked[attribute], -20_000.0 if attribute == "from_centre" else 0.0
            strict = attribute in ("width", "height")
            field = length_field(
                session,
                tr("{feature} {what}", feature=called, what=words),
                partial(self._set, attribute),
                low=low,
                strict=strict,
                high=20_000.0,
            )
            field.show_length(getattr(feature, attribute))
            grid.addWidget(label(words, "soft"), k // 2 * 2, k % 2)
            grid.addWidget(field, k // 2 * 2 + 1, k % 2)
        self.setLayout(
            column(
                surface(
                    column(
                        row(label(term(feature.kind), "soft", wrap=True), gone), row(name, where), grid, self._more(), margins=8
                    )
                )
            )
        )

    def _set(self, attribute: str, value: object) -> None:
        self.session.set(
            self.ref.at(attribute),
            value,
            tr("{feature}: {what}", feature=Name(self.feature.name), what=term(attribute.replace("_", " "))),
        )

    def _named(self) -> None:
        text = self.name.text().strip()[:120]
        if text and self.name.isModified():
            self.name.setModified(False)
            self._set("name", text)

    def _more(self) -> QWidget:
        """What only this kind has."""
        feature, more = self.feature, QWidget()
        parts: list[QWidget] = []
        if feature.kind is FeatureKind.PORT:
            shape = combo(tr("shape"), of_enum(Shape), lambda s: self._set("shape", s))
            shape.show_value(feature.shape)
            panel = next((p for p in (self.session.draft.panels if self.session.draft else ()) if p.name == feature.panel), None)
            edges: list[tuple[Value, object]] = [(tr("no slit"), "")]
            edges += [(tr("slit to {edge}", edge=term(e.name)), e.name) for e in (panel.edges if panel else ())]
            slit = combo(tr("slit"), edges, lambda e: self._set("slit_to", e))
            slit.show_value(feature.slit_to)
            flap = check(tr("flap"), lambda on: self._set("flap", on), full=tr("flap over the slit"))
            flap.setChecked(feature.flap)
            through: list[tuple[Value, object]] = [(tr("for nothing that sticks out"), "")]
            things = self.session.open_job.thing.sticks_out
            through += [(tr("for the {thing}", thing=Name(thing.name)), thing.id) for thing in things]
            serves = combo(tr("what comes out through it"), through, lambda id_: self._set("serves", id_))
            serves.show_value(feature.serves)
            parts = [shape, slit, *([flap] if "flap" in self.asked else []), *([serves] if things else [])]
        if "edge" in self.asked:
            panel = next((p for p in (self.session.draft.panels if self.session.draft else ()) if p.name == feature.panel), None)
            edge = combo(
                tr("caught in"),
                [(tr("caught in {edge}", edge=term(e.name)), e.name) for e in (panel.edges if panel else ())],
                lambda e: self._set("edge", e),
            )
            edge.show_value(feature.edge)
            parts = [edge]
        if "parts" in self.asked:
            count = combo(
                tr("how many"), [(trn("{n}", "{n} in a row", n), n) for n in range(1, 13)], lambda n: self._set("parts", n)
            )
            count.show_value(feature.parts)
            parts = [count]
        beside = Flow(gap=6)
        for part in parts:
            beside.addWidget(part)
        more.setLayout(beside)
        more.setVisible(bool(parts))
        return more
