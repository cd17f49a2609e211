"""The proof: every written file is opened again and compared with the comp."""

from __future__ import annotations

import json
from fractions import Fraction

from config.engine import decoder, evaluator
from jobs.control import Control
from jobs.models import Job
from neatveil.delivery import Proof, prove, remove_parts

from deliveries.models import Delivery
from deliveries.places import format_of_delivery, proof_files, taken_of, target_of


def finish(job: Job, control: Control) -> None:
    """Prove it, keep the proof in the row, and lay it and the list of hashes beside the files."""
    delivery = Delivery.objects.get(job=job)
    remove_parts(target_of(delivery))
    taken = taken_of(delivery)
    places = {number: place for place, number in enumerate(taken.numbers, 1)}
    proof = prove(
        taken.source(evaluator()), decoder(), format_of_delivery(delivery), target_of(delivery),
        taken.numbers, Fraction(delivery.rate), loss_accepted=delivery.loss_accepted,
        progress=lambda number: control.frames_checked(places[number]), cancelled=control.cancelled,
    )  # fmt: skip
    _write_beside(delivery, proof)
    Delivery.objects.filter(pk=delivery.pk).update(proof=proof.model_dump(mode="json"))


def _write_beside(delivery: Delivery, proof: Proof) -> None:
    """The open form: JSON, and lines of hash and name as checksum programs read them."""
    as_json, hashes = proof_files(delivery)
    as_json.write_text(json.dumps({**proof.model_dump(mode="json"), "good": proof.good}, indent=2))
    hashes.write_text("".join(f"{h}  {n}\n" for n, h in proof.hashes.items()), "utf-8")
