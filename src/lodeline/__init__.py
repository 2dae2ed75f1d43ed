"""Lodeline: how long a rig can stay, and what sends it away."""

__version__ = "0.19.0"
