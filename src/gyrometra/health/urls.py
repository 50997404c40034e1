"""Addresses of a machine's own checks."""

from django.urls import path

from gyrometra.health import views

urlpatterns = [
    path("<int:pk>/", views.health, name="health"),
    path("<int:pk>/history.csv", views.history, name="health-history"),
    path("<int:pk>/changed/<slug:kind>/", views.log_changed, name="health-changed"),
    path("<int:pk>/limit/<slug:kind>/", views.set_limit, name="health-limit"),
    path("<int:pk>/take-back/<slug:kind>/", views.take_back, name="health-take-back"),
    path("<int:pk>/<slug:kind>/", views.log_check, name="health-check"),
]
