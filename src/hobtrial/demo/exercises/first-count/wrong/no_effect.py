# no-effect
sacks = 0
board("Sacks", sacks)


@on(pressed("space"))
def count():
    global sacks
    sacks + 1
    board("Sacks", sacks)
