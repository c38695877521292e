"""What there is to practise: figures looked at, heard, kept, read and written; the horn's chart."""
