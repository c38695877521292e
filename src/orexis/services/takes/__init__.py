"""One take, one life: from its beginning, whatever brings its sound, to the record."""

from orexis.services.takes.life import Takes
from orexis.services.takes.open_take import MAX_BLOCK_SAMPLES, MAX_TAKE_S, OpenTake
from orexis.services.takes.values import LikeTake, ListedTake, Take

__all__ = ["MAX_BLOCK_SAMPLES", "MAX_TAKE_S", "LikeTake", "ListedTake", "OpenTake", "Take", "Takes"]
