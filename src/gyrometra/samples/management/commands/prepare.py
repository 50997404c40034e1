"""Bring the database up to date, load the demo shop once, print the one-time link for the first account."""

from argparse import ArgumentParser
from io import StringIO
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connection

from gyrometra.accounts.models import FirstAccountLink, User
from gyrometra.bridge.grants import grant_to
from gyrometra.samples.load import load_shop


class Command(BaseCommand):
    """`prepare --base http://127.0.0.1:8000/`: all that a start needs, in one process."""

    help = __doc__ or ""

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The address to put before the link, and the role that the application signs in as."""
        parser.add_argument("--for", dest="role", default="", help="the application's own database role")
        parser.add_argument("--base", default="http://127.0.0.1:8000/")

    def handle(self, *args: Any, **options: Any) -> None:
        """Migrate, load, and say what a person needs to get in."""
        call_command("migrate", interactive=False, verbosity=0)
        role = options["role"]
        if role and role != connection.settings_dict["USER"]:
            grant_to(role)
        call_command("clearsessions")
        call_command("axes_reset_logs", age=90, verbosity=0, stdout=StringIO())  # it always says how many
        if settings.DEMO:
            load_shop()
            self.stdout.write("Demo sign-in: dagny / quillmoor (lead), corin / quillmoor (machinist)")
        if not User.objects.exists():
            link = f"{options['base']}first/{FirstAccountLink.make()}/"
            self.stdout.write(f"Make the first account here, once: {link}")
