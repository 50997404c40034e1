"""The steps stand above crib and logs; a change in the crib reaches them by signal."""

from typing import Any

from django.apps import AppConfig
from django.db import transaction
from django.db.models.signals import post_save


class StepsConfig(AppConfig):
    """Connects the crib's saves to the jobs that use what was saved."""

    name = "gyrometra.steps"

    def ready(self) -> None:
        """Listen to the kinds of thing that a plan rests on."""
        for model in ("Machine", "Head", "Bar", "Cutter", "Gauge", "Material"):
            post_save.connect(_crib_changed, sender=f"crib.{model}", dispatch_uid=f"steps-{model}")


def _crib_changed(sender: Any, instance: Any, created: bool, **kwargs: Any) -> None:
    """After the commit, so that a machine's new speeds are there too."""
    from gyrometra.steps import progress  # noqa: PLC0415 - models are not loaded when apps are

    if not created:
        transaction.on_commit(lambda: progress.keep_all_using(instance))
