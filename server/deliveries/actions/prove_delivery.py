"""The proof: every written file is opened again and compared with what was meant."""

from __future__ import annotations

import json
from fractions import Fraction

from config.events import announce
from config.trouble import as_problem
from django.db import transaction
from django.utils import timezone
from neatveil.delivery import Proof, prove, remove_parts
from neatveil.errors import Cancelled
from neatveil.evaluate import Evaluator

from deliveries.models import Delivery
from deliveries.places import form_of, proof_files, target_of

from .write_piece import _end_if_cancelled, _failed, asks_for_cancel, source_of


def prove_delivery(delivery_id: int, evaluator: Evaluator) -> None:
    """Prove it, keep the proof in the row, and lay it and the list of hashes beside the files."""
    with transaction.atomic():
        # A job put into the queue by another job may be seen before the state that it serves: the row is held
        # until that is written, so this waits for it.
        delivery = Delivery.objects.select_for_update().filter(pk=delivery_id).first()
    if delivery is None or delivery.state != Delivery.State.PROVING:
        return

    def progress(frame: int) -> None:
        Delivery.objects.filter(pk=delivery.pk).update(proved=frame - delivery.first + 1)
        announce(delivery.project_id, "deliveries", delivery.pk)

    remove_parts(target_of(delivery))
    try:
        proof = prove(
            source_of(delivery, evaluator), evaluator.decoder, form_of(delivery), target_of(delivery),
            list(range(delivery.first, delivery.last + 1)), Fraction(delivery.rate),
            loss_accepted=delivery.loss_accepted, progress=progress, cancelled=asks_for_cancel(delivery),
        )  # fmt: skip
        _lay_down(delivery, proof)
    except Cancelled:
        _end_if_cancelled(delivery)
        return
    except Exception as error:  # noqa: BLE001 - whatever it is, the row must end
        _failed(delivery, as_problem(error, "Proving the delivery"))
        return
    with transaction.atomic():
        Delivery.objects.filter(pk=delivery.pk, state=Delivery.State.PROVING).update(
            state=Delivery.State.DONE, proof=proof.model_dump(mode="json"), ended=timezone.now(),
            proved=delivery.count,
        )  # fmt: skip
        announce(delivery.project_id, "deliveries", delivery.pk)


def _lay_down(delivery: Delivery, proof: Proof) -> None:
    """The open form: JSON, and lines of hash and name as checksum programs read them."""
    as_json, hashes = proof_files(delivery)
    as_json.write_text(json.dumps({**proof.model_dump(mode="json"), "good": proof.good}, indent=2))
    hashes.write_text("".join(f"{h}  {n}\n" for n, h in proof.hashes.items()), "utf-8")
