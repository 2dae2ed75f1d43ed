"""Water and waste: what it is used for, where it goes, a ration, jugs, care, frost, toilets."""
