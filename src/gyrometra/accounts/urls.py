"""Addresses of sign-in and accounts."""

from django.contrib.auth.views import LogoutView
from django.urls import path

from gyrometra.accounts import views

urlpatterns = [
    path("sign-in/", views.SignIn.as_view(), name="sign-in"),
    path("sign-in/again/", views.sign_in_again, name="sign-in-again"),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
    path("first/<str:token>/", views.first_account, name="first-account"),
    path("members/", views.members, name="members"),
    path("members/<int:pk>/<slug:what>/", views.change_member, name="change-member"),
    path("account/", views.own_account, name="account"),
    path("account/sign-out-everywhere/", views.sign_out_everywhere, name="sign-out-everywhere"),
    path("reset/<str:token>/", views.reset, name="reset"),
    path("unit/", views.choose_unit, name="choose-unit"),
    path("keys/", views.switch_keys, name="switch-keys"),
]
