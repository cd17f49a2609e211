"""The proof: every written file is opened again and compared with the comp."""

from __future__ import annotations

import json
from fractions import Fraction

from config.engine import decoder, evaluator
from jobs.control import Control
from jobs.models import Job
from neatveil.delivery import Proof, add_to_hash_list, prove_together, remove_parts, write_clip
from neatveil.delivery.proof_pictures import ProofShown, proof_png
from neatveil.errors import ValueRefused
from neatveil.frame_list import parse_frames

from deliveries.models import Delivery
from deliveries.places import (
    deliveries_of,
    format_of_delivery,
    output_of,
    proof_files,
    taken_of,
    target_of,
)


def finish(job: Job, control: Control) -> None:
    """Prove every form, keep the proofs in the rows, and lay them and lists of hashes beside the files."""
    rows = deliveries_of(job.pk)
    for row in rows:
        remove_parts(target_of(row))
    taken = taken_of(rows[0])
    places = taken.places
    proofs = prove_together(
        taken.source(evaluator()), decoder(), [output_of(row) for row in rows], taken.numbers,
        Fraction(rows[0].rate), loss_accepted=rows[0].loss_accepted,
        progress=lambda number: control.frames_checked(places[number]), cancelled=control.cancelled,
    )  # fmt: skip
    for row, proof in zip(rows, proofs, strict=True):
        _write_beside(row, proof)
        Delivery.objects.filter(pk=row.pk).update(proof=proof.model_dump(mode="json"))


def picture_of(delivery: Delivery, frame: int, shown: ProofShown) -> bytes:
    """A PNG of a frame by its number, see `proof_png`; `ValueRefused` for one that was not delivered."""
    taken = taken_of(delivery)
    if frame not in taken.frames:
        raise ValueRefused(f"This delivery has no frame {frame}.", where="frame")
    wanted = taken.source(evaluator())(frame) if shown == "difference" else None
    place = taken.places[frame] - 1, frame
    return proof_png(decoder(), format_of_delivery(delivery), target_of(delivery), place, shown, wanted)


def _write_beside(delivery: Delivery, proof: Proof) -> None:
    """In open forms: JSON, a clip, a hash list by ASC MHL, and hashes as checksum programs read them."""
    as_json, hashes, clip = proof_files(delivery)
    target, delivery_format = target_of(delivery), format_of_delivery(delivery)
    numbers = parse_frames(delivery.numbers)
    write_clip(clip, target, delivery_format, numbers, Fraction(delivery.rate))
    files = [p for p in target.files(delivery_format, numbers) if p.is_file()]
    if files:
        person = delivery.job.person
        add_to_hash_list(target.path.parent, files, person.get_username() if person else "")
    as_json.write_text(json.dumps({**proof.model_dump(mode="json"), "good": proof.good}, indent=2))
    hashes.write_text("".join(f"{h}  {n}\n" for n, h in proof.hashes.items()), "utf-8")
