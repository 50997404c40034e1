"""Making accounts and changing them."""

import secrets
from datetime import timedelta

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import Q, Sum
from django.utils import timezone

from gyrometra.accounts.models import FirstAccountLink, ResetLink, User


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


def is_locked_out(*, username: str, address: str) -> bool:
    """Whether too many wrong passwords came for a name wherever from, or from an address whatever the name."""
    recent = AccessAttempt.objects.filter(attempt_time__gt=timezone.now() - settings.AXES_COOLOFF_TIME)
    wrong = recent.aggregate(
        name=Sum("failures_since_start", filter=Q(username=username.strip().lower())),
        address=Sum("failures_since_start", filter=Q(ip_address=address or None)),
    )  # fmt: skip
    return (wrong["name"] or 0) >= settings.MOST_WRONG_FOR_A_NAME or (
        (wrong["address"] or 0) >= settings.MOST_WRONG_FROM_AN_ADDRESS
    )


@transaction.atomic
def make_account(*, username: str, password: str, role: str) -> User:
    """Make an account of the shop."""
    return User.objects.create_user(username=username, password=password, role=role)


def choose_unit(*, user: User, unit: str) -> None:
    """Show lengths in mm or inches from now on."""
    User.objects.filter(pk=user.pk).update(unit=unit)


def switch_keys(*, user: User, on: bool) -> None:
    """Single-letter keys on or off."""
    User.objects.filter(pk=user.pk).update(keys_on=on)


#: How long a reset link is good.
RESET_GOOD_FOR = timedelta(hours=24)


class NotDone(Exception):
    """What was wanted of an account is refused, with the reason."""


def _lead(by: User, what: str) -> None:
    if not by.is_lead:
        raise NotDone(f"Only a lead {what}.")


def _keep_a_lead(user: User) -> None:
    """The last lead stays: somebody must be able to sign verdicts, and to let people in."""
    others = User.objects.select_for_update().filter(role=User.Role.LEAD, is_active=True).exclude(pk=user.pk)
    if user.is_lead and user.is_active and not others.exists():
        raise NotDone(f"{user.username} is the only lead: make another one first.")


def end_sessions(user: User) -> int:
    """Sign somebody out everywhere; returns how many sessions ended."""
    own = [one.pk for one in Session.objects.all() if one.get_decoded().get("_auth_user_id") == str(user.pk)]
    Session.objects.filter(pk__in=own).delete()
    return len(own)


@transaction.atomic
def change_role(*, by: User, user: User, role: str) -> None:
    """Make somebody lead or machinist."""
    _lead(by, "changes a role")
    if role not in User.Role.values:
        raise NotDone("There are leads and machinists.")
    if role != User.Role.LEAD:
        _keep_a_lead(user)
    User.objects.filter(pk=user.pk).update(role=role)


@transaction.atomic
def close_account(*, by: User, user: User) -> None:
    """Nobody signs in with it any more, and whoever is signed in is out; what was logged keeps its name."""
    _lead(by, "closes an account")
    _keep_a_lead(user)
    User.objects.filter(pk=user.pk).update(is_active=False)
    ResetLink.objects.filter(user=user).delete()
    end_sessions(user)


@transaction.atomic
def reopen_account(*, by: User, user: User) -> None:
    """Let somebody sign in again."""
    _lead(by, "reopens an account")
    User.objects.filter(pk=user.pk).update(is_active=True)


@transaction.atomic
def make_reset_link(*, user: User, by: User | None = None) -> str:
    """A one-time link by which somebody gives themselves a new password; returns its token, shown once.

    `by` is the lead who asks for it; None is whoever sits at the server.
    """
    if by is not None:
        _lead(by, "resets a password")
    token = secrets.token_urlsafe(24)
    until = timezone.now() + RESET_GOOD_FOR
    ResetLink.objects.update_or_create(
        user=user, defaults={"token_hash": FirstAccountLink.hash_of(token), "until": until}
    )  # fmt: skip
    return token


def reset_by(token: str) -> User | None:
    """Whose password a link resets; None for one that is spent, too old, or of a closed account."""
    link = ResetLink.objects.select_related("user").filter(token_hash=FirstAccountLink.hash_of(token)).first()
    good = link is not None and link.until > timezone.now() and link.user.is_active
    return link.user if link is not None and good else None


@transaction.atomic
def set_password(*, user: User, password: str) -> None:
    """A new password: every session and every link of before is void, and what was counted against the name."""
    held = User.objects.select_for_update().get(pk=user.pk)
    held.set_password(password)
    held.save(update_fields=["password"])
    ResetLink.objects.filter(user=user).delete()
    AccessAttempt.objects.filter(username=user.username.lower()).delete()
    end_sessions(user)
