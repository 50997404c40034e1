"""A link for a lead who is locked out: run at the server."""

from argparse import ArgumentParser
from typing import Any

from axes.models import AccessAttempt
from django.core.management.base import BaseCommand, CommandError

from gyrometra.accounts.models import User
from gyrometra.accounts.services import make_reset_link


class Command(BaseCommand):
    """`lead_link dagny --base https://shop.example/`: prints a one-time link, good for a day."""

    help = __doc__ or ""

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Whose, and the address to put before the link."""
        parser.add_argument("name")
        parser.add_argument("--base", default="http://127.0.0.1:8000/")

    def handle(self, *args: Any, **options: Any) -> None:
        """Open the account again if it is closed, make it a lead's, forget what was counted against it."""
        user = User.objects.filter(username__iexact=options["name"]).first()
        if user is None:
            names = ", ".join(User.objects.values_list("username", flat=True))
            raise CommandError(f"There is no {options['name']}. There are: {names}.")
        User.objects.filter(pk=user.pk).update(is_active=True, role=User.Role.LEAD)
        AccessAttempt.objects.filter(username=user.username.lower()).delete()
        self.stdout.write(f"{options['base']}reset/{make_reset_link(user=user)}/")
