"""How one kind of answer is asked, read and shown on the pages. Each kind is one module of this room, with its templates."""

from collections.abc import Callable
from typing import Any

from msgspec import field

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.answers import KINDS
from walkround.core.answers.kind import Answer, Ask
from walkround.core.base.struct import Struct
from walkround.core.base.units import Units
from walkround.core.round.situation import Situation
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web.app_context import AppContext
from walkround.web.forms import Typed


class Sent(Struct, frozen=True):
    """What the form of a check sent: the round as loaded, what was typed, and whether a device is to be read."""

    ctx: AppContext
    settings: Settings
    loaded: OpenRound
    state: CheckState
    typed: Typed
    from_device: bool

    @property
    def ask(self) -> Ask:
        """What the check asks for."""
        return self.state.planned.check.ask

    @property
    def situation(self) -> Situation:
        """The situation of the round."""
        return self.loaded.walk.situation


class CardRow(Struct, frozen=True):
    """One row of a paper checklist as entered: what was said, its note, and a number if there is one."""

    ask: Ask
    check_id: str
    said: str
    note: str
    number: str
    units: Units
    aircraft: Aircraft


def _no_scene(aircraft: Aircraft, middle: tuple[float, float], half_width: float, half_height: float) -> dict[str, Any]:
    return {}


def _nothing_shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    return {}


class AnswerPage(Struct, frozen=True):
    """One kind of answer on the pages; its form is ``rounds/answers/NAME.html``.

    ``words``: how it is answered. ``read``: the answer from its form, and from whom. ``button``: words of its main button,
    none where the form has its own; ``rest``: the same once something is tapped; ``action``: what the button means.
    ``own_forms``: the template brings forms of its own. ``device_form``: a device is read by a form beside it.
    ``first``: the drawing or list stands first, how and why are folded. ``near_thumb``: its buttons stay in reach.
    ``advances``: after a clear answer the next check comes by itself. ``judged_as_tapped``: each tap is judged.
    ``shown``: what its templates need. ``scene``: what the large drawing shows meanwhile. ``seen``: the template of an
    answer given. ``preview``: template and values that show an unfinished answer. ``row``: its row of a paper checklist,
    with the template ``cards/rows/NAME.html``.
    """

    name: str
    words: str
    read: Callable[[Sent], tuple[Answer, str]]
    button: Callable[[Ask], str] | None = None
    rest: str = ""
    action: str = "take"
    own_forms: bool = False
    device_form: bool = False
    first: bool = False
    near_thumb: bool = False
    advances: bool = False
    judged_as_tapped: bool = False
    shown: Callable[[OpenRound, CheckState], dict[str, Any]] = field(default=_nothing_shown)
    scene: Callable[[Aircraft, tuple[float, float], float, float], dict[str, Any]] = field(default=_no_scene)
    seen: str = ""
    preview: Callable[[OpenRound, Answer], tuple[str, dict[str, Any]]] | None = None
    row: Callable[[CardRow], Answer | None] | None = None

    @property
    def form(self) -> str:
        """The template of its form."""
        return f"rounds/answers/{self.name}.html"

    @property
    def row_form(self) -> str:
        """The template of its row on a paper checklist."""
        return f"cards/rows/{self.name}.html"

    def shows(self, answer: Answer) -> bool:
        """Whether an answer given has a template of its own: not a fault or a skip."""
        return bool(self.seen) and isinstance(answer, KINDS[self.name].answer)
