"""Catalogues: things for sale or hire, and what happens to them."""
