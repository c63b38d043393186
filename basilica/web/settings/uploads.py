"""Pictures that are uploaded with a setting."""

from __future__ import annotations

from werkzeug.datastructures import FileStorage

from basilica.core.map.map_files import problem_with
from basilica.web.context import services
from basilica.web.forms import InvalidForm


def put_upload(slug: str, uploaded: FileStorage) -> str:
    """Put an uploaded file into `files`, and give the name by which the map calls it. Raises ``InvalidForm``."""
    plain = (uploaded.filename or "").replace("\\", "/").rpartition("/")[2].replace(" ", "-")
    name, data = f"files/{plain}", uploaded.read()
    problem = problem_with(name, data, services().maps.files(services().store.summary(slug)))
    if problem:
        raise InvalidForm(problem)
    services().sites.put_file(slug, name, data, None)
    return plain
