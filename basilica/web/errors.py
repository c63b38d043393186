"""What is answered where something cannot be done: a sentence, on a page or as JSON, and never a traceback."""

from __future__ import annotations

from flask import Flask, Response, jsonify, render_template, request
from werkzeug.exceptions import HTTPException

from basilica.core.edits import EditRejected
from basilica.store.errors import NotStored, UsageError
from basilica.store.records import Conflict, NotFound
from basilica.web.forms import InvalidForm

Answer = tuple[str | Response, int]
_SENTENCES = {
    404: "There is nothing at this address. It may be misspelt, or the site was renamed.",
    405: "This address cannot be asked for in this way.",
    413: "This is larger than {largest} MB. A map has at most 2 MB; nothing was changed.",
    415: "What came with this request is of another kind than this address takes.",
    429: "That were many attempts. Wait a minute, and try again.",
}


def answer(code: int, message: str) -> Answer:
    """A sentence, as the one who asked can read it."""
    if request.is_json or request.accept_mimetypes.best == "application/json":
        return jsonify(message=message), code
    return render_template("error.html", code=code, message=message), code


def register_error_handlers(app: Flask) -> None:
    """Answer every error of an application; workspaces may answer some of theirs otherwise."""
    largest = (app.config["MAX_CONTENT_LENGTH"] or 0) // 1024 // 1024

    @app.errorhandler(NotFound)
    def _unknown(_: NotFound) -> Answer:
        return answer(404, "There is no such site. It may have been renamed; the list of sites has all that there are.")

    @app.errorhandler(NotStored)
    def _not_stored(error: NotStored) -> Answer:
        app.logger.error("not stored: %s", error)
        return answer(503, str(error))

    @app.errorhandler(UsageError)
    @app.errorhandler(Conflict)
    def _not_now(error: Exception) -> Answer:
        return answer(409, str(error))

    @app.errorhandler(EditRejected)
    @app.errorhandler(InvalidForm)
    def _not_so(error: Exception) -> Answer:
        return answer(422, str(error))

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> Answer:
        code, own = error.code or 500, error.description
        if own is None or own == type(error).description:  # not a sentence of ours
            own = _SENTENCES.get(code, own or "This did not work.").replace("{largest}", str(largest))
        return answer(code, own)

    @app.errorhandler(Exception)
    def _any(error: Exception) -> Answer:
        app.logger.exception("unexpected: %s", error)
        return answer(500, "Something went wrong in Basilica, so this was not done. Go back and try again.")
