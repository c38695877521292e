"""Every error that Orexis raises on purpose.

    OrexisError
    |-- InputError              what came from outside cannot be used (HTTP 422)
    |   |-- PitchError          not a note name, or out of the range of hearing
    |   |-- InstrumentError           unknown instrument, or a note this instrument cannot play
    |   |-- ExerciseError         unknown exercise type, unknown or impossible parameter, broken exercise file
    |   |-- SoundError          unreadable, empty, over-long or over-wide sound
    |   `-- FlawError           a flaw the simulated player does not know
    |-- MissingError            nothing by that id (HTTP 404)
    |-- ConflictError           somebody else holds it, or the moment is wrong (HTTP 409)
    |   `-- CareError           the lips had better not: said once, and done when asked again
    |-- LockedError             a player's PIN was not given (HTTP 403)
    |-- TooManyError            attempts come too fast (HTTP 429)
    |-- BusyError               something else writes the record, or a worker died: to be tried again (HTTP 503)
    |-- StorageError            the disk is full or cannot be written (HTTP 507)
    |-- DamagedError            the database cannot be read as one (HTTP 503)
    `-- NewerDatabaseError      the data folder was written by a later release (HTTP 503)

Each message is one sentence for the screen and says the value, the limit and the remedy.
The status of each class is mapped in one place: orexis.api.errors.
"""


class OrexisError(Exception):
    """Base of all deliberate errors; the message is fit to be shown to the player."""


class InputError(OrexisError):
    """Something that came from outside cannot be used."""


class PitchError(InputError):
    """A note name that cannot be read."""


class InstrumentError(InputError):
    """An unknown instrument, or a note that the instrument cannot play."""


class ExerciseError(InputError):
    """An unknown exercise type, a wrong parameter or a broken exercise."""


class SoundError(InputError):
    """Sound that cannot be read or is out of bounds."""


class FlawError(InputError):
    """A flaw that the simulated player does not know."""


class MissingError(OrexisError):
    """Nothing is kept under this id."""


class ConflictError(OrexisError):
    """Another window holds the session, or the step is not possible now."""


class CareError(ConflictError):
    """The player had better not do it now; asked once more, it is done."""


class LockedError(OrexisError):
    """A player's PIN was not given in this window."""


class TooManyError(OrexisError):
    """Attempts to come in follow each other too fast."""


class BusyError(OrexisError):
    """It could not be done just now, and may be tried again."""


class DamagedError(OrexisError):
    """The database cannot be read as one."""


class StorageError(OrexisError):
    """The data folder cannot be written."""


class NewerDatabaseError(OrexisError):
    """The database was written by a later release."""
