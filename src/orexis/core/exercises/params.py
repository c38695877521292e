"""The parameters of an exercise type: what may be asked, within what bounds, and how text becomes a value."""

from collections.abc import Mapping
from dataclasses import dataclass

from orexis.core.instruments import Fingering, Instrument, parse_fingering, seven_fingerings
from orexis.core.messages import tell
from orexis.core.theory import Pitch, parse_pitch
from orexis.errors import ExerciseError

ALL_FINGERINGS, FEW_FINGERINGS = "all", "few"
_FEW = 3  # the open instrument and two fingerings: enough for a first round


# Choices that the record keeps by other words.
_READ_AS = {
    "longest tube": "longest tubing",
    "shortest tube": "shortest tubing",
    "as usual": "usual fingering",
    "by hand": "choose below",
    "by the gate": "semitone by semitone",
    "a plain note": "plain",
    "ease": "get softer",
    "grow": "get louder",
    "even": "stay even",
}


@dataclass(frozen=True, slots=True)
class Param:
    """One parameter, and its choices as they are read (`words`, in the order of their ids). `kind` is "int", "pitch" (concert name), "fingering", "choice", or "ways": notes with their fingerings, as `taking` reads them."""

    key: str
    label: str
    kind: str
    default: str
    low: int = 0
    high: int = 0
    choices: tuple[str, ...] = ()
    words: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        object.__setattr__(self, "words", tuple(_READ_AS.get(item, item) for item in self.choices))


def note(key: str, label: str, default: Pitch) -> Param:
    """Return the declaration of a parameter that is a concert pitch."""
    return Param(key, label, "pitch", default.name)


def count(key: str, label: str, default: int, low: int, high: int) -> Param:
    """Return the declaration of a parameter that is a whole number within bounds."""
    return Param(key, label, "int", str(default), low, high)


def tempo(default: int, low: int = 40, high: int = 200) -> Param:
    """Return the declaration of the tempo, in beats a minute."""
    return count("tempo", "Tempo, beats a minute", default, low, high)


def choice(key: str, label: str, *choices: str) -> Param:
    """One of several words, the first by default."""
    return Param(key, label, "choice", choices[0], choices=choices)


def going_up() -> Param:
    """What loudness does with the height."""
    return choice("loudness", "Volume going up", "grow", "even", "ease")


def begins() -> Param:
    """Return the parameter for the dynamic at which a line begins."""
    return choice("begins", "Start", "medium", "as soft as can be")


def fingerings() -> Param:
    """A single fingering, the three shortest, or the seven in turn."""
    return Param("fingering", "Fingerings", "fingering", "all")


class Values:
    """Parameter values read against their specification; a misspelt key is an error."""

    def __init__(self, instrument: Instrument, specs: tuple[Param, ...], given: Mapping[str, str]) -> None:
        self._instrument = instrument
        self._specs = {spec.key: spec for spec in specs}
        unknown = sorted(set(given) - set(self._specs))
        if unknown:
            raise ExerciseError(
                tell(
                    "“{unknown}” is no parameter here: there are {specs}.",
                    unknown=unknown[0][:30],
                    specs=", ".join(self._specs),
                )
            )
        self._texts = {key: str(given.get(key, spec.default)) for key, spec in self._specs.items()}

    def has(self, key: str) -> bool:
        """Whether there is such a parameter here."""
        return key in self._specs

    def integer(self, key: str) -> int:
        """A whole number within its bounds."""
        spec, text = self._specs[key], self._texts[key]
        try:
            value = int(text)
        except ValueError:
            raise ExerciseError(
                tell("{spec} is “{text}”: write a whole number.", spec=spec.label, text=text[:20])
            ) from None
        if not spec.low <= value <= spec.high:
            raise ExerciseError(
                tell(
                    "{spec} is {value}: choose {low} to {high}.",
                    spec=spec.label,
                    value=value,
                    low=spec.low,
                    high=spec.high,
                )
            )
        return value

    def choice(self, key: str) -> str:
        """Return the word that was chosen; ExerciseError for one that is not listed."""
        spec, text = self._specs[key], self._texts[key]
        if text not in spec.choices:
            raise ExerciseError(
                tell(
                    "{spec} is “{text}”: choose {choices}.",
                    spec=spec.label,
                    text=text[:20],
                    choices=", ".join(spec.choices),
                )
            )
        return text

    def text(self, key: str) -> str:
        """Return a parameter as it was given, or its default."""
        return self._texts[key]

    def pitch(self, key: str) -> Pitch:
        """Return a parameter as a concert pitch; PitchError where it is none."""
        return parse_pitch(self._texts[key])

    def fingerings(self, key: str) -> tuple[Fingering, ...]:
        """The fingering that is named, the three shortest for "few", the seven in turn for "all"."""
        text = self._texts[key]
        if text in (ALL_FINGERINGS, FEW_FINGERINGS):
            return seven_fingerings(self._instrument)[: None if text == ALL_FINGERINGS else _FEW]
        return (parse_fingering(self._instrument, text),)
