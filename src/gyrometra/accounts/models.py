"""People of the shop, and the one-time link that makes the first of them."""

import hashlib
import secrets

from django.contrib.auth.models import AbstractUser
from django.db import models


class User(AbstractUser):
    """A member of the shop; the lead signs verdicts off."""

    class Role(models.TextChoices):
        LEAD = "lead", "lead"
        MACHINIST = "machinist", "machinist"

    role = models.CharField(max_length=12, choices=Role.choices, default=Role.MACHINIST)
    unit = models.CharField(max_length=2, choices=[("mm", "mm"), ("in", "inch")], default="mm")
    keys_on = models.BooleanField(default=True)

    @property
    def is_lead(self) -> bool:
        """Whether this person may sign off."""
        return self.role == self.Role.LEAD


class ResetLink(models.Model):
    """A link by which somebody gives themselves another password, once, until its end; only its hash is kept."""

    user = models.OneToOneField(User, on_delete=models.CASCADE, related_name="reset_link")
    token_hash = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()

    def __str__(self) -> str:
        return f"reset link of {self.user}"


class FirstAccountLink(models.Model):
    """A link that makes the first account, once; only its hash is kept."""

    token_hash = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"first account link of {self.made_at:%d %b %Y}"

    @staticmethod
    def hash_of(token: str) -> str:
        """The form a token is kept in."""
        return hashlib.sha256(token.encode()).hexdigest()

    @classmethod
    def make(cls) -> str:
        """Replace any earlier link; returns the token to show once."""
        cls.objects.all().delete()
        token = secrets.token_urlsafe(24)
        cls.objects.create(token_hash=cls.hash_of(token))
        return token
