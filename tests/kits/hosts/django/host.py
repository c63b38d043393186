"""A project of one file in which the kit is set. It answers the addresses that it reads."""

import io
import json
import sys

import django
from django.conf import settings
from django.http import HttpResponse, JsonResponse
from django.shortcuts import render
from django.urls import include, path

asked = json.load(sys.stdin)
settings.configure(
    SECRET_KEY="of a test",
    ROOT_URLCONF=__name__,
    ALLOWED_HOSTS=["*"],
    INSTALLED_APPS=["site_navigation"],
    MIDDLEWARE=["django.middleware.common.CommonMiddleware"],
    TEMPLATES=[
        {
            "BACKEND": "django.template.backends.django.DjangoTemplates",
            "DIRS": ["templates"],
            "APP_DIRS": True,
            "OPTIONS": {
                "context_processors": [
                    "django.template.context_processors.request",
                    "site_navigation.context_processors.navigation",
                ]
            },
        }
    ],
    **({"SITE_NAVIGATION_BASE": "base.html"} if asked["own_base"] else {}),
)
django.setup()

from site_navigation.urls import SITE, rule  # noqa: E402
from site_navigation.views import render_in_site  # noqa: E402


def shown(page):
    """A view for a page that the map leaves to other code."""
    return lambda request, **values: render_in_site(request, page, "shop.html", {"words": "<b>"}, asked["title"])


backends = [path(rule(route.id), shown(route.id)) for route in SITE.routes.values() if route.backend]
urlpatterns = [
    path("api/words", lambda request: JsonResponse({"words": 7})),
    path("about-host", lambda request: render(request, "shop.html", {"words": "<Host>"})),
    path(
        asked["mount"].lstrip("/") + "/" if asked["mount"] else "",
        include([*backends, path("", include("site_navigation.urls"))]),
    ),
]
handler404 = lambda request, exception: HttpResponse("The host has nothing there.", status=404)  # noqa: E731

if __name__ == "__main__":
    if asked.get("serve"):
        from django.core.wsgi import get_wsgi_application
        from serving import serve

        serve(get_wsgi_application())
    from django.test import Client
    from django.test.runner import DiscoverRunner

    client = Client(raise_request_exception=False)
    answers = [client.get(address) for address in asked["addresses"]]
    rows = [[each.status_code, dict(each.headers), each.content.decode("latin-1")] for each in answers]
    problems = []
    if asked["own_base"]:
        runner = DiscoverRunner(verbosity=0)
        sys.stderr = io.StringIO()
        problems = ["its tests fail"] * runner.run_tests(["site_navigation"])
    json.dump({"answers": rows, "problems": problems}, sys.stdout)
