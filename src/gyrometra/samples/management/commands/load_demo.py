"""Load the demo shop once."""

from typing import Any

from django.core.management.base import BaseCommand

from gyrometra.samples.load import load_shop


class Command(BaseCommand):
    """Silent where there are people already."""

    help = __doc__ or ""

    def handle(self, *args: Any, **options: Any) -> None:
        """Load it."""
        if load_shop():
            self.stdout.write("The demo shop is loaded.")
