"""Where deliveries go: a folder of each project's own, among the project files or in one of the server's."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings
from neatveil.comp.loading import parse_comp
from neatveil.delivery import (
    DeliveryForm,
    DeliveryFormat,
    Output,
    Take,
    Taken,
    Target,
    format_named,
    format_of,
    taken,
)
from neatveil.errors import FileMissing, ValueRefused
from neatveil.tokens import FRAME, plain_name
from projects.models import Project

from .models import Delivery


def root_folder(project_id: int, root: str) -> Path:
    """What holds a project's deliveries; ``root``: as a delivery keeps it."""
    return Path(root) if root else Path(settings.MEDIA) / "deliveries" / str(project_id)


def root_on_server(project: Project, path: str) -> str:
    """The project's folder in one of the server's, as a delivery keeps it; empty for an empty ``path``.

    `ValueRefused` where that is no folder for deliveries, `FileMissing` where it is not there now.
    """
    if not path:
        return ""
    if Path(path) not in settings.DELIVERY_FOLDERS:
        raise ValueRefused(
            f"{path} is not a folder that deliveries may go to.",
            advice=f"These are: {', '.join(map(str, settings.DELIVERY_FOLDERS)) or 'none'}; "
            "who runs the server can add others.", where="server",
        )  # fmt: skip
    _refuse_missing(Path(path))
    return str(Path(path) / f"{plain_name(project.name)[:80]}_{project.pk}")


def _refuse_missing(path: Path) -> None:
    if not path.is_dir():
        raise FileMissing(
            f"The folder {path} is not there now.", advice="Retry when it is connected again.", where="server"
        )


def checked_folder(root: Path, folder: str) -> Path:
    """The folder; `ValueRefused` where it would lead out of the project's folder."""
    parts = [p for p in folder.strip().split("/") if p]
    if (
        not parts
        or len(folder) > 200
        or any(p in {".", ".."} or p.startswith(".") or "\0" in p for p in parts)
    ):
        raise ValueRefused(
            f"{folder!r} cannot be a folder for a delivery.",
            advice="Write a folder such as dusk/v1; no part may begin with a dot.",
            where="folder",
        )
    return root.joinpath(*parts)


def checked_file(delivery_format: DeliveryFormat, name: str) -> str:
    """The file name or pattern of a format from the base name a person gave."""
    base = name.strip()
    bare = base.replace(FRAME, "")
    if not bare or len(base.encode()) > 200 or any(c in bare for c in "/\\\0#%") or base.startswith("."):
        raise ValueRefused(
            f"{name!r} cannot be the name of a delivery's files.",
            advice="Write a name without slashes, # and %; the frame number and the ending are added.",
            where="name",
        )
    if delivery_format.kind == "movie" or FRAME in base:
        return f"{base}{delivery_format.ending}"
    return f"{base}.{FRAME}{delivery_format.ending}"


def target_of(delivery: Delivery) -> Target:
    return Target(root_folder(delivery.project_id, delivery.root) / delivery.folder / delivery.file)


def shown_folder(delivery: Delivery) -> str:
    """The folder for people to read: from the media folder on, whatever machine that lies on."""
    if delivery.root:
        return str(target_of(delivery).path.parent)
    return f"{settings.MEDIA.name}/{target_of(delivery).path.parent.relative_to(settings.MEDIA).as_posix()}"


def format_of_delivery(delivery: Delivery) -> DeliveryFormat:
    if delivery.form is not None:
        return format_of(DeliveryForm.model_validate(delivery.form))
    return format_named(delivery.format)


def output_of(delivery: Delivery) -> Output:
    """`FileMissing` where the server's folder is gone: making it anew would hide that it is not mounted."""
    if delivery.root:
        _refuse_missing(Path(delivery.root).parent)
    return Output(format_of_delivery(delivery), target_of(delivery))


def deliveries_of(job_id: int) -> list[Delivery]:
    """The forms that a job writes: of the same document, take and rate."""
    return list(Delivery.objects.filter(job_id=job_id).order_by("pk"))


def taken_of(delivery: Delivery) -> Taken:
    """What is delivered of the comp as it was when it was ordered."""
    return taken(Take.model_validate(delivery.take), parse_comp(delivery.document, delivery.comp_name))


def proof_files(delivery: Delivery) -> tuple[Path, Path, Path]:
    """The proof as JSON, the list of hashes and the clip, beside the delivery's files."""
    base = delivery.file.removesuffix(format_of_delivery(delivery).ending).replace(FRAME, "").rstrip("._-")
    folder = target_of(delivery).path.parent
    return folder / f"{base}.proof.json", folder / f"{base}.xxh64", folder / f"{base}.otio"
