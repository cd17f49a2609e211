from django.apps import AppConfig


class DeliveriesConfig(AppConfig):
    name = "deliveries"

    def ready(self) -> None:
        from jobs.kinds import JobKind, register

        from .actions.prove_delivery import finish
        from .actions.write_piece import KIND, QUEUE, run_piece

        register(JobKind(KIND, QUEUE, "Writing frames", "Proving the delivery", run_piece, finish))
