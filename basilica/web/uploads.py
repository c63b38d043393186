"""Files that come with a form, put beside the map."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from werkzeug.datastructures import FileStorage

from basilica.core.map.map_files import PUBLIC, problem_with
from basilica.web.context import services
from basilica.web.forms import InvalidForm


def put_file(slug: str, name: str, data: bytes | None, was: str | None) -> None:
    """Put a file beside the map of a site, or take it away (None). Raises ``InvalidForm``."""
    check_files(slug, {name: data})
    services().sites.put_file(slug, name, data, was)


def put_files(slug: str, files: Mapping[str, bytes]) -> None:
    """Put files beside the map of a site, all of them or none, whatever is there. Raises ``InvalidForm``."""
    check_files(slug, files)
    services().sites.put_files(slug, files)


def check_files(slug: str, files: Mapping[str, bytes | None]) -> None:
    """Raise ``InvalidForm`` where files cannot be put beside the map of a site."""
    there = services().maps.files(services().store.summary(slug))
    for name, data in files.items():
        problem = problem_with(name, data or b"", there)
        if problem:
            raise InvalidForm(problem)


def upload_name(folder: str, uploaded: FileStorage) -> str:
    """The whole name that an uploaded file has in a folder beside the map."""
    plain = (uploaded.filename or "").replace("\\", "/").rpartition("/")[2]
    return f"{folder}/{plain if folder == PUBLIC else plain.replace(' ', '-')}"


def uploaded_files(slug: str, folder: str, uploads: Iterable[FileStorage], replace: bool = False) -> dict[str, bytes]:
    """Uploaded files under the whole names that they would have in a folder beside the map, not put there yet. One that
    is there already, and is another, may be written over only to ``replace`` it. Raises ``InvalidForm``."""
    there = services().maps.files(services().store.summary(slug))
    files = {upload_name(folder, one): one.read() for one in uploads}
    for name, data in files.items():
        if not replace and there.get(name, data) != data:
            raise InvalidForm(
                f"There is another {name.removeprefix(f'{folder}/')} in {folder}, so nothing was uploaded. Rename"
                " yours; or upload it in Parts, with “Replace files of the same name”."
            )
    check_files(slug, files)
    return files


def put_uploads(slug: str, folder: str, uploads: Iterable[FileStorage], replace: bool = False) -> list[str]:
    """Put uploaded files into a folder beside the map, all of them or none, and give their whole names, as
    ``uploaded_files`` does."""
    files = uploaded_files(slug, folder, uploads, replace)
    services().sites.put_files(slug, files)
    return list(files)
