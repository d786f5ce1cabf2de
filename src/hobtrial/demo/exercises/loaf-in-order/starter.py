stage = 0


@on(pressed("space"))
def work():
    if hob.overlaps(bowl):
        tell("Kneading")
