"""Addresses of the six steps."""

from django.urls import path

from gyrometra.steps import rounds, views
from gyrometra.steps.bar import view as bar
from gyrometra.steps.bore import view as bore
from gyrometra.steps.bush import view as bush
from gyrometra.steps.check import view as check
from gyrometra.steps.cuts import view as cuts
from gyrometra.steps.noise import view as noise
from gyrometra.steps.true import view as true
from gyrometra.steps.true.coaxial import coaxial
from gyrometra.steps.work import photos
from gyrometra.steps.work import view as work

urlpatterns = [
    path("new/", work.new_job, name="new-job"),
    path("example/", work.try_example, name="try-example"),
    path("new/look/", work.look_at_new, name="look-at-new"),
    path("<job:number>/save/work/", work.save_work, name="save-work"),
    path("<job:number>/save/setting/<slug:what>/", work.save_setting, name="save-setting"),
    path("<job:number>/photos/picture/", photos.keep_photo, name="keep-photo"),
    path("<job:number>/photos/<int:pk>/", photos.photo, name="job-photo"),
    path("<job:number>/photos/<int:pk>/drop/", photos.drop_photo, name="drop-photo"),
    path("<job:number>/feature/save/", work.save_feature, name="save-feature"),
    path("<job:number>/feature/drop/", work.drop_feature, name="drop-feature"),
    path("<job:number>/feature/log/", check.log_feature, name="log-feature"),
    path("<job:number>/ring/", check.log_ring, name="log-ring"),
    path("<job:number>/bush/", bush.bush, name="bush"),
    path("<job:number>/bush/make/", bush.make_bush, name="make-bush"),
    path("<job:number>/bores/add/", work.add_bore, name="add-bore"),
    path("<job:number>/bores/remove/", work.remove_bore, name="remove-bore"),
    path("<job:number>/setups/add/", work.add_setup, name="add-setup"),
    path("<job:number>/setups/<slug:what>/", work.change_setup, name="change-setup"),
    path("<job:number>/close/", work.close_job, name="close-job"),
    path("<job:number>/copy/", work.copy_job, name="copy-job"),
    path("<job:number>/reopen/", work.reopen_job, name="reopen-job"),
    path("<job:number>/save/bar/", bar.save_bar, name="save-bar"),
    path("<job:number>/save/cuts/", cuts.save_cuts, name="save-cuts"),
    path("<job:number>/round/<slug:purpose>/", rounds.begin_round, name="begin-round"),
    path("<job:number>/reading/<slug:purpose>/", rounds.log_reading, name="log-reading"),
    path("<job:number>/take-back/<slug:step>/", rounds.take_back, name="take-back"),
    path("<job:number>/cut/<slug:kind>/", bore.log_cut, name="log-cut"),
    path("<job:number>/noise/", noise.noise, name="noise"),
    path("<job:number>/noise/hear/", noise.hear, name="hear"),
    path("<job:number>/noise/stands/", noise.stands, name="stands"),
    path("<job:number>/noise/tried/", noise.tried, name="tried"),
    path("<job:number>/size/", check.log_size, name="log-size"),
    path("<job:number>/plug/", check.log_plug, name="log-plug"),
    path("<job:number>/depth/", check.log_depth, name="log-depth"),
    path("<job:number>/save/true/", true.save_true, name="save-true"),
    path("<job:number>/centred/", true.log_centred, name="log-centred"),
    path("<job:number>/coaxial/", coaxial, name="coaxial"),
    path("<job:number>/between/<slug:kind>/", true.log_between, name="log-between"),
    path("<job:number>/kept/<int:pk>/drop/", work.drop_answer, name="drop-answer"),
    path("<job:number>/sign/", check.sign, name="sign"),
    path("<job:number>/sign/reopen/", check.reopen_signed, name="reopen-signed"),
    path("<job:number>/<slug:step>/", views.step, name="step"),
]
