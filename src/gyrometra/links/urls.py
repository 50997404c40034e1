"""Addresses of the gauge link."""

from django.urls import path

from gyrometra.links import views

urlpatterns = [
    path("readings/", views.readings, name="link-readings"),
    path("<int:pk>/listen/", views.listen, name="link-listen"),
    path("<int:pk>/needle/", views.needle, name="link-needle"),
    path("<int:pk>/end/", views.end_link, name="link-end"),
    path("<str:kind>/<int:pk>/", views.link_of, name="link-of"),
]
