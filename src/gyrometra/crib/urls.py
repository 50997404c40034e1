"""Addresses of the crib."""

from django.urls import path

from gyrometra.crib import views

urlpatterns = [
    path("", views.crib, name="crib"),
    path("<slug:kind>/new/", views.edit, name="crib-new"),
    path("<slug:kind>/<int:pk>/", views.edit, name="crib-edit"),
    path("<slug:kind>/<int:pk>/retire/", views.retire, name="crib-retire"),
]
