"""Addresses of the six steps."""

from django.urls import path

from gyrometra.steps import log_views, views

urlpatterns = [
    path("new/", views.new_job, name="new-job"),
    path("<slug:number>/save/work/", views.save_work, name="save-work"),
    path("<slug:number>/bores/add/", views.add_bore, name="add-bore"),
    path("<slug:number>/bores/remove/", views.remove_bore, name="remove-bore"),
    path("<slug:number>/close/", views.close_job, name="close-job"),
    path("<slug:number>/reopen/", views.reopen_job, name="reopen-job"),
    path("<slug:number>/save/bar/", views.save_bar, name="save-bar"),
    path("<slug:number>/save/cuts/", views.save_cuts, name="save-cuts"),
    path("<slug:number>/round/<slug:purpose>/", log_views.begin_round, name="begin-round"),
    path("<slug:number>/reading/<slug:purpose>/", log_views.log_reading, name="log-reading"),
    path("<slug:number>/take-back/<slug:step>/", log_views.take_back, name="take-back"),
    path("<slug:number>/cut/<slug:kind>/", log_views.log_cut, name="log-cut"),
    path("<slug:number>/size/", log_views.log_size, name="log-size"),
    path("<slug:number>/depth/", log_views.log_depth, name="log-depth"),
    path("<slug:number>/between/<slug:kind>/", log_views.log_between, name="log-between"),
    path("<slug:number>/kept/<int:pk>/drop/", log_views.drop_answer, name="drop-answer"),
    path("<slug:number>/sign/", log_views.sign, name="sign"),
    path("<slug:number>/<slug:step>/", views.step, name="step"),
]
