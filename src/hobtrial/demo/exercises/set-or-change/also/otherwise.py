height = 1


def become(fingers):
    global height
    height = fingers
    board("Height", f"{height}")


become(height)


@on(every(1))
def rise():
    become(height + 1)


@on(pressed("w"), pressed("space"))
def key():
    become(height + 2 if is_down("w") else 1)
