"""What a network says when it takes a post not."""


class RefusedError(Exception):
    """The network says no; the text is its reason."""
