"""An application of ten lines in which the kit is set. It answers the addresses that it reads."""

import json
import sys

from flask import Flask, render_template
from site_navigation import SITE, SiteNavigation, problems_of, render_in_site

asked = json.load(sys.stdin)
app = Flask(__name__)
navigation = SiteNavigation(app, asked["mount"])
if asked["own_base"]:
    app.config["SITE_NAVIGATION_BASE"] = "base.html"
app.register_error_handler(404, lambda error: ("The host has nothing there.", 404))
app.add_url_rule("/api/words", view_func=lambda: {"words": 7}, endpoint="api")
app.add_url_rule("/about-host", view_func=lambda: render_template("shop.html", words="<Host>"), endpoint="about")
for route in SITE.routes.values():
    if route.backend:
        view = lambda page=route.id, **values: render_in_site(page, "shop.html", asked["title"], words="<b>")  # noqa: E731
        app.add_url_rule(navigation.rule(route.id), route.id, view)

with app.app_context():  # a mail, say: there is no request
    assert render_template("404.html").startswith("<p>The page of the host")
if asked.get("serve"):
    from serving import serve

    serve(app)
client = app.test_client()
answers = [client.get(address) for address in asked["addresses"]]
rows = [[each.status_code, dict(each.headers), each.data.decode("latin-1")] for each in answers]
json.dump({"answers": rows, "problems": problems_of(app) if asked["own_base"] else []}, sys.stdout)
