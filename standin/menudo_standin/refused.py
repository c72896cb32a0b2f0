"""What a network says when it takes a post not."""


class Refused(Exception):
    """The network says no; the text is its reason."""
