"""Tables, their migrations, and the open database with its transactions."""
