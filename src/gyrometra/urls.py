"""Addresses of the whole product."""

from django.urls import include, path

from gyrometra.bench.views import bench, healthz
from gyrometra.records.views import sheet

urlpatterns = [
    path("", bench, name="bench"),
    path("healthz", healthz, name="healthz"),
    path("", include("gyrometra.accounts.urls")),
    path("crib/", include("gyrometra.crib.urls")),
    path("jobs/<slug:number>/sheet/", sheet, name="sheet"),
    path("jobs/", include("gyrometra.steps.urls")),
]
handler404 = "gyrometra.pages.views.not_found"
handler500 = "gyrometra.pages.views.broken"
