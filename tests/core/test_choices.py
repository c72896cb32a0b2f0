"""Choices from a seed: known in advance, the same on every machine."""

from hashlib import sha256

from menudo_core.choices import Choices


def test_choices_are_the_first_eight_bytes_of_the_digest_of_seed_and_turn():
    """SHA-256 as FIPS 180-4 has it, by hashlib; how the number is made of it is Menudo's own."""
    turns = [int.from_bytes(sha256(f"7:{turn}".encode()).digest()[:8], "big") for turn in (1, 2, 3)]
    choices = Choices(7)
    assert [choices.below(10), choices.below(1000), choices.below(3)] == [
        turns[0] % 10,
        turns[1] % 1000,
        turns[2] % 3,
    ]


def test_a_sample_has_each_once_and_no_more_than_there_are():
    assert sorted(Choices(2).sample("abc", 9)) == ["a", "b", "c"] and len(Choices(2).sample("abc", 2)) == 2
    assert Choices(1).sample("abcd", 3) == ["d", "b", "c"], "3 of 4, 3 of 3, 1 of 2 left"
