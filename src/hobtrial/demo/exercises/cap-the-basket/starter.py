# Two numbers: how many are in, and how many there is room for?
