"""Quotations that are out of copyright."""
