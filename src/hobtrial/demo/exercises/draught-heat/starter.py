heat = 100
logs = 0
specks = 0
