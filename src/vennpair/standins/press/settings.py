"""Settings of the press stand-in."""

from vennpair.standins.settings import standin_settings

globals().update(standin_settings("PRESS", "vennpair.standins.press"))
