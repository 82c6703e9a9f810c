"""Where requests go: the API, else the page, which does its own routing."""

from django.conf import settings
from django.http import FileResponse, Http404, HttpRequest, HttpResponse, HttpResponseBase, JsonResponse
from django.urls import path, re_path
from django.views.decorators.csrf import csrf_exempt

from jackstaff.api.api import api


def page(request: HttpRequest) -> HttpResponseBase:
    """Return the built page, for every address the browser routes itself."""
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        return HttpResponse("The interface is not built yet: run 'make build'.", status=503, content_type="text/plain")
    response = FileResponse(index.open("rb"), content_type="text/html; charset=utf-8")
    response.headers["Cache-Control"] = "no-cache"
    return response


def authority(request: HttpRequest) -> HttpResponseBase:
    """Return what a phone is told to trust, where the certificate is this machine's own."""
    if settings.AUTHORITY is None:
        raise Http404
    return FileResponse(settings.AUTHORITY.open("rb"), content_type="application/x-x509-ca-cert")


@csrf_exempt
def unknown(request: HttpRequest, rest: str) -> JsonResponse:
    """Return a JSON answer for addresses under /api/ that do not exist."""
    error = {
        "field": "path",
        "problem": f"/api/{rest} does not exist.",
        "instead": "See /api/openapi.json for what does.",
    }
    return JsonResponse({"errors": [error]}, status=404)


urlpatterns = [
    path("api/", api.urls),
    path("authority.crt", authority),
    re_path(r"^api/(?P<rest>.*)$", unknown),
    re_path(r"^(?!api/|assets/).*$", page),
]
handler400 = "jackstaff.site.faults.bad_request"
handler403 = "jackstaff.site.faults.forbidden"
handler404 = "jackstaff.site.faults.not_found"
handler500 = "jackstaff.site.faults.server_error"
