"""Print the one-time link for the first account, where there is none yet."""

from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand

from gyrometra.accounts.models import FirstAccountLink, User


class Command(BaseCommand):
    """`first_link --base http://127.0.0.1:8000/`"""

    help = __doc__ or ""

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The address to put before the link."""
        parser.add_argument("--base", default="http://127.0.0.1:8000/")

    def handle(self, *args: Any, **options: Any) -> None:
        """Make and print the link; silent where accounts exist."""
        if User.objects.exists():
            return
        token = FirstAccountLink.make()
        self.stdout.write(f"Make the first account here, once: {options['base']}first/{token}/")
