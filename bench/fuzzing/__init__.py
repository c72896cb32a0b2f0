"""What others can send or have read, and how long the worst of it takes."""
