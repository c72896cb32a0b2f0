"""What the built-in writer knows of English. Our own lists: common practice, no published source."""

CONTRACTIONS = {
    "can't": "cannot", "won't": "will not", "don't": "do not", "doesn't": "does not", "didn't": "did not",
    "isn't": "is not", "aren't": "are not", "wasn't": "was not", "weren't": "were not", "haven't": "have not",
    "hasn't": "has not", "couldn't": "could not", "shouldn't": "should not", "wouldn't": "would not",
    "we're": "we are", "we've": "we have", "we'll": "we will", "you're": "you are", "you've": "you have",
    "you'll": "you will", "they're": "they are", "it's": "it is", "that's": "that is", "there's": "there is",
    "here's": "here is", "what's": "what is", "let's": "let us", "i'm": "I am", "i've": "I have", "i'll": "I will",
}  # fmt: skip # a table: a row to a line
FORMAL = {
    "get": "obtain", "got": "received", "lots of": "many", "a lot of": "much", "kids": "children", "folks": "visitors",
    "check out": "see", "show up": "attend", "drop by": "visit", "come along": "join us", "hi": "Good day",
    "hello": "Good day", "hey": "Good day", "thanks": "thank you", "ask for": "request", "need": "require",
    "start": "begin", "help": "assist", "buy": "purchase", "about": "regarding", "big": "considerable", "free": "free of charge",
}  # fmt: skip # a table: a row to a line
PLAIN = {
    "utilise": "use", "utilize": "use", "purchase": "buy", "obtain": "get", "commence": "start", "terminate": "end",
    "assistance": "help", "assist": "help", "require": "need", "approximately": "about", "regarding": "about",
    "prior to": "before", "subsequent to": "after", "in order to": "to", "due to the fact that": "because",
    "at this point in time": "now", "a number of": "some", "the majority of": "most", "in the event that": "if",
    "additional": "more", "numerous": "many", "sufficient": "enough", "demonstrate": "show", "endeavour": "try",
    "facilitate": "help", "individuals": "people", "attend": "come to", "complimentary": "free", "free of charge": "free",
    "considerable": "large", "inquire": "ask", "enquire": "ask", "provide": "give", "located": "found", "premises": "place",
}  # fmt: skip # a table: a row to a line
ALIKE = {
    "new": ("fresh", "just in"), "today": ("this very day", "now"), "come": ("drop in", "join us"), "see": ("look at", "find"),
    "look": ("see", "take a look"), "beautiful": ("lovely", "fine"), "great": ("fine", "good"), "find": ("discover", "see"),
    "small": ("little", "modest"), "big": ("large", "grand"), "every": ("each", "every single"), "begin": ("start", "set out"),
    "start": ("begin", "open"), "bring": ("take along", "carry"), "show": ("present", "reveal"), "learn": ("find out", "hear"),
    "join": ("be with", "come to"), "enjoy": ("savour", "take in"), "open": ("ready for you", "open"),
}  # fmt: skip # a table: a row to a line
FILLERS = (
    "really", "very", "just", "actually", "basically", "quite", "simply", "truly", "literally", "absolutely", "of course",
    "as you know", "in fact", "needless to say",
)  # fmt: skip # a table: a row to a line
OPENINGS = ("Did you know? {text}", "Worth a look: {text}", "From {brand}: {text}", "A note for your week: {text}")
CLOSINGS = (
    "What would you like to know about it? Ask us.",
    "Tell us what you think.",
    "Pass it on to someone who would like it.",
    "We are glad to answer questions.",
)
SALES = ("See you soon.", "Come and see for yourself.", "Secure yours today.", "Be quick: when it is gone, it is gone.")
PICTURES = {
    "garden": "🌿", "plant": "🌱", "flower": "🌼", "tree": "🌳", "moss": "🌿", "seed": "🌱", "bread": "🍞", "loaf": "🥖",
    "cake": "🍰", "coffee": "☕", "star": "✨", "moon": "🌙", "night": "🌌", "sky": "🌌", "talk": "🎤", "walk": "🥾",
    "winter": "❄️", "summer": "☀️", "autumn": "🍂", "spring": "🌷", "book": "📖", "music": "🎶", "open": "🚪", "new": "🆕",
}  # fmt: skip # a table: a row to a line
