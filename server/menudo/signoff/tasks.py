"""Background jobs: each a thin call of an action."""

from menudo.notices.periodic import register_periodic
from menudo.signoff.actions.recheck_held import recheck_held
from menudo.signoff.actions.send_reminders import send_reminders

# What is held for no reason any more, and what should have been answered by now and isn't.
register_periodic("look_again_at_signoff", "*/5 * * * *", recheck_held)
register_periodic("remind_signers", "*/5 * * * *", send_reminders)
