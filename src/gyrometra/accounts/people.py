"""Who is asking: the signed-in member with the right type."""

from typing import cast

from django.http import HttpRequest

from gyrometra.accounts.models import User


def member(request: HttpRequest) -> User:
    """The signed-in member; every page but sign-in and the first account requires one."""
    return cast(User, request.user)
