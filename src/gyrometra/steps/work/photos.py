"""Pictures of a job: kept, shown, taken away and put back."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_POST, require_safe

from gyrometra.accounts.people import member, words_typed
from gyrometra.crib.pictures import MOST_BYTES, BadPicture, jpeg_of
from gyrometra.jobs import photos
from gyrometra.jobs.models import JobPhoto
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps.bore.view import show_bore
from gyrometra.steps.shared.view import page_for, saved
from gyrometra.steps.work.view import showing


@require_POST
def keep_photo(request: HttpRequest, number: str) -> HttpResponse:
    """One more picture, from Work or of the pass in hand on Bore."""
    from_bore = request.POST.get("from") == "bore"
    page, file, words = page_for(request, number), request.FILES.get("picture"), words_typed(request, "words", 200)
    try:
        if file is None:
            raise BadPicture("Choose a picture first.")
        photos.keep_photo(user=member(request), job=page.job, jpeg=jpeg_of(file.read(MOST_BYTES + 1)), words=words)
    except (BadPicture, JobClosed, photos.TooMany) as refused:
        show = show_bore if from_bore else showing("more")
        return show(request, page, {"photo_error": str(refused), "photo_words": words})
    if from_bore:
        return saved(request, number, "bore", show_bore)
    return saved(request, number, "work", showing("more"), at="more")


@require_POST
def drop_photo(request: HttpRequest, number: str, pk: int) -> HttpResponse:
    """Take a picture away, or put it back."""
    page = page_for(request, number)
    try:
        photos.drop_photo(job=page.job, pk=pk, dropped=request.POST.get("back") != "yes")
    except JobClosed as refused:
        return showing("more")(request, page, {"photo_error": str(refused)})
    return saved(request, number, "work", showing("more"), at="more")


@require_safe
def photo(request: HttpRequest, number: str, pk: int) -> HttpResponse:
    """A picture."""
    found = get_object_or_404(JobPhoto, pk=pk, job__number=number)
    if found.dropped:
        raise Http404("This picture was taken away.")
    return HttpResponse(bytes(found.picture), content_type="image/jpeg")
