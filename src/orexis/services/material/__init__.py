"""What there is to practise: exercises looked at, heard, kept, read and written; the instrument's chart."""
