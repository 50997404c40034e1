"""The demo shop once, and clients for its people."""

from typing import Any

import pytest
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.samples.load import load_shop
from tests.web.shop_client import ShopClient


@pytest.fixture(scope="session")
def django_db_setup(django_db_setup: Any, django_db_blocker: Any) -> None:
    """Every test here finds the demo shop; each rolls its own changes back."""
    with django_db_blocker.unblock():
        load_shop()


def signed_in(name: str) -> Client:
    client = ShopClient()
    client.force_login(User.objects.get(username=name))
    return client


@pytest.fixture
def dagny(db: None) -> Client:
    """The lead's browser."""
    return signed_in("dagny")


@pytest.fixture
def corin(db: None) -> Client:
    """A machinist's browser."""
    return signed_in("corin")
