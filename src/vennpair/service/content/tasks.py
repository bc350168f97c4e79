"""The job bodies of this step; the queue finds this module by itself."""

from __future__ import annotations

from vennpair.service.content.actions.carry_out_import import carry_out_import
from vennpair.service.ops.running import carries_out

carries_out("import", carry_out_import)
