"""The computation. Values and functions: no Django, no files, no clock, no global state.

Base units throughout: Wh, Ah, V, W, L, kg, h, km, degrees Celsius, fractions.
"""
