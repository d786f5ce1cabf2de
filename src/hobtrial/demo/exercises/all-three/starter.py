lit = False
