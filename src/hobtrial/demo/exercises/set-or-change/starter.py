height = 1
