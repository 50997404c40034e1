"""Addresses of the whole product."""

from django.urls import include, path

from gyrometra.bench.views import answer, ask, bench, keep_line, lines
from gyrometra.records.report import report, report_csv, report_pdf
from gyrometra.records.views import sheet, sheet_pdf

urlpatterns = [
    path("", bench, name="bench"),
    path("lines/", lines, name="lines"),
    path("lines/<slug:key>/", answer, name="line-answer"),
    path("lines/<slug:key>/keep/", keep_line, name="keep-line"),
    path("ask/", ask, name="ask"),
    path("", include("gyrometra.accounts.urls")),
    path("crib/", include("gyrometra.crib.urls")),
    path("practice/", include("gyrometra.practice.urls")),
    path("machine/", include("gyrometra.health.urls")),
    path("link/", include("gyrometra.links.urls")),
    path("jobs/<job:number>/sheet/", sheet, name="sheet"),
    path("jobs/<job:number>/sheet.pdf", sheet_pdf, name="sheet-pdf"),
    path("jobs/<job:number>/report/", report, name="report"),
    path("jobs/<job:number>/report.pdf", report_pdf, name="report-pdf"),
    path("jobs/<job:number>/readings.csv", report_csv, name="report-csv"),
    path("jobs/", include("gyrometra.steps.urls")),
]
handler400 = "gyrometra.pages.views.bad_request"
handler403 = "gyrometra.pages.views.forbidden"
handler404 = "gyrometra.pages.views.not_found"
handler500 = "gyrometra.pages.views.broken"
