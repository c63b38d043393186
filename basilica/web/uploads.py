"""Files that come with a form, put beside the map."""

from __future__ import annotations

from werkzeug.datastructures import FileStorage

from basilica.core.map.map_files import PUBLIC, problem_with
from basilica.web.context import services
from basilica.web.forms import InvalidForm


def put_file(slug: str, name: str, data: bytes | None, was: str | None) -> None:
    """Put a file beside the map of a site, or take it away (None). Raises ``InvalidForm``."""
    problem = problem_with(name, data or b"", services().maps.files(services().store.summary(slug)))
    if problem:
        raise InvalidForm(problem)
    services().sites.put_file(slug, name, data, was)


def put_upload(slug: str, folder: str, uploaded: FileStorage) -> str:
    """Put an uploaded file into a folder beside the map, and give its whole name. Raises ``InvalidForm``."""
    plain = (uploaded.filename or "").replace("\\", "/").rpartition("/")[2]
    name = f"{folder}/{plain if folder == PUBLIC else plain.replace(' ', '-')}"
    put_file(slug, name, uploaded.read(), None)
    return name
