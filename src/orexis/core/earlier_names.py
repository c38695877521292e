"""Names of earlier releases in stored and exported JSON, brought up to those of today.

Two renames lie behind: measures and reasons once had names of their own making (sag, centre, entry), then instruments, exercises and
fingerings (horn, figure, tube). What is said in free text is never touched: only keys, and values under keys that hold names. Names of
today stay as they are, so that it may be done twice.
"""

from collections.abc import Mapping
from typing import Any

FIELDS = {
    "centre_cents": "pitch_error_cents",
    "spread_cents": "pitch_wobble_cents",
    "sag_cents_s": "pitch_drift_cents_s",
    "sag_cents": "pitch_drift_cents",
    "entry_cents": "attack_error_cents",
    "entry_ms": "attack_settle_ms",
    "entry_area": "attack_error_cents_s",
    "wobble_hz": "pitch_wobble_rate_hz",
    "wobble_cents": "pitch_wobble_depth_cents",
    "level_wander_db": "level_wobble_db",
    "tone_db": "tone_to_noise_db",
    "brightness_hz": "spectral_centroid_hz",
    "horn_cents": "instrument_cents",
    "judged_cents": "judged_error_cents",
    "sound_match": "tone_match",
    "sound_across": "tone_match_across",
    "caught": "clipped_partials",
    "caught_ms": "clipped_partial_ms",
    "stage": "standard",
    "held": "clean",
    "held_days": "clean_days",
}
REASONS = {
    "sag": "pitch-drift",
    "centre": "pitch",
    "spread": "pitch-wobble",
    "entry": "attack",
    "caught": "clipped-partial",
    "level": "level-wobble",
    "sound-match": "tone-match",
    "sound-across": "tone-match-across",
    "breathy": "airy",
}
MEASURES = {
    "sag": "pitch_drift",
    "centre": "pitch",
    "spread": "pitch_wobble",
    "entry": "attack",
    "caught": "clipped_partial",
    "level": "level_wobble",
    "tone": "tone_clarity",
    "sound_match": "tone_match",
    "sound_across": "tone_match_across",
}
TRENDS = MEASURES | {"match": "tone_match", "wander": "level_wobble", "lean": "pitch_signed"}
OUTCOMES = {"held": "clean", "nearly": "close", "not yet": "not_yet", "not heard": "not_heard"}
STANDARDS = {"starting": "beginner", "growing": "developing", "secure": "advanced", "concert": "professional"}

# The second rename.
TERMS = {
    "horn": "instrument",
    "horn_id": "instrument_id",
    "figure": "exercise",
    "figures": "exercises",
    "figure_id": "exercise_id",
    "figure_index": "exercise_index",
    "figure_count": "exercise_count",
    "family": "exercise_type",
    "tube": "fingering",
    "tubes": "fingerings",
    "keep_tube": "keep_fingering",
    "rungs": "steps",
    "rung": "range_note",
    "lost_rung": "lost_note",
    "after-a-lost-rung": "after-a-lost-note",
    "owned_since": "in_range_since",
    "schools": "approaches",
    "aim": "target",
    "aims": "goals",
    "programme_id": "goal_id",
    "voice": "timbre",
    "hearing": "review_request",
}
TERM_VALUES = {
    "medium": {"horn": "instrument"},
    "state": {"owned": "in_range"},
    "kind": {"hearing": "review_request"},
}
TABLES = {
    "horns": "instruments",
    "figures": "exercises",
    "programmes": "goals",
    "programme_days": "goal_days",
    "parcels": "exchanges",
    "voices": "timbres",
    "rungs": "range_notes",
    "family_days": "exercise_type_days",
}
_PARTS = {"figure": "exercise", "aim": "goal"}  # of a lesson, as "figure 0"

_VALUES = {"reason": REASONS, "outcome": OUTCOMES, "stage": STANDARDS, "standard": STANDARDS, "measure": MEASURES}
_LISTS = {"outcomes": OUTCOMES, "judged": MEASURES, "skipped": MEASURES}
_KEYS = {"reasons": REASONS, "limits": FIELDS, "own_limits": FIELDS, "unmeasured": FIELDS}


def with_names_of_today(value: Any) -> Any:
    """Return a JSON value of an earlier release with the names of today, all the way down."""
    return with_terms_of_today(with_measures_of_today(value))


def with_measures_of_today(value: Any) -> Any:
    """Return it with measures, reasons and outcomes by today's names: the first rename."""
    if isinstance(value, list):
        return [with_measures_of_today(item) for item in value]
    if not isinstance(value, dict):
        return value
    return {FIELDS.get(key, key): _brought_up(key, item) for key, item in value.items()}


def with_terms_of_today(value: Any) -> Any:
    """Return it with instruments, exercises, fingerings and goals by today's names: the second rename."""
    if isinstance(value, list):
        return [with_terms_of_today(item) for item in value]
    if not isinstance(value, dict):
        return value
    return {TERMS.get(key, key): _term(key, item) for key, item in value.items()}


def lesson_part_of_today(part: str) -> str:
    """Return a part of a lesson by today's name: "figure 0" is "exercise 0"."""
    kind, space, number = part.partition(" ")
    return _PARTS.get(kind, kind) + space + number


def _term(key: str, value: Any) -> Any:
    if isinstance(value, str):
        return TERM_VALUES.get(key, {}).get(value, value)
    return with_terms_of_today(value)


def renamed_keys(value: Mapping[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """The same values by the names of today."""
    return {names.get(key, key): item for key, item in value.items()}


def trend_name(name: str) -> str:
    """A followed measure with its scope, by today's name: "sag@low" is "pitch_drift@low"."""
    measure, at, scope = name.partition("@")
    return TRENDS.get(measure, measure) + at + scope


def _brought_up(key: str, value: Any) -> Any:
    if key in _VALUES and isinstance(value, str):
        return _VALUES[key].get(value, value)
    if key in _LISTS and isinstance(value, list):
        return [_LISTS[key].get(item, item) if isinstance(item, str) else item for item in value]
    if key in _KEYS and isinstance(value, dict):
        return renamed_keys(value, _KEYS[key])
    if key == "values" and isinstance(value, dict):
        return {trend_name(name): item for name, item in value.items()}
    return with_measures_of_today(value)
