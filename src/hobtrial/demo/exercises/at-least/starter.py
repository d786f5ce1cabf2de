@on(clicked(bellows))
def puff():
    tell("Pfff")
