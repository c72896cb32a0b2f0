"""What can be done to rotas."""
