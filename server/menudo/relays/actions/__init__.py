"""What can be done to relays."""
