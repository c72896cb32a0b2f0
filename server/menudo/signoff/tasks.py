"""Background jobs: each a thin call of an action."""

from menudo.notices.periodic import periodic
from menudo.signoff.actions.look_again import look_again
from menudo.signoff.actions.remind import remind

# What is held for no reason any more, and what should have been answered by now and isn't.
periodic("look_again_at_signoff", "*/5 * * * *", look_again)
periodic("remind_signers", "*/5 * * * *", remind)
