"""Background jobs: each a thin call of an action."""

from menudo.notices.periodic import periodic
from menudo.starters.actions.supply import supply_all

# Those that are over go, and new ones come.
periodic("supply_starters", "7 * * * *", supply_all)
