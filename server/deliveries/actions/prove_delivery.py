"""The proof: every written file is opened again and compared with the comp."""

from __future__ import annotations

import json
from fractions import Fraction

from config.engine import decoder, evaluator
from jobs.control import Control
from jobs.models import Job
from neatveil.delivery import Proof, add_to_hash_list, prove, remove_parts, write_clip
from neatveil.delivery.proof_pictures import ProofShown, proof_png
from neatveil.errors import ValueRefused
from neatveil.frame_list import parse_frames

from deliveries.models import Delivery
from deliveries.places import format_of_delivery, proof_files, taken_of, target_of


def finish(job: Job, control: Control) -> None:
    """Prove it, keep the proof in the row, and lay it and the list of hashes beside the files."""
    delivery = Delivery.objects.get(job=job)
    remove_parts(target_of(delivery))
    taken = taken_of(delivery)
    places = taken.places
    proof = prove(
        taken.source(evaluator()), decoder(), format_of_delivery(delivery), target_of(delivery),
        taken.numbers, Fraction(delivery.rate), loss_accepted=delivery.loss_accepted,
        progress=lambda number: control.frames_checked(places[number]), cancelled=control.cancelled,
    )  # fmt: skip
    _write_beside(delivery, proof)
    Delivery.objects.filter(pk=delivery.pk).update(proof=proof.model_dump(mode="json"))


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
