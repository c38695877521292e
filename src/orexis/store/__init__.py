"""Tables, migrations, the open database."""
