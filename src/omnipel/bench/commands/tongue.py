"""Which language the window speaks: the desktop's, until somebody picks one; kept in the shop."""

from PySide6.QtCore import QLibraryInfo, QTranslator
from PySide6.QtWidgets import QApplication

from omnipel.bench.commands.desk import Desk
from omnipel.bench.parts.pick import picked_from
from omnipel.bench.speech import SPEECH, say
from omnipel.core.words.phrases import Name, tr
from omnipel.shop.store import Store
from omnipel.tongues import NAMES, of_the_desktop, tongue_of

SETTING = "language"
DESKTOP = "desktop"


def take_tongue(store: Store | None = None) -> None:
    """Speak the shop's language; the desktop's where it says none, or there is no shop yet. The toolkit's own dialogs speak it, too."""
    kept = store.setting(SETTING, DESKTOP) if store is not None else DESKTOP
    code = kept if kept in NAMES else of_the_desktop()
    SPEECH.tongue = tongue_of(code)
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        return
    if SPEECH.translator is not None:
        app.removeTranslator(SPEECH.translator)
    SPEECH.translator = QTranslator(app)
    if SPEECH.translator.load(f"qtbase_{code}", QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)):
        app.installTranslator(SPEECH.translator)


def ask_tongue(desk: Desk) -> None:
    """Pick the language; the window is opened anew in it, at the same place."""
    desktop = tr("as the desktop has it ({language})", language=Name(NAMES[of_the_desktop()]))
    entries: list[tuple[str, object]] = [(say(desktop), DESKTOP), *((name, code) for code, name in NAMES.items())]
    picked = picked_from(desk.widget, tr("Which language?"), entries)
    if isinstance(picked, str):
        desk.session.keep_setting(SETTING, picked)
        desk.open_anew()
