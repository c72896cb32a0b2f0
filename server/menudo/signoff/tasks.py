"""Background jobs: each a thin call of an action."""

from menudo.notices.periodic import EACH_MINUTE, register_periodic
from menudo.signoff.actions.recheck_held import recheck_held
from menudo.signoff.actions.recheck_rules import recheck_rules
from menudo.signoff.actions.save_rules import RECHECK
from menudo.signoff.actions.send_reminders import send_reminders

# What is held for no reason any more, and what should have been answered by now and isn't.
register_periodic("look_again_at_signoff", "*/5 * * * *", recheck_held)
# What a program that died left of it; its own job comes with the rules.
register_periodic(RECHECK, EACH_MINUTE, recheck_rules)
register_periodic("remind_signers", "*/5 * * * *", send_reminders)
