coins = 10
name = input("Your name?")
