# name-twice
sacks = 0
board("Sacks", sacks)


@on(pressed("space"))
def sacks():
    global sacks
    sacks += 1
    board("Sacks", sacks)
