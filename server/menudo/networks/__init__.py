"""The ways out to networks: the adapters, which network has which, sign-in, and the one client for all of them."""
