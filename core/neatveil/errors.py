"""Errors that say what was expected, what came, where, and what to do.

Every error that a person may meet is a `NeatVeilError` with a code. The code travels unchanged
through the command line and the API to the screen.
"""

from __future__ import annotations


class NeatVeilError(Exception):
    """Base of all errors a person may meet.

    Parameters
    ----------
    message : what happened and to which file or layer; one sentence.
    advice : what to do about it; one sentence, may be empty.
    where : file, layer or field concerned; may be empty.
    """

    code = "error"

    def __init__(self, message: str, *, advice: str = "", where: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.advice = advice
        self.where = where

    def __str__(self) -> str:
        return f"{self.message} {self.advice}".strip()

    def __reduce__(self) -> tuple[object, ...]:
        return (_rebuild, (type(self), self.message, self.advice, self.where))


def _rebuild(cls: type[NeatVeilError], message: str, advice: str, where: str) -> NeatVeilError:
    return cls(message, advice=advice, where=where)


class FileMissing(NeatVeilError):
    code = "file-missing"


class FileEmpty(NeatVeilError):
    code = "file-empty"


class FormatUnknown(NeatVeilError):
    code = "format-unknown"


class FileDamaged(NeatVeilError):
    code = "file-damaged"


class FileRefused(NeatVeilError):
    """A file that could do harm or draw on what is not its own."""

    code = "file-refused"


class PictureTooLarge(NeatVeilError):
    code = "picture-too-large"


class FrameMissing(NeatVeilError):
    code = "frame-missing"


class RateMissing(NeatVeilError):
    code = "rate-missing"


class DecoderFailed(NeatVeilError):
    """The decoding process crashed or ran over its time or memory."""

    code = "decoder-failed"


class NameUnknown(NeatVeilError):
    """A name that is in none of the tables; the message lists the valid ones."""

    code = "name-unknown"


class ValueRefused(NeatVeilError):
    code = "value-refused"


class DocumentRefused(NeatVeilError):
    code = "document-refused"


class SceneRefused(NeatVeilError):
    """A scene that cannot be read or rendered; ``where`` names the file, node or mesh."""

    code = "scene-refused"


class CannotHoldAlpha(NeatVeilError):
    code = "cannot-hold-alpha"


class CannotHoldLayers(NeatVeilError):
    code = "cannot-hold-layers"


class WouldLose(NeatVeilError):
    """Something that the chosen format cannot hold; asked about before it is ordered."""

    code = "would-lose"


class WriteFailed(NeatVeilError):
    code = "write-failed"


class DiskFull(WriteFailed):
    code = "disk-full"


class Cancelled(NeatVeilError):
    code = "cancelled"


def unknown_name(kind: str, name: object, valid: list[str]) -> NameUnknown:
    """An error that quotes the name that came and lists the names that would do."""
    return NameUnknown(f"There is no {kind} named {name!r}.", advice=f"Valid: {', '.join(sorted(valid))}.")


def describe(error: NeatVeilError) -> dict[str, str]:
    """An error as plain data, the same everywhere; `told_again` is the way back."""
    return {"code": error.code, "message": error.message, "advice": error.advice, "where": error.where}


def told_again(row: dict[str, str], otherwise: type[NeatVeilError]) -> NeatVeilError:
    """An error that another process told as plain data; of a kind by its code, if that is known here."""
    kinds = [c for c in globals().values() if isinstance(c, type) and issubclass(c, NeatVeilError)]
    kind = next((c for c in kinds if c.code == row["code"]), otherwise)
    return kind(row["message"], advice=row["advice"], where=row["where"])


class StepUnknown(NeatVeilError):
    code = "step-unknown"
