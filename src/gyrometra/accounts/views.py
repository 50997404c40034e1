"""Sign-in, the first account, members, and one's own choices."""

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.views import LoginView
from django.db import IntegrityError
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase, HttpResponseRedirect, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_http_methods, require_POST

from gyrometra.accounts import services
from gyrometra.accounts.forms import AccountForm, MemberForm, PasswordForm, SignInForm
from gyrometra.accounts.models import User
from gyrometra.accounts.people import member


class SignIn(LoginView):
    """The sign-in page; in demo mode it offers the demo names."""

    template_name = "accounts/sign_in.html"
    authentication_form = SignInForm
    redirect_authenticated_user = True
    extra_context = {"demo": settings.DEMO}


@login_not_required
@ensure_csrf_cookie
@require_http_methods(["GET", "POST"])
def sign_in_again(request: HttpRequest) -> JsonResponse:
    """Sign in from a page whose session has ended; what was typed there goes on. Asked plainly, it brings a token."""
    if request.method == "GET":
        return JsonResponse({"ok": False, "why": ""})
    form = SignInForm(request, data=request.POST)
    if not form.is_valid():
        return JsonResponse({"ok": False, "why": next(iter(form.errors.values()))[0]})
    login(request, form.get_user())
    return JsonResponse({"ok": True})


@login_not_required
@require_http_methods(["GET", "HEAD", "POST"])
def first_account(request: HttpRequest, token: str) -> HttpResponseBase:
    """Make the first account through the link that the start printed."""
    if not services.link_is_good(token):
        return render(request, "accounts/link_spent.html", status=410)
    form = AccountForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        user = services.make_first_account(token=token, **form.cleaned_data)
        if user is not None:
            login(request, user, backend="django.contrib.auth.backends.ModelBackend")
            return redirect("bench")
    return render(request, "accounts/first.html", {"form": form})


@require_http_methods(["GET", "HEAD", "POST"])
def members(request: HttpRequest) -> HttpResponse:
    """The people of the shop; the lead adds one."""
    user = member(request)
    form = MemberForm(request.POST or None) if user.is_lead else None
    if form is not None and request.method == "POST" and form.is_valid():
        try:
            made = services.make_account(**form.cleaned_data)
        except IntegrityError:  # in the same moment another took the name
            form.add_error("username", f"There is already a {form.cleaned_data['username']}. Choose another name.")
        else:
            messages.info(request, f"{made.username} can sign in now.")
            return redirect("members")
    people = User.objects.order_by("username")
    return render(request, "accounts/members.html", {"form": form, "people": people})


@require_POST
def choose_unit(request: HttpRequest) -> HttpResponse:
    """Switch between mm and inches, and come back."""
    unit = request.POST.get("unit", "")
    if unit not in ("mm", "in"):
        raise Http404
    services.choose_unit(user=member(request), unit=unit)
    return _back(request)


@require_POST
def switch_keys(request: HttpRequest) -> HttpResponse:
    """Switch the single-letter keys, and come back."""
    services.switch_keys(user=member(request), on=request.POST.get("keys") == "on")
    return _back(request)


def _back(request: HttpRequest) -> HttpResponse:
    target = request.POST.get("next", "/")
    if not target.startswith("/") or not url_has_allowed_host_and_scheme(target, allowed_hosts={request.get_host()}):
        target = "/"
    return HttpResponseRedirect(target)


@require_http_methods(["GET", "HEAD", "POST"])
def own_account(request: HttpRequest) -> HttpResponse:
    """One's own account: another password, and signing out everywhere."""
    user = member(request)
    form = PasswordForm(request.POST or None, user=user)
    if request.method == "POST" and form.is_valid():
        services.set_password(user=user, password=form.cleaned_data["password"])
        user.refresh_from_db()
        login(request, user, backend="django.contrib.auth.backends.ModelBackend")
        messages.info(request, "The password is changed. You are signed out everywhere else.")
        return redirect("account")
    return render(request, "accounts/account.html", {"form": form})


@require_POST
def sign_out_everywhere(request: HttpRequest) -> HttpResponse:
    """End every session of one's own, this one too."""
    services.end_sessions(member(request))
    return redirect("sign-in")


@require_POST
def change_member(request: HttpRequest, pk: int, what: str) -> HttpResponse:
    """What a lead does to an account: role, close, reopen, reset link."""
    user, by = get_object_or_404(User, pk=pk), member(request)
    try:
        if what == "role":
            services.change_role(by=by, user=user, role=request.POST.get("role", ""))
            user.refresh_from_db()
            messages.info(request, f"{user.username} is {user.get_role_display()} now.")
        elif what == "close":
            services.close_account(by=by, user=user)
            messages.info(request, f"{user.username} is closed, and signed out everywhere.")
        elif what == "reopen":
            services.reopen_account(by=by, user=user)
            messages.info(request, f"{user.username} can sign in again.")
        elif what == "reset":
            address = request.build_absolute_uri(reverse("reset", args=(services.make_reset_link(user=user, by=by),)))
            messages.info(request, f"Give {user.username} this link; it is good once, for a day: {address}")
        else:
            raise Http404
    except services.NotDone as refused:
        messages.warning(request, str(refused))
    return redirect("members")


@login_not_required
@require_http_methods(["GET", "HEAD", "POST"])
def reset(request: HttpRequest, token: str) -> HttpResponseBase:
    """Give oneself a new password through the link that a lead made."""
    user = services.reset_by(token)
    if user is None:
        return render(request, "accounts/link_spent.html", status=410)
    form = PasswordForm(request.POST or None, user=user, by_link=True)
    if request.method == "POST" and form.is_valid():
        services.set_password(user=user, password=form.cleaned_data["password"])
        user.refresh_from_db()
        login(request, user, backend="django.contrib.auth.backends.ModelBackend")
        return redirect("bench")
    return render(request, "accounts/reset.html", {"form": form, "person": user})
