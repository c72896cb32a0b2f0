"""Background jobs: each a thin call of an action."""

from menudo.notices.periodic import periodic
from menudo.rotas.actions.carry_out import carry_out_all

# Posts of the turns whose slots are near.
periodic("carry_out_rotas", "*/10 * * * *", carry_out_all)
