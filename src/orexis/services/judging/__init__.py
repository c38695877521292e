"""A take judged: by which sound it is compared, what follows from measures and verdict, how fresh the lips are."""
