"""Settings of the campus stand-in."""

from vennpair.standins.settings import standin_settings

globals().update(standin_settings("CAMPUS", "vennpair.standins.campus"))
