"""What is said when something can't be done or taken, by its code. The one place with its words."""

from menudo.base.refusals.automatic import AUTOMATIC
from menudo.base.refusals.brands import BRANDS
from menudo.base.refusals.posts import POSTS
from menudo.base.sentences import Template

SENTENCES: dict[str, Template] = {**POSTS, **AUTOMATIC, **BRANDS}
