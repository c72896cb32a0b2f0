"""The stand-in networks: a program of its own that speaks only the wire and judges for itself."""
