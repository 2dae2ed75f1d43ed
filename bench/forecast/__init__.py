"""The forecast against rigs with a known truth that the core never sees."""
