"""Addresses of the six steps."""

from django.urls import path

from gyrometra.steps import rounds, views
from gyrometra.steps.bar import view as bar
from gyrometra.steps.bore import view as bore
from gyrometra.steps.check import view as check
from gyrometra.steps.cuts import view as cuts
from gyrometra.steps.true import view as true
from gyrometra.steps.work import view as work

urlpatterns = [
    path("new/", work.new_job, name="new-job"),
    path("<slug:number>/save/work/", work.save_work, name="save-work"),
    path("<slug:number>/bores/add/", work.add_bore, name="add-bore"),
    path("<slug:number>/bores/remove/", work.remove_bore, name="remove-bore"),
    path("<slug:number>/setups/add/", work.add_setup, name="add-setup"),
    path("<slug:number>/setups/<slug:what>/", work.change_setup, name="change-setup"),
    path("<slug:number>/close/", work.close_job, name="close-job"),
    path("<slug:number>/reopen/", work.reopen_job, name="reopen-job"),
    path("<slug:number>/save/bar/", bar.save_bar, name="save-bar"),
    path("<slug:number>/save/cuts/", cuts.save_cuts, name="save-cuts"),
    path("<slug:number>/round/<slug:purpose>/", rounds.begin_round, name="begin-round"),
    path("<slug:number>/reading/<slug:purpose>/", rounds.log_reading, name="log-reading"),
    path("<slug:number>/take-back/<slug:step>/", rounds.take_back, name="take-back"),
    path("<slug:number>/cut/<slug:kind>/", bore.log_cut, name="log-cut"),
    path("<slug:number>/size/", check.log_size, name="log-size"),
    path("<slug:number>/depth/", check.log_depth, name="log-depth"),
    path("<slug:number>/between/<slug:kind>/", true.log_between, name="log-between"),
    path("<slug:number>/kept/<int:pk>/drop/", work.drop_answer, name="drop-answer"),
    path("<slug:number>/sign/", check.sign, name="sign"),
    path("<slug:number>/<slug:step>/", views.step, name="step"),
]
