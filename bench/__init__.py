"""The budgets, each measured as a ratio in one run."""
