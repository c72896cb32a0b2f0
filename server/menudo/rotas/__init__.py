"""Rotas: evergreen posts that take turns in the slots kept for them."""
