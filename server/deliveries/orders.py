"""What was ordered, resolved: each delivery with its picture, its form, and where it goes."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field

from comps.drawing import document_of
from comps.lists import cells_wrong
from comps.models import Comp
from config.queueing import check_range
from django.utils import timezone
from elements.models import Element
from elements.resolve import core_element, key
from jobs.models import UNENDED
from neatveil.comp import Comp as Document
from neatveil.comp import Layer
from neatveil.comp.loading import parse_comp
from neatveil.comp.rows import row_tokens
from neatveil.delivery import (
    DeliveryForm,
    DeliveryFormat,
    Take,
    Taken,
    Target,
    format_named,
    format_of,
    taken,
)
from neatveil.errors import ValueRefused
from neatveil.tokens import named_by
from projects.models import Project

from .models import Delivery
from .places import checked_file, checked_folder, root_folder, root_on_server, target_of

#: Version numbers that are tried.
MOST_VERSIONS = 9999


@dataclass(frozen=True)
class Order:
    """As a person gives it: comps and elements, each in every form.

    ``rows``: of the list of the one comp. ``forms``: in full, or the name of a ready format. ``server``: one
    of the server's folders; empty for the project's own.
    """

    project: Project
    take: Take
    forms: Sequence[DeliveryForm | str]
    folder: str
    name: str
    comps: Sequence[Comp] = ()
    elements: Sequence[Element] = ()
    rows: Sequence[int] = ()
    loss_accepted: bool = False
    server: str = ""


@dataclass(frozen=True)
class Source:
    """A comp, a row of its list, or an element as a comp of its own size, rate and range."""

    name: str
    document: Document
    row: int | None = None
    #: What stands for tokens in names.
    tokens: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Planned:
    """One delivery that would be made.

    ``form``: None for a ready format; ``root``: as a delivery keeps it; ``folder``: inside the project's
    deliveries.
    """

    source: Source
    taken: Taken
    format: DeliveryFormat
    form: DeliveryForm | None
    root: str
    folder: str
    target: Target

    @property
    def name(self) -> str:
        """What is delivered, in words."""
        layer = f", {self.taken.layer_name[:60]}" if self.taken.layer_name else ""
        row = "" if self.source.row is None else f", row {self.source.row}"
        return f"{self.source.name[:120]}{layer}{row}"

    @property
    def place(self) -> str:
        """Its folder and file or pattern."""
        return f"{self.folder}/{self.target.path.name}"


def planned(order: Order, takes: Sequence[tuple[Source, Taken]]) -> list[Planned]:
    """Every delivery of an order; ``{version}`` becomes the first number that nothing has.

    ``takes``: as `takes_of` gives them, which takes long; the names are quick, and found anew for each look.

    Raises
    ------
    ValueRefused
        A size, folder or name will not do, or two would be written over each other.
    FileMissing
        The server's folder is not there now.
    CannotHoldAlpha, CannotHoldLayers
        A form asks for an alpha, or the take for layers, that its file format has not.
    """
    if not order.forms:
        raise ValueRefused("No format was chosen.", advice="Choose one or more.", where="format")
    root = root_on_server(order.project, order.server)
    found: list[Planned] = []
    for version in range(1, MOST_VERSIONS + 1):
        found = [
            p for s, t in takes for form in order.forms for p in _parts(order, root, s, t, form, version)
        ]
        _refuse_alike(found)
        if "{version}" not in order.folder + order.name or not _version_used(order, found):
            break
    return found


def _version_used(order: Order, rows: Sequence[Planned]) -> bool:
    """Whether anything is there under it; where the folder has it, anything in that folder."""
    if "{version}" not in order.folder:
        return bool(already_there(order.project.pk, rows))
    folders = {one.folder for one in rows}
    same = Delivery.objects.filter(project=order.project, root=rows[0].root, folder__in=folders)
    return same.exists() or any(one.target.path.parent.is_dir() for one in rows)


def takes_of(order: Order) -> list[tuple[Source, Taken]]:
    """What goes out of every comp, row and element of an order.

    Raises `ValueRefused` where a range, rate, timecode or row will not do, or nothing was chosen.
    """
    sources = [*_comps(order), *(_element(e) for e in order.elements)]
    if not sources:
        raise ValueRefused("Nothing was chosen.", advice="Choose a comp or elements.", where="comp")
    takes = [(s, taken(order.take, s.document)) for s in sources]
    for _, take in takes:
        check_range(1, len(take.frames))
    return takes


def already_there(project_id: int, rows: Sequence[Planned]) -> list[str]:
    """Of what is planned that which is there already, or that another delivery is at work on."""
    going = Delivery.objects.filter(project_id=project_id, job__state__in=UNENDED)
    busy = {target_of(one).path for one in going.only("project", "root", "folder", "file")}
    names: dict[str, set[str]] = {}
    found = []
    for one in rows:
        folder = one.target.path.parent
        if one.folder not in names:
            names[one.folder] = {p.name for p in folder.iterdir()} if folder.is_dir() else set()
        files = one.target.files(one.format, one.taken.numbers)
        hit = next((p.name for p in files if p.name in names[one.folder]), None)
        if one.target.path in busy:
            found.append(one.place)
        elif hit:
            found.append(f"{one.folder}/{hit}")
    return found


def _refuse_alike(rows: Sequence[Planned]) -> None:
    counts = Counter(one.place for one in rows)
    if twice := next((place for place, count in counts.items() if count > 1), None):
        raise ValueRefused(
            f"Two deliveries would be written over each other as {twice}.",
            advice="Put {comp}, {row}, {format} or a slot's name in braces into the file name.",
            where="name",
        )


def _comps(order: Order) -> list[Source]:
    if not order.rows:
        return [Source(c.name, document_of(c), None, {"comp": c.name}) for c in order.comps]
    if len(order.comps) != 1:
        raise ValueRefused("Rows are of one comp's list.", advice="Choose that comp alone.", where="rows")
    (comp,) = order.comps
    document = parse_comp(comp.document, comp.name)
    count = len(document.rows)
    if beyond := [n for n in order.rows if not 1 <= n <= count]:
        raise ValueRefused(f"The list has no row {beyond[0]}.", advice=f"It has {count}.", where="rows")
    wrong = [p for p in cells_wrong(document, comp.project_id) if p.row in (0, *order.rows)]
    if wrong:
        told = "; ".join(f"row {p.row}, {p.column}: {p.message}" if p.row else p.message for p in wrong[:5])
        raise ValueRefused(
            f"The list has {len(wrong)} wrong cells: {told}", advice="Mend them in the list.", where="rows"
        )
    return [
        Source(
            comp.name, document_of(comp, n), n,
            {"comp": comp.name, **row_tokens(document.rows[n - 1], n, count)},
        )
        for n in order.rows
    ]  # fmt: skip


def _element(element: Element) -> Source:
    own = core_element(element)
    facts = element.facts or {}
    name = element.name[:200]
    first, last = (1, 1) if own.still else (own.first, own.last)
    document = Document(
        name=name, width=facts["width"], height=facts["height"], first=first, last=last,
        layers=(Layer(id="element", name=name, element=key(element)),), elements={key(element): own},
        **({"rate": own.rate} if own.rate else {}),
    )  # fmt: skip
    return Source(element.name, document, None, {"comp": element.name.split(".")[0]})


def _parts(
    order: Order, root: str, source: Source, take: Taken, form: DeliveryForm | str, version: int
) -> list[Planned]:
    """What one form writes of one source: two for RGB and alpha apart."""
    parts: list[tuple[str, DeliveryForm | None]] = [("", None)] if isinstance(form, str) else [*form.parts()]
    base = root_folder(order.project.pk, root)
    found = []
    for suffix, part in parts:
        made = format_named(str(form)) if part is None else format_of(part)
        values = {
            "project": order.project.name, "layer": take.layer_name, "version": f"v{version:03d}",
            "format": made.codec.name, "date": timezone.localdate().isoformat(), **source.tokens,
        }  # fmt: skip
        folder, name = named_by(order.folder, values), named_by(order.name, values)
        made.codec.refuse_size(take.width, take.height, name)
        take.refuse_format(made)
        path = checked_folder(base, folder)
        target = Target(path / checked_file(made, f"{name}{suffix}")).checked(made)
        inside = path.relative_to(base).as_posix()
        found.append(Planned(source, take, made, part, root, inside, target))
    return found
