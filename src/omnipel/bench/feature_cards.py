"""What is put on the panels: a card for each feature, and a row to add one."""

from PySide6.QtWidgets import QCheckBox, QGridLayout, QLineEdit, QVBoxLayout, QWidget

from omnipel.bench.parts import button, column, combo, emptied, label, row, surface
from omnipel.bench.session import Session
from omnipel.bench.tapefield import length_field
from omnipel.core.findings import Act, Change
from omnipel.core.job import Feature, FeatureKind, Shape

ROWS = (FeatureKind.SNAP, FeatureKind.GROMMET, FeatureKind.TIE, FeatureKind.POCKET)


class FeatureList(QWidget):
    """All features of the cover."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.cards = QVBoxLayout()
        self.cards.setSpacing(6)
        self.kind = combo("What to add", [(k.value, k) for k in FeatureKind], lambda _k: None)
        self.setLayout(column(self.cards, row(self.kind, button("Add it", self._add)), spacing=8))
        self.made_for: tuple[object, ...] = ()

    def refresh(self) -> None:
        """Show the features as they stand."""
        job = self.session.open_job
        hosts = tuple(p.name for p in (self.session.draft.panels if self.session.draft else ()))
        shape = (job.cover.features, job.unit, hosts)
        if shape != self.made_for:
            emptied(self.cards)
            for i, feature in enumerate(job.cover.features):
                self.cards.addWidget(FeatureCard(self.session, i, feature, hosts))
            self.made_for = shape

    def _add(self) -> None:
        """A feature of the picked kind on the panel that hangs lowest, in its middle."""
        draft, job = self.session.draft, self.session.open_job
        if draft is None or not draft.panels:
            self.session.say("look", "There are no panels to put it on yet.")
            return
        hemmed = [p for p in draft.panels if any(e.finish.folded for e in p.edges)]
        host = max(hemmed or draft.panels, key=lambda p: p.length.value * p.width.value)
        kind, names = self.kind.value, {f.name for f in job.cover.features}
        name = next(n for n in (kind.value, *(f"{kind.value} {i}" for i in range(2, 300))) if n not in names)
        sewn = next((e.name for e in host.edges if e.finish.kind == "seam"), "")
        size = min(host.length.value, host.width.value)
        made = Feature(
            kind=kind,
            name=name,
            panel=host.name,
            from_top=round(host.width.value / 2.0),
            width=round(max(4.0, min(120.0, size / 4.0))),
            height=round(max(4.0, min(80.0, size / 5.0))),
            edge=sewn if kind is FeatureKind.HANDLE else "",
            parts=4 if kind in (FeatureKind.SNAP, FeatureKind.GROMMET) else 1,
        )
        self.session.change(f"{name} on the {host.name}", Change("cover.features", made, Act.ADD))


class FeatureCard(QWidget):
    """One feature: name, panel, place, size and what else its kind has."""

    def __init__(self, session: Session, i: int, feature: Feature, hosts: tuple[str, ...]) -> None:
        super().__init__()
        self.session, self.path, self.feature = session, f"cover.features.{i}", feature
        name = QLineEdit(feature.name, accessibleName="name of the feature")
        name.editingFinished.connect(lambda: name.text().strip() and self._set("name", name.text().strip()[:120]))
        where = combo("on which panel", [(h, h) for h in dict.fromkeys((feature.panel, *hosts))], lambda h: self._set("panel", h))
        where.show_value(feature.panel)
        gone = button("Remove", lambda: session.change(f"{feature.name} removed", Change(self.path, act=Act.REMOVE)), "quiet")
        grid = QGridLayout()
        grid.setSpacing(6)
        fields = [
            ("right of centre", "from_centre", -20_000.0),
            ("from the top", "from_top", 0.0),
            ("width", "width", 0.0),
            ("height", "height", 0.0),
        ]
        if feature.kind is FeatureKind.POCKET:
            fields.append(("depth, 0 for flat", "depth", 0.0))
        for k, (words, attribute, low) in enumerate(fields):
            strict = attribute in ("width", "height")
            field = length_field(
                session,
                f"{feature.name} {words}",
                lambda mm, a=attribute: self._set(a, mm),
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
                        row(label(feature.kind.value, "soft", wrap=True), gone), row(name, where), grid, self._more(), margins=8
                    )
                )
            )
        )

    def _set(self, attribute: str, value: object) -> None:
        self.session.set(f"{self.path}.{attribute}", value, f"{self.feature.name}: {attribute.replace('_', ' ')}")

    def _more(self) -> QWidget:
        """What only this kind has."""
        feature, more = self.feature, QWidget()
        parts: list[QWidget] = []
        if feature.kind is FeatureKind.PORT:
            shape = combo("shape", [(s.value, s) for s in Shape], lambda s: self._set("shape", s))
            shape.show_value(feature.shape)
            panel = next((p for p in (self.session.draft.panels if self.session.draft else ()) if p.name == feature.panel), None)
            edges = [("no slit", ""), *((f"slit to {e.name}", e.name) for e in (panel.edges if panel else ()))]
            slit = combo("slit", edges, lambda e: self._set("slit_to", e))
            slit.show_value(feature.slit_to)
            flap = QCheckBox("flap", accessibleName="flap over the slit")
            flap.setChecked(feature.flap)
            flap.clicked.connect(lambda on: self._set("flap", bool(on)))
            parts = [shape, slit, flap]
        if feature.kind is FeatureKind.HANDLE:
            panel = next((p for p in (self.session.draft.panels if self.session.draft else ()) if p.name == feature.panel), None)
            edge = combo(
                "caught in",
                [(f"caught in {e.name}", e.name) for e in (panel.edges if panel else ())],
                lambda e: self._set("edge", e),
            )
            edge.show_value(feature.edge)
            parts = [edge]
        if feature.kind in ROWS:
            count = combo(
                "how many", [(f"{n} in a row" if n > 1 else "one", n) for n in range(1, 13)], lambda n: self._set("parts", n)
            )
            count.show_value(feature.parts)
            parts = [count]
        more.setLayout(row(*parts))
        more.setVisible(bool(parts))
        return more
