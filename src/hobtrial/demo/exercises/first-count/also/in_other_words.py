board("Sacks", 0)
sacks = 0


@on(pressed("space"))
def count():
    global sacks
    sacks += 1
    board("Sacks", sacks)
