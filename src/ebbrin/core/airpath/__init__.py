"""Air from the grille to the back of the core: fan, shroud, front end, and their balance."""
