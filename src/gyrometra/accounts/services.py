"""Making accounts and changing one's own choices."""

from django.db import transaction

from gyrometra.accounts.models import FirstAccountLink, User


def link_is_good(token: str) -> bool:
    """Whether the one-time link may still make the first account."""
    if User.objects.exists():
        return False
    return FirstAccountLink.objects.filter(token_hash=FirstAccountLink.hash_of(token)).exists()


@transaction.atomic
def make_first_account(*, token: str, username: str, password: str) -> User | None:
    """Make the shop's lead and use the link up; None where the link is spent."""
    links = FirstAccountLink.objects.select_for_update().filter(token_hash=FirstAccountLink.hash_of(token))
    if not links.exists() or User.objects.exists():
        return None
    links.delete()
    return User.objects.create_user(username=username, password=password, role=User.Role.LEAD)


def make_account(*, username: str, password: str, role: str) -> User:
    """Make an account of the shop."""
    return User.objects.create_user(username=username, password=password, role=role)


def choose_unit(*, user: User, unit: str) -> None:
    """Show lengths in mm or inches from now on."""
    User.objects.filter(pk=user.pk).update(unit=unit)


def switch_keys(*, user: User, on: bool) -> None:
    """Single-letter keys on or off."""
    User.objects.filter(pk=user.pk).update(keys_on=on)
