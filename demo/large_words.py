"""What the large office's posts say: sentences put together from a market's words."""

import random

SIGNS = (
    "Aldaba", "Breva", "Candil", "Dedal", "Espiga", "Fragua", "Gubia", "Hinojo", "Jarana", "Lumbre", "Membrillo", "Noria",
    "Olivo", "Pandero", "Quesera", "Romero", "Salitre", "Tahona", "Ubrique", "Vencejo", "Yunque", "Zaguan",
)  # fmt: skip # a list of names
_WHAT = (
    "apricots", "blue cheese", "chestnuts", "dried figs", "eel", "flat bread", "goat's milk", "honey", "ice", "jam", "kale",
    "lemons", "mussels", "nettle soup", "onions", "pears", "quince", "rye", "salt cod", "tomatoes", "vinegar", "walnuts",
)  # fmt: skip # a list of words
_HOW = (
    "from the upper valley", "of this morning", "at half the price", "while it lasts", "for the whole street", "with the rind on",
    "still warm", "by the kilo", "by the dozen", "as grandmother had it", "until the bell rings", "with a recipe to take home",
)  # fmt: skip # a list of words
_WHO = (
    "We have",
    "Come for",
    "Today:",
    "On the counter:",
    "New at the stall:",
    "Last of the season:",
    "Ask us about",
    "Try the",
)
_END = (
    "See you at the market.",
    "Open until two.",
    "Bring a bag.",
    "The kettle is on.",
    "Rain or shine.",
    "Ask for Marta.",
)


def write_text(dice: random.Random, number: int) -> str:
    """A post of two to five sentences; few are alike."""
    lines = [f"{dice.choice(_WHO)} {dice.choice(_WHAT)} {dice.choice(_HOW)}." for _ in range(dice.randrange(1, 4))]
    return f"{' '.join(lines)} {dice.choice(_END)} No. {number} #{dice.choice(SIGNS).lower()}"
