"""Facts to sentences, in the user's own units: one module a view. Nothing else makes words."""
