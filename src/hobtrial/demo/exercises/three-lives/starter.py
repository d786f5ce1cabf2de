lives = 3
