"""Files as a browser fetches them: one by itself, several as one archive that is packed while it is sent."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from django.http import FileResponse
from zipstream import ZIP_STORED, ZipStream


def fetched(paths: Sequence[Path], name: str, folders: Sequence[Path] = ()) -> FileResponse:
    """The only file under its own name, or all of them in an archive of the name ``name``.zip.

    ``folders``: that go along, each under its own name with all that is in it.
    """
    if len(paths) == 1 and not folders:
        return FileResponse(paths[0].open("rb"), as_attachment=True, filename=paths[0].name)
    # nothing is packed: pictures and movies are already
    archive = ZipStream(compress_type=ZIP_STORED)
    for path in [*paths, *folders]:
        archive.add_path(path, path.name)
    return FileResponse(
        iter(archive), as_attachment=True, filename=f"{name}.zip", content_type="application/zip"
    )
