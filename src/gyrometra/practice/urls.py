"""Addresses of the practice bench."""

from django.urls import path

from gyrometra.practice import views

urlpatterns = [
    path("", views.practice, name="practice"),
    path("<slug:key>/", views.level, name="practice-level"),
    path("<slug:key>/act/", views.act, name="practice-act"),
    path("<slug:key>/new/", views.new_piece, name="practice-new"),
    path("<slug:key>/coach/", views.coach, name="practice-coach"),
]
