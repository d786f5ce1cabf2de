score = 0

# What happens when the hob meets a bun?


@on(pressed("space"))
def ring():
    tell("The bell is still silent")
