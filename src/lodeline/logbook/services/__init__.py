"""The only code that turns rows into core types and back, and the only code that writes them."""
