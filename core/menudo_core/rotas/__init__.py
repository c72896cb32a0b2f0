"""Rotas: evergreen posts that take turns."""
