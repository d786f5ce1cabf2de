# never-set
board("Sacks", 0)


@on(pressed("space"))
def count():
    global sacks
    sacks += 1
    board("Sacks", sacks)
