"""The steps stand above crib and logs; a change in the crib reaches them by signal."""

from typing import Any

from django.apps import AppConfig, apps
from django.db import connections, transaction
from django.db.migrations.executor import MigrationExecutor
from django.db.models.signals import post_migrate, post_save


class StepsConfig(AppConfig):
    """Connects the crib's saves to the jobs that use what was saved."""

    name = "gyrometra.steps"

    def ready(self) -> None:
        """Listen to the kinds of thing that a plan rests on."""
        for model in ("Machine", "Head", "Bar", "Cutter", "Gauge", "Material"):
            post_save.connect(_crib_changed, sender=f"crib.{model}", dispatch_uid=f"steps-{model}")
        # an app without tables is not told of a migration: the last of the logs is
        logs = apps.get_app_config("inspection")
        post_migrate.connect(_brought_up_to_date, sender=logs, dispatch_uid="steps-migrated")


def _crib_changed(sender: Any, instance: Any, created: bool, **kwargs: Any) -> None:
    """After the commit, so that a machine's new speeds are there too."""
    from gyrometra.steps import progress  # noqa: PLC0415 - models are not loaded when apps are

    if not created:
        transaction.on_commit(lambda: progress.mark_all_using(instance))


def _brought_up_to_date(sender: Any, using: str, plan: Any = (), **kwargs: Any) -> None:
    """Jobs written by an older make are worked out anew, once the whole database is of this one."""
    from gyrometra.steps import progress  # noqa: PLC0415 - models are not loaded when apps are

    executor = MigrationExecutor(connections[using])
    if plan and not executor.migration_plan(executor.loader.graph.leaf_nodes()):
        progress.keep_those_of_an_older_make()
