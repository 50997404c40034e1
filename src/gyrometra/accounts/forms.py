"""Signing in and making accounts."""

from typing import Any

from django import forms
from django.contrib.auth.forms import AuthenticationForm, UsernameField
from django.contrib.auth.password_validation import validate_password

from gyrometra.accounts.address import client_address
from gyrometra.accounts.models import User
from gyrometra.accounts.services import is_locked_out
from gyrometra.bridge.messages import use_shop_words


class SignInForm(AuthenticationForm):
    """Name and password, with the shop's sentence when they do not match; the name without case."""

    def clean(self) -> dict[str, Any]:
        """Find the account by its name however it is written; stop guessing before a password is tried."""
        name = str(self.cleaned_data.get("username", "")).strip()
        if self.request is not None and is_locked_out(username=name, address=client_address(self.request)):
            raise forms.ValidationError("Too many wrong passwords: wait a quarter of an hour, then try again.")
        known = User.objects.filter(username__iexact=name).values_list("username", flat=True).first()
        self.cleaned_data["username"] = known or name
        cleaned: dict[str, Any] = super().clean()
        return cleaned

    username = UsernameField(max_length=150, strip=True)
    password = forms.CharField(max_length=1000, strip=False)
    error_messages = {
        "invalid_login": "Wrong name or password. Capitals count in the password.",
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
        validate_password(password, User(username=str(self.cleaned_data.get("username", ""))))
        return password


class MemberForm(AccountForm):
    """A new member, with the role."""

    role = forms.ChoiceField(choices=User.Role.choices, initial=User.Role.MACHINIST)


class PasswordForm(forms.Form):
    """A new password of one's own, with the old one; by a reset link without it."""

    old = forms.CharField(label="Password now", widget=forms.PasswordInput(attrs={"autocomplete": "current-password"}))
    password = forms.CharField(
        label="New password", max_length=1000, widget=forms.PasswordInput(attrs={"autocomplete": "new-password"})
    )

    def __init__(self, *args: Any, user: User, by_link: bool = False, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.user = user
        if by_link:
            del self.fields["old"]
        use_shop_words(self)

    def clean_old(self) -> str:
        """It must be the password that is."""
        old = str(self.cleaned_data["old"])
        if not self.user.check_password(old):
            raise forms.ValidationError("This is not the password now. Capitals count.")
        return old

    def clean_password(self) -> str:
        """Long enough, not one that everybody uses, not like the name."""
        password = str(self.cleaned_data["password"])
        validate_password(password, self.user)
        return password
