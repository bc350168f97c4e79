"""The app's label."""

from __future__ import annotations

from django.apps import AppConfig


class WebConfig(AppConfig):
    """What every endpoint shares; its table keeps the name that it was made under."""

    name = "vennpair.service.kernel.web"
    label = "api"

    def ready(self) -> None:
        """Say what is spent of it."""
        from vennpair.service.kernel.purging import delete_spent
        from vennpair.service.kernel.web.purging import delete_kept_answers

        delete_spent.listen(delete_kept_answers)
