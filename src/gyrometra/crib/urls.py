"""Addresses of the crib."""

from django.urls import path

from gyrometra.crib import views

urlpatterns = [
    path("", views.crib, name="crib"),
    path("crib.json", views.export, name="crib-json"),
    path("crib-<slug:kind>.csv", views.export, name="crib-csv"),
    path("take-in/", views.take_in, name="crib-take-in"),
    path("starter/", views.start_set, name="crib-starter"),
    path("<slug:kind>/new/", views.edit, name="crib-new"),
    path("<slug:kind>/<int:pk>/", views.edit, name="crib-edit"),
    path("fixture/<int:pk>/picture/", views.picture, name="crib-picture"),
    path("<slug:kind>/<int:pk>/check/", views.note_check, name="crib-check"),
    path("<slug:kind>/<int:pk>/label/", views.label, name="crib-label"),
    path("<slug:kind>/<int:pk>/retire/", views.retire, name="crib-retire"),
]
