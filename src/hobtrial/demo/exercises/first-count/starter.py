# What must the hob remember, and when does it change?
