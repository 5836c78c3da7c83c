## Where British English differs.

deed-look-oil = Look at the pump's oil: its level, its colour
