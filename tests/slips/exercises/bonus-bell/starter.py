score = 0


@on(frame)
def still_empty():
    board("Buns", 0)
