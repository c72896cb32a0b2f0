"""Choices that follow from a seed alone: the same seed chooses the same, here and on any machine."""

from collections.abc import Sequence
from hashlib import sha256
from typing import TypeVar

T = TypeVar("T")


class Choices:
    """One after another, each from the seed and how many were made before. No dice are thrown."""

    def __init__(self, seed: int) -> None:
        self._seed = seed
        self._made = 0

    def below(self, count: int) -> int:
        """A number from 0 to `count` - 1."""
        self._made += 1
        return int.from_bytes(sha256(f"{self._seed}:{self._made}".encode()).digest()[:8]) % count

    def pick(self, options: Sequence[T]) -> T:
        return options[self.below(len(options))]

    def sample(self, options: Sequence[T], count: int) -> list[T]:
        """`count` of them, each once, in an order of their own."""
        left = list(options)
        return [left.pop(self.below(len(left))) for _ in range(min(count, len(left)))]
