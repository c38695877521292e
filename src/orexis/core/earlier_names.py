"""Names of earlier releases in stored and exported JSON, brought up to those of today.

Until 2026 measures and reasons had names of their own making (sag, centre, entry); since then those of the trade. What is said in free
text is never touched: only keys, and values under keys that hold names. Names of today stay as they are, so that it may be done twice.
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

_VALUES = {"reason": REASONS, "outcome": OUTCOMES, "stage": STANDARDS, "standard": STANDARDS, "measure": MEASURES}
_LISTS = {"outcomes": OUTCOMES, "judged": MEASURES, "skipped": MEASURES}
_KEYS = {"reasons": REASONS, "limits": FIELDS, "own_limits": FIELDS, "unmeasured": FIELDS}


def with_names_of_today(value: Any) -> Any:
    """A JSON value of an earlier release with the names of today, all the way down."""
    if isinstance(value, list):
        return [with_names_of_today(item) for item in value]
    if not isinstance(value, dict):
        return value
    return {FIELDS.get(key, key): _brought_up(key, item) for key, item in value.items()}


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
    return with_names_of_today(value)
