"""What services hand to each other and to pages: frozen values without a way to the database."""
