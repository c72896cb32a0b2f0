"""What can be done to catalogues."""
