"""What the Publish workspace does."""

from __future__ import annotations

from dataclasses import replace

from flask import current_app, flash, url_for
from flask import redirect as lead
from werkzeug.wrappers import Response

from basilica.services.publish_work import Choices
from basilica.store.errors import UsageError
from basilica.store.folders import must_be_opened
from basilica.store.records import NotFound
from basilica.store.targets import settings_of
from basilica.store.targets.secrets import forget_secret, remember_secret
from basilica.web.context import services
from basilica.web.forms import InvalidForm
from basilica.web.publish.forms import ChosenTarget, SendForm, TargetForm
from basilica.web.values import whole_number


def put_target(slug: str) -> Response:
    """Remember a target, or forget one."""
    site, form = services().store.get(slug), TargetForm.sent()
    publishing = services().publishing
    if form.act.data == "forget":
        known = publishing.targets(site).get(form.name.data)
        if known is not None:
            forget_secret(known)
        publishing.log.drop_target(slug, form.name.data)
        flash(f"The target {form.name.data} is forgotten. What is live there stays.")
        return lead(url_for("publish.show", slug=slug), 303)
    if form.act.data == "trust":
        return _trust(slug, form)
    try:
        settings = settings_of(form.name.data, form.given)
        if current_app.config["IS_OPEN"] and settings.local_words:
            raise UsageError(
                "Folders and keys of this machine can be named by the person at it alone, in publish.yaml."
            )
        for word in settings.local_words:
            must_be_opened(settings.path(word), current_app.config["DATA"])
        publishing.put_target(site, settings)
    except UsageError as error:
        raise InvalidForm(str(error)) from error
    if form.secret.data and not remember_secret(settings, form.secret.data):
        flash("This system has no keyring, so the password is not kept. Give it in the environment.")
    return lead(url_for("publish.show", slug=slug, target=settings.name), 303)


def _trust(slug: str, form: TargetForm) -> Response:
    """Remember the key of a server, as a person confirmed it, and compare."""
    site = services().store.get(slug)
    publishing = services().publishing
    known = {one.name: one for one in publishing.log.targets(slug)}.get(form.name.data)
    fingerprint = publishing.unknown_key(form.run.data)
    if known is None or not fingerprint:
        raise InvalidForm("It is not known which server that is. Compare again.")
    publishing.put_target(site, replace(known, values={**known.values, "host-key": fingerprint}))
    return _run(slug, known.name, lambda: publishing.compare(services().sites.open(slug), known.name))


def compare(slug: str) -> Response:
    """Hold the site, or an earlier publish, against what is live."""
    site, form = services().sites.open(slug), ChosenTarget.sent()
    earlier = whole_number(form.earlier.data) if form.earlier.data else None
    return _run(slug, form.target.data, lambda: services().publishing.compare(site, form.target.data, earlier))


def look(slug: str) -> Response:
    """Fetch the live site."""
    site, form = services().sites.open(slug), ChosenTarget.sent()
    return _run(slug, form.target.data, lambda: services().publishing.look(site, form.target.data))


def send(slug: str) -> Response:
    """Send what was compared."""
    site, form = services().sites.open(slug), SendForm.sent()
    overwritten, left = list(form.overwritten), list(form.left)
    try:
        run = services().publishing.job(form.run.data).result
    except NotFound as error:
        raise InvalidForm(str(error)) from error
    for file in run.prepared.found.files.files if run is not None else ():
        chosen = form.of_all(file.state)
        if chosen and file.needs_consent and file.path not in overwritten and file.path not in left:
            (overwritten if chosen == "overwrite" else left).append(file.path)
    choices = Choices(tuple(overwritten), tuple(left), tuple(form.remove.data or ()), whole_number(form.deletions.data))
    return _run(
        slug,
        form.target.data,
        lambda: services().publishing.publish(
            site, form.run.data, choices, form.note.data, form.reason.data, form.even_if_busy.data == "yes"
        ),
    )


def take_over(slug: str) -> Response:
    """Take what was edited there by hand into the site, and compare again."""
    site, form = services().sites.open(slug), SendForm.sent()
    publishing = services().publishing
    try:
        name = publishing.take_over(site, form.run.data, form.file.data)
    except UsageError as error:
        raise InvalidForm(str(error)) from error
    flash(f"The edit is in {name} now. Publish, and what is live has it in all its places.")
    site = services().sites.open(slug)
    return _run(slug, form.target.data, lambda: publishing.compare(site, form.target.data))


def stop(slug: str, token: str) -> Response:
    """Stop a run."""
    services().publishing.stop(token)
    return lead(url_for("publish.show", slug=slug), 303)


def _run(slug: str, target: str, begin: object) -> Response:
    try:
        token = begin()  # type: ignore[operator]
    except (UsageError, NotFound) as error:
        raise InvalidForm(str(error)) from error
    return lead(url_for("publish.show", slug=slug, target=target, run=token), 303)
