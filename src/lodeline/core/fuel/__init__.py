"""Gas, heat and fuel: what burns, how cold the rig gets, what is in each bottle, what must stay in the tank."""
