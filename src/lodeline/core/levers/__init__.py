"""Levers: what a crew can do to stay longer, what each brings the whole rig, and the fewest that reach a day."""
