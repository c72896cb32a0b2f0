"""Lines of a text."""


def first_line(text: str) -> str:
    """The first line that says something, without the blanks around it; empty where none does."""
    return next((line.strip() for line in text.splitlines() if line.strip()), "")
