"""The crib; its general materials are there from the first migration on."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig
from django.db.models.signals import post_migrate

from gyrometra.crib.general import put_in_missing


def _materials(sender: AppConfig, **_: Any) -> None:
    put_in_missing(sender.get_model("Material"))


class CribConfig(AppConfig):
    """The app of what the shop owns."""

    name = "gyrometra.crib"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """Put the general materials in after every migration."""
        post_migrate.connect(_materials, sender=self)
