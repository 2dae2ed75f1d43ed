"""Stops: crews that live by the plan against crews that do not, and what a plan costs in time."""
