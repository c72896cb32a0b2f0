"""Scraps that have made readers slow: each is repeated to the length that is taken."""

PREFIXES = ("", "http://a/", "#", "<a b='", "<script type='application/ld+json'>", '"', "<item><title>")
UNITS = (
    *(
        "http://a/)",
        "http://",
        "https://b.c/?x=",
        "www.a.com",
        "?a=b&",
        "a://",
        "@a@b.c",
        "#a",
        "##",
        "{a}",
        "{",
        "___",
    ),
    *(
        "<!--",
        "<a ",
        "<p>",
        "</p>",
        "<b><i>",
        "<script>",
        "<![CDATA[",
        "<html><![ x",
        "&",
        "&amp;",
        "&#",
        " a=b",
        "<item>",
    ),
    *("a. ", "a\n", "- a\n", "\r\n", "\n \n", "\t", " ", "…", "....", "!?", "日本。", "1. ", "1.", "A.", "e.g. "),
    *("é", "\u0301", "\u200d", "👍🏽", "ß", "ﬁ", "١", "\0", "\u202e", "’", "a-b", "a'b"),
    *("(", "[", "[[", '{"a":', "'", '"', '""', ";", ",", "=", "|", "%41", "\\", "/", "a,b\n", "+", "a;b"),
)
