"""Core geometry turned into what a template can draw. All arithmetic of pictures happens here.

A drawing is loaded when a page first draws it: ``drawings.site.site_plan(...)``. Source: PEP 562.
"""

from importlib import import_module
from types import ModuleType
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from walkround.web.drawings import (
        aircraft as aircraft,
    )
    from walkround.web.drawings import (
        aircraft_history as aircraft_history,
    )
    from walkround.web.drawings import (
        airspace as airspace,
    )
    from walkround.web.drawings import (
        bars as bars,
    )
    from walkround.web.drawings import (
        calibrations as calibrations,
    )
    from walkround.web.drawings import (
        cells as cells,
    )
    from walkround.web.drawings import (
        channels as channels,
    )
    from walkround.web.drawings import (
        control_directions as control_directions,
    )
    from walkround.web.drawings import (
        damage as damage,
    )
    from walkround.web.drawings import (
        flight as flight,
    )
    from walkround.web.drawings import (
        flight_path as flight_path,
    )
    from walkround.web.drawings import (
        home as home,
    )
    from walkround.web.drawings import (
        landing as landing,
    )
    from walkround.web.drawings import (
        levers as levers,
    )
    from walkround.web.drawings import (
        link_lost as link_lost,
    )
    from walkround.web.drawings import (
        logbook_year as logbook_year,
    )
    from walkround.web.drawings import (
        minutes as minutes,
    )
    from walkround.web.drawings import (
        pack as pack,
    )
    from walkround.web.drawings import (
        path as path,
    )
    from walkround.web.drawings import (
        qr_code as qr_code,
    )
    from walkround.web.drawings import (
        rotors as rotors,
    )
    from walkround.web.drawings import (
        schedule as schedule,
    )
    from walkround.web.drawings import (
        session as session,
    )
    from walkround.web.drawings import (
        site as site,
    )
    from walkround.web.drawings import (
        sky as sky,
    )
    from walkround.web.drawings import (
        sticks as sticks,
    )
    from walkround.web.drawings import (
        touches as touches,
    )
    from walkround.web.drawings import (
        trend as trend,
    )
    from walkround.web.drawings import (
        window as window,
    )


def __getattr__(name: str) -> ModuleType:
    try:
        return import_module(f"{__name__}.{name}")
    except ModuleNotFoundError as error:
        if error.name != f"{__name__}.{name}":
            raise
        raise AttributeError(f"There is no drawing {name}.") from error
