"""Signing in and making accounts."""

from typing import Any

from django import forms
from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.password_validation import validate_password

from gyrometra.accounts.models import User
from gyrometra.bridge.messages import use_shop_words


class SignInForm(AuthenticationForm):
    """Name and password, with the shop's sentence when they do not match."""

    error_messages = {
        "invalid_login": "Wrong name or password. Capitals count.",
        "inactive": "This account is closed.",
    }


class AccountForm(forms.Form):
    """A new account."""

    username = forms.CharField(label="Name", max_length=40, widget=forms.TextInput(attrs={"autocomplete": "username"}))
    password = forms.CharField(label="Password", widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}))

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        use_shop_words(self)

    def clean_username(self) -> str:
        """Names stand once."""
        name = str(self.cleaned_data["username"]).strip()
        if User.objects.filter(username__iexact=name).exists():
            raise forms.ValidationError(f"There is already a {name}. Choose another name.")
        return name

    def clean_password(self) -> Any:
        """Long enough, and not one that everybody uses."""
        password = self.cleaned_data["password"]
        validate_password(password)
        return password


class MemberForm(AccountForm):
    """A new member, with the role."""

    role = forms.ChoiceField(choices=User.Role.choices, initial=User.Role.MACHINIST)
