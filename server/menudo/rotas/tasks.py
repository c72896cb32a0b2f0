"""Background jobs: each a thin call of an action."""

from menudo.notices.periodic import register_periodic
from menudo.rotas.actions.fill_rota import fill_all_rotas

# Posts of the turns whose slots are near.
register_periodic("carry_out_rotas", "*/10 * * * *", fill_all_rotas)
