@on(clicked(bellows))
def puff():
    tell("Pfff")


@on(frame)
def cold():
    oven.look = "oven"
