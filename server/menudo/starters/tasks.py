"""Background jobs: each a thin call of an action."""

from menudo.notices.periodic import register_periodic
from menudo.starters.actions.supply_starters import supply_all

# Those that are over go, and new ones come.
register_periodic("supply_starters", "7 * * * *", supply_all)
